import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import { DataSource } from 'typeorm';
import { Clock } from '../storage/clock.ts';
import { LockConnections } from '../storage/lock-connections.ts';
import { privateDatabase, type PrivateDatabase } from '../testing/private-postgres.ts';
import { LineTurns, type Purpose } from './line-turns.ts';

let database: PrivateDatabase;
const sources: DataSource[] = [];
const connections: LockConnections[] = [];
const clock = new Clock();
/** Turns as two server processes have them. */
let one: LineTurns;
let other: LineTurns;

beforeAll(async () => {
  database = await privateDatabase();
  for (let at = 0; at < 2; at += 1) {
    const source = await new DataSource({ type: 'postgres', url: database.url }).initialize();
    sources.push(source);
    connections.push(new LockConnections(source));
  }
  [one, other] = connections.map((each) => new LineTurns(each, clock)) as [LineTurns, LineTurns];
});
afterAll(async () => {
  for (const each of connections) await each.onApplicationShutdown();
  for (const each of sources) await each.destroy();
  await database.drop();
});

/** Other suites share the cluster: their locks are none of ours. */
const HERE = 'database = (select oid from pg_database where datname = current_database())';

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function hold<T>(turns: LineTurns, line: string, purpose: Purpose, work: () => Promise<T>): Promise<T> {
  const turn = await turns.take(line, purpose);
  try {
    return await work();
  } finally {
    await turn.release();
  }
}

describe('a line held for one unit after another', () => {
  it.each([
    ['another process', () => other],
    ['somebody in the same process', () => one],
  ])('goes to %s that waits, between two units, and comes back', async (_, waiter) => {
    const told: string[] = [];
    let waiting: Promise<void> | undefined;
    const pieces = ['1', '2', '3', '4', '5', '6', '7'];
    await one.forEach('line', 'round', pieces, async (piece) => {
      told.push(`${piece} begins`);
      waiting ??= hold(waiter(), 'line', 'look', () => {
        told.push('other');
        return Promise.resolve();
      });
      await pause(60);
      told.push(`${piece} ends`);
    });
    await waiting;
    const at = told.indexOf('other');
    expect(at).toBeGreaterThan(0);
    expect(at).toBeLessThan(told.length - 1);
    // Never in the middle of a unit.
    expect(told[at - 1]).toMatch(/ends$/);
    expect(told.filter((each) => each !== 'other')).toEqual(
      pieces.flatMap((piece) => [`${piece} begins`, `${piece} ends`]),
    );
  });

  it('is given back when a unit ends in an error, and does not stop another line', async () => {
    const broken = one.forEach('line', 'round', [1], () => Promise.reject(new Error('made up')));
    await expect(broken).rejects.toThrow('made up');
    await one.forEach('line', 'round', [1], () =>
      hold(other, 'another line', 'round', () => Promise.resolve()),
    );
  });
});

describe('those who wait for a line', () => {
  it('get it by urgency, a write before those who look, and these before rounds', async () => {
    const told: string[] = [];
    const first = await one.take('line', 'look');
    const waiting = (['round', 'look', 'look', 'write'] as const).map((purpose) =>
      hold(one, 'line', purpose, () => {
        told.push(purpose);
        return Promise.resolve();
      }),
    );
    await pause(50);
    await first.release();
    await Promise.all(waiting);
    expect(told).toEqual(['write', 'look', 'look', 'round']);
  });

  it('are told how long they waited, by the clock', async () => {
    const first = await one.take('line', 'look');
    const later = one.take('line', 'write');
    await pause(50);
    const moved = jest.spyOn(clock, 'now').mockReturnValue(new Date(Date.now() + 90_000));
    await first.release();
    const turn = await later;
    moved.mockRestore();
    expect(Math.round(turn.waitedMs / 1000)).toBe(90);
    await turn.release();
  });

  it('hold no more connections than lines may be at work, however many lines there are', async () => {
    const lines = Array.from({ length: 120 }, (_, at) => `line ${at}`);
    let most = 0;
    const count = async () => {
      const rows = await sources[1]?.query<{ count: string }[]>(
        `select count(*) from pg_locks where locktype = 'advisory' and ${HERE}`,
      );
      most = Math.max(most, Number(rows?.[0]?.count ?? 0));
    };
    await Promise.all(
      lines.map((line) =>
        hold(one, line, 'round', async () => {
          await count();
          await pause(5);
        }),
      ),
    );
    expect(most).toBeGreaterThan(4);
    expect(most).toBeLessThanOrEqual(12);
  });

  it('learn that their hold is lost when the database was gone', async () => {
    const turn = await one.take('line', 'write');
    await sources[1]?.query(
      `select pg_terminate_backend(pid) from pg_locks
        where locktype = 'advisory' and ${HERE} and pid <> pg_backend_pid()`,
    );
    for (let tries = 0; tries < 100 && !turn.lost; tries += 1) await pause(20);
    expect(turn.lost).toBe(true);
    await turn.release();
    await hold(one, 'line', 'write', () => Promise.resolve());
  });
});
