import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { DataSource } from 'typeorm';
import { privateDatabase, type PrivateDatabase } from '../testing/private-postgres.ts';
import { LineLock } from './line-lock.ts';

let database: PrivateDatabase;
let one: DataSource;
let other: DataSource;

beforeAll(async () => {
  database = await privateDatabase();
  [one, other] = (await Promise.all(
    [0, 1].map(() => new DataSource({ type: 'postgres', url: database.url }).initialize()),
  )) as [DataSource, DataSource];
});
afterAll(async () => {
  await one.destroy();
  await other.destroy();
  await database.drop();
});

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

describe('a line held for one unit after another', () => {
  it('goes to another process that waits, between two units, and comes back', async () => {
    const told: string[] = [];
    let waiting: Promise<void> | undefined;
    const pieces = ['1', '2', '3', '4', '5', '6', '7'];
    await new LineLock(one).holdForEach('line', pieces, async (piece) => {
      told.push(`${piece} begins`);
      waiting ??= new LineLock(other).hold('line', () => {
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
    const broken = new LineLock(one).holdForEach('line', [1], () => Promise.reject(new Error('made up')));
    await expect(broken).rejects.toThrow('made up');
    await new LineLock(one).holdForEach('line', [1], () =>
      new LineLock(other).hold('another line', () => Promise.resolve()),
    );
  });
});
