// Twenty thousand strange requests to every route by an engineer: each gets an answer that says what is wrong with it, and the
// server never says that the fault was its own.

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { HistoryView, Problem, RegisterPage } from '@drive-keep/api';
import { RunningPlant, type Caller } from './running-plant.ts';
import { operationsOf, StrangeRequests, type Operation } from './strange-requests.ts';

const REQUESTS = 20_000;
const AT_ONCE = 8;
/** A unit that does not answer, and a server that has enough to do, are no faults of its own. */
const EXPECTED = [502, 503];
/** Each of these is work of its own: once in a while is enough. */
const HEAVY = [
  'POST integrity',
  'GET positions/{tag}/live',
  'GET positions/{tag}/now',
  'POST backups',
  'POST scans',
  'GET jobs/{id}/events',
  'POST lines/try',
  'POST registers/read',
  'POST registers/search',
  'POST people',
  'POST people/{id}/password',
  'GET labels',
  'GET plant-list',
];
const HEAVY_PAPERS = /-record$/;

let plant: RunningPlant;
let engineer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
  // No search of a line and no silent unit holds the others up.
  for (const line of plant.plant.lines.values()) line.delayMs = 0;
});
afterAll(() => plant.stop());

async function whatIsThere(): Promise<readonly string[]> {
  const { positions } = (await engineer.get<RegisterPage>('register')).body;
  const { body } = await engineer.get<HistoryView>('positions/KL1-RD-07/history');
  return [
    ...positions.map(({ tag }) => tag).slice(0, 12),
    ...body.backups.slice(-4).map(({ id }) => id),
    ...body.backups.slice(-2).map(({ id }) => `backup:${id}`),
    ...[
      'baseline',
      'baseline:2',
      'newest',
      'default',
      'halvern-hn64@1',
      'toreka-c1@1',
      '01R',
      '02P',
      'Kiln 1',
    ],
    ...['put-back', 'tolerate', '2027-01-31', 'gateway-1', '50-hz', 'HN64-15', 'csv', 'yes', 'reason enough'],
  ];
}

describe('strange requests', () => {
  it('to every route are answered with what is wrong with them', async () => {
    const { body: description } = await engineer.get<Parameters<typeof operationsOf>[0]>('openapi.json');
    const operations = operationsOf(description).filter(
      ({ method, path }) => !(method === 'DELETE' && path === 'session') && path !== 'session/password',
    );
    const strange = new StrangeRequests(description, await whatIsThere(), 20_261_126);
    const faults: string[] = [];
    const counts = new Map<number, number>();
    let sent = 0;
    const one = async (operation: Operation): Promise<void> => {
      const request = strange.of(operation);
      const { status, detail } = await send(request);
      counts.set(status, (counts.get(status) ?? 0) + 1);
      if (status >= 500 && !EXPECTED.includes(status))
        faults.push(`${request.method} ${request.path} ${request.body?.slice(0, 300) ?? ''}: ${detail}`);
    };
    const worker = async (): Promise<void> => {
      while (sent < REQUESTS) {
        const operation = operations[sent % operations.length] as Operation;
        const round = Math.floor(sent / operations.length);
        sent += 1;
        const name = `${operation.method} ${operation.path}`;
        const heavy = HEAVY.includes(name) || HEAVY_PAPERS.test(operation.path);
        if (!heavy || round % 20 === 0) await one(operation);
        else await one(operations[(sent * 7) % operations.length] as Operation);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, worker));
    expect(faults.slice(0, 20)).toEqual([]);
    // They are no requests that are all turned away at the door.
    expect(counts.get(200) ?? 0).toBeGreaterThan(REQUESTS / 20);
    expect(counts.get(400) ?? 0).toBeGreaterThan(REQUESTS / 20);
  }, 1_200_000);
});

async function send({ method, path, body }: { method: string; path: string; body: string | undefined }) {
  const abort = new AbortController();
  const response = await fetch(`${plant.base}/api/${path}`, {
    method,
    headers: {
      cookie: engineer.cookie,
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    },
    ...(body === undefined ? {} : { body }),
    signal: abort.signal,
  });
  const { status } = response;
  // Streams are not listened to: that they begin is enough.
  if ((response.headers.get('content-type') ?? '').startsWith('text/event-stream')) {
    abort.abort();
    return { status, detail: '' };
  }
  const text = await response.text();
  return { status, detail: status >= 500 ? ((JSON.parse(text) as Problem).detail ?? text) : '' };
}
