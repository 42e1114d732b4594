// Which run holds a data folder: at most one at a time. What a crashed run has left behind is ended by its ids.

import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PlainError, say } from './say.mjs';

const recordFile = (folder) => join(folder, 'running.json');

/** Ends with a sentence if another run is alive; clears up after one that is not, and tells whether there was one. */
export function takeOver(folder) {
  const file = recordFile(folder);
  if (!existsSync(file)) return false;
  const { launcher, children, url } = readRecord(file);
  if (isOurs(launcher, 'start.mjs')) {
    throw new PlainError(
      `Drive Keep is already running at ${url} (process ${launcher}). End it there with Ctrl-C.`,
    );
  }
  const left = children.filter((id) => isOurs(id, 'dist/main.js'));
  if (left.length > 0) say('Ending what a crashed run has left behind …');
  for (const id of left) process.kill(id, 'SIGKILL');
  rmSync(file);
  return left.length > 0;
}

/** `control` is the control port of the simulated plant, for those who want to turn a contact. */
export function record(folder, { children, url, control }) {
  writeFileSync(recordFile(folder), JSON.stringify({ launcher: process.pid, children, url, control }));
}

export function clearRecord(folder) {
  rmSync(recordFile(folder), { force: true });
}

function readRecord(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return { launcher: 0, children: [], url: '' };
  }
}

/** Ids are used again by the system: the command line tells whether the process is still ours. */
function isOurs(id, marker) {
  if (!id) return false;
  try {
    process.kill(id, 0);
    return !existsSync('/proc/self') || readFileSync(`/proc/${id}/cmdline`, 'utf8').includes(marker);
  } catch {
    return false;
  }
}
