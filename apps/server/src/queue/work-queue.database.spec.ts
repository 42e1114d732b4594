import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { DataSource } from 'typeorm';
import { privateDatabase, type PrivateDatabase } from '../testing/private-postgres.ts';
import { WorkQueue } from './work-queue.service.ts';

const KINDS = ['backup', 'write', 'axes'];

let database: PrivateDatabase;
beforeAll(async () => {
  database = await privateDatabase();
});
afterAll(() => database.drop());

/** What a process still waits for by the clock: a worker that never ends looks every second whether it has. */
const waits = (): number => process.getActiveResourcesInfo().filter((each) => each === 'Timeout').length;

it('ends with all its workers, however many of them wait for one of its connections', async () => {
  const before = waits();
  for (let round = 0; round < 5; round += 1) {
    const queue = new WorkQueue(new DataSource({ type: 'postgres' }));
    await queue.start(database.url, KINDS);
    for (const kind of KINDS) await queue.serve(kind, async () => {});
    await queue.onApplicationShutdown();
  }
  await new Promise((resolve) => setTimeout(resolve, 2_500));
  expect(waits()).toBeLessThanOrEqual(before);
}, 60_000);
