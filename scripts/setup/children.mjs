// The processes that a script starts, ended one by one by their ids.

import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { PlainError } from './say.mjs';

const END_MS = 6000;

export class Children {
  constructor() {
    this.list = [];
    this.ending = false;
  }

  /**
   * Starts a Node.js program and waits for its first line of output, which is JSON. `onDeath` is told if it ends
   * without being asked to.
   */
  start(name, args, { env = {}, onDeath = () => {} } = {}) {
    // A group of its own: Ctrl-C reaches the launcher alone, which ends the others in order.
    const child = spawn(process.execPath, args, {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, ...env },
      detached: true,
    });
    this.list.push({ name, child });
    return new Promise((resolve, reject) => {
      child.on('error', reject);
      child.on('exit', (code) => {
        reject(new PlainError(`The ${name} ended before it was ready (exit code ${code}).`));
        if (!this.ending) onDeath(name);
      });
      createInterface({ input: child.stdout }).once('line', (line) => resolve(JSON.parse(line)));
    });
  }

  get ids() {
    return this.list.map(({ child }) => child.pid);
  }

  /** Asks each to end, the last started first, and ends those that do not. */
  async end() {
    this.ending = true;
    for (const { child } of this.list.reverse()) await endProcess(child);
    this.list = [];
  }
}

function endProcess(child) {
  if (child.exitCode !== null || child.signalCode !== null) return undefined;
  return new Promise((resolve) => {
    const hard = setTimeout(() => child.kill('SIGKILL'), END_MS);
    child.once('exit', () => {
      clearTimeout(hard);
      resolve();
    });
    child.kill('SIGTERM');
  });
}
