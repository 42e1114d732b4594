// The database of an installation, for programs that work beside a running Drive Keep or without one.

import { existsSync, mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { root } from './folders.mjs';
import { Cluster, postgresBin } from './postgres.mjs';
import { PlainError } from './say.mjs';

/** Folder of the data as the options name it: that of `npm run serve` with `--plain`, that of the demo without. */
export const dataFolder = ({ data, plain }) =>
  resolve(data ?? join(root, plain ? '.data/plain' : '.data/demo'));

/**
 * Gives its URL to `work`; a cluster that was not running is stopped again. With DATABASE_URL set that one is used. `fresh`: a
 * folder that is not there is made.
 */
export async function withDatabase(folder, work, { fresh = false } = {}) {
  if (process.env.DATABASE_URL) return work(process.env.DATABASE_URL);
  if (!fresh && !existsSync(folder))
    throw new PlainError(`There is nothing kept in ${folder}. Start Drive Keep first, or name its --data.`);
  mkdirSync(folder, { recursive: true });
  const cluster = new Cluster(folder, await postgresBin());
  const running = cluster.runningPort() !== undefined;
  try {
    return await work(await cluster.start());
  } finally {
    if (!running) cluster.stop();
  }
}
