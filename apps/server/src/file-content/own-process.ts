// Tasks in processes of their own, with bounded memory and time: what runs out of either takes nothing with it. Not in
// threads, as a thread that runs out of memory ends the whole server. A few processes of a kind work at a time, and whoever
// comes when they have too much to do already is told so.

import workerpool from 'workerpool';
import { ProblemException } from '../problems/problem.ts';

export interface Bounds {
  readonly memoryMb: number;
  readonly ms: number;
}

/** Processes of one kind at work; each takes one task after the other. */
const AT_ONCE = 2;
const MOST_WAITING = 60;
/** A process without work is ended after this time, in ms: it holds memory. */
const IDLE_MS = 3000;

interface Kind {
  readonly pool: workerpool.Pool;
  tasks: number;
  idle: NodeJS.Timeout | undefined;
}

const kinds = new Map<string, Kind>();

/** What the function `work` of the program answers; nothing where it has run out of memory or time. */
export async function inOwnProcess<T>(
  program: string,
  task: object,
  { memoryMb, ms }: Bounds,
): Promise<T | undefined> {
  const kind = kindOf(program, memoryMb);
  if (kind.tasks >= AT_ONCE + MOST_WAITING) {
    const detail =
      'Too many papers and files are being made at this moment. Try again in a minute. Nothing is lost.';
    throw new ProblemException(503, 'busy', detail);
  }
  clearTimeout(kind.idle);
  kind.tasks += 1;
  try {
    return (await kind.pool.exec('work', [task]).timeout(ms)) as T;
  } catch {
    return undefined;
  } finally {
    kind.tasks -= 1;
    if (kind.tasks === 0) kind.idle = setTimeout(() => end(program, kind), IDLE_MS);
  }
}

function kindOf(program: string, memoryMb: number): Kind {
  const known = kinds.get(program);
  if (known) return known;
  const forkOpts = { execArgv: [`--max-old-space-size=${memoryMb}`], serialization: 'advanced' } as const;
  const pool = workerpool.pool(program, { workerType: 'process', maxWorkers: AT_ONCE, forkOpts });
  const kind: Kind = { pool, tasks: 0, idle: undefined };
  kinds.set(program, kind);
  return kind;
}

function end(program: string, { pool }: Kind): void {
  kinds.delete(program);
  void pool.terminate(true);
}
