// Whose turn it is on a line: one at a time, over all server processes. Those who wait in this process wait in memory, the
// urgent ones first, and only the first of them asks the database. Lines at work at once are bounded, so that neither the
// database nor the memory of the server is spent on waiting.

import { Injectable } from '@nestjs/common';
import { Mutex, Semaphore } from 'async-mutex';
import { Clock } from '../storage/clock.ts';
import { LockConnections, type HeldLock } from '../storage/lock-connections.ts';

/** What a line is wanted for; the first goes before the last. */
export const PURPOSES = ['write', 'look', 'round'] as const;
export type Purpose = (typeof PURPOSES)[number];

/** Lines at work at once in one process: for people, and for rounds and backups. */
const MOST_FOR_PEOPLE = 8;
const MOST_FOR_ROUNDS = 12;

/** How often one who keeps a line asks whether another process waits for it. */
const ASK_MS = 200;

interface LineQueue {
  readonly mutex: Mutex;
  waiting: number;
}

export interface LineTurn {
  /** How long it was waited for, in ms. */
  readonly waitedMs: number;
  /** The line may be somebody else's by now. */
  readonly lost: boolean;
  release(): Promise<void>;
}

@Injectable()
export class LineTurns {
  private readonly queues = new Map<string, LineQueue>();
  private readonly people = new Semaphore(MOST_FOR_PEOPLE);
  private readonly rounds = new Semaphore(MOST_FOR_ROUNDS);

  constructor(
    private readonly connections: LockConnections,
    private readonly clock: Clock,
  ) {}

  async take(lineId: string, purpose: Purpose): Promise<LineTurn> {
    return (await this.turn(lineId, purpose)).told;
  }

  /** Does one piece of work after another; between two of them the line goes to whoever waits for it. */
  async forEach<T>(
    lineId: string,
    purpose: Purpose,
    pieces: readonly T[],
    work: (piece: T) => Promise<void>,
  ): Promise<void> {
    let turn = await this.turn(lineId, purpose);
    let asked = performance.now();
    try {
      for (const piece of pieces) {
        const ask = performance.now() - asked >= ASK_MS;
        if (ask) asked = performance.now();
        // Asked while the work goes on, so that asking costs the line no time.
        const [waitedFor] = await Promise.all([
          ask ? turn.lock.isWaitedFor().catch(() => false) : false,
          work(piece),
        ]);
        if (!waitedFor && this.queueOf(lineId).waiting === 0 && !turn.lock.lost) continue;
        await turn.told.release();
        turn = await this.turn(lineId, purpose);
      }
    } finally {
      await turn.told.release();
    }
  }

  private async turn(lineId: string, purpose: Purpose): Promise<{ told: LineTurn; lock: HeldLock }> {
    const began = this.clock.now().getTime();
    const queue = this.queueOf(lineId);
    const rank = -PURPOSES.indexOf(purpose);
    queue.waiting += 1;
    const leave = await queue.mutex.acquire(rank).finally(() => (queue.waiting -= 1));
    const [, giveSlot] = await (purpose === 'round' ? this.rounds : this.people).acquire(1, rank);
    try {
      const lock = await this.connections.take(lineId);
      const release = async (): Promise<void> => {
        await lock.release();
        giveSlot();
        leave();
      };
      const waitedMs = this.clock.now().getTime() - began;
      return {
        lock,
        told: {
          waitedMs,
          get lost() {
            return lock.lost;
          },
          release,
        },
      };
    } catch (error) {
      giveSlot();
      leave();
      throw error;
    }
  }

  private queueOf(lineId: string): LineQueue {
    const known = this.queues.get(lineId);
    if (known) return known;
    const queue = { mutex: new Mutex(), waiting: 0 };
    this.queues.set(lineId, queue);
    return queue;
  }
}
