// Running other programs and waiting for them.

import { spawn, spawnSync } from 'node:child_process';

/** True if the program exists and ends well. */
export const succeeds = (program, args = []) => spawnSync(program, args, { stdio: 'ignore' }).status === 0;

/** Runs to the end; answers with exit code and, unless shown, all output. */
export function run(program, args, { show = false, ...options } = {}) {
  return new Promise((resolve) => {
    const child = spawn(program, args, {
      stdio: ['ignore', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
      ...options,
    });
    let output = '';
    child.stdout?.on('data', (chunk) => (output += chunk));
    child.stderr?.on('data', (chunk) => (output += chunk));
    child.on('error', (error) => resolve({ code: 127, output: String(error) }));
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
  });
}
