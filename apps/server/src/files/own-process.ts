// One task in a process of its own, with bounded memory and time: what runs out of either takes nothing with it. Not in
// a thread, as a thread that runs out of memory ends the whole server.

import { fork } from 'node:child_process';

export interface Bounds {
  readonly memoryMb: number;
  readonly ms: number;
}

/** What the program answers; nothing where it has ended without an answer. `program` takes one message and sends one. */
export function inOwnProcess<T>(
  program: string,
  task: object,
  { memoryMb, ms }: Bounds,
): Promise<T | undefined> {
  return new Promise((resolve) => {
    const child = fork(program, {
      execArgv: [`--max-old-space-size=${memoryMb}`],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    const end = (answer?: T) => {
      clearTimeout(timer);
      child.kill('SIGKILL');
      resolve(answer);
    };
    const timer = setTimeout(end, ms);
    child.once('message', (answer) => end(answer as T));
    child.once('exit', () => end());
    child.once('error', () => end());
    child.send(task);
  });
}
