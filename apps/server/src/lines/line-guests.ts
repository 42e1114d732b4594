// Short looks between the requests of whoever has a line: a person who watches a unit need not wait until a backup of its
// neighbour is done, and the backup goes on after a request or two. Who writes lets nobody in.

import type { DriveLine } from './drive-line.ts';

export type Look = (drive: DriveLine) => Promise<void>;

/** After so long without a request of the host a guest leaves again and takes a turn of its own, in ms. */
const PATIENCE_MS = 100;

export class LineGuests {
  private waiting: { readonly look: Look; readonly done: (taken: boolean) => void }[] = [];

  /** True when the look was let in and is over; false when nobody asked for it in time. */
  visit(look: Look): Promise<boolean> {
    return new Promise((resolve, reject) => {
      const guest = {
        look: async (drive: DriveLine): Promise<void> => {
          clearTimeout(patience);
          await look(drive).then(() => resolve(true), reject);
        },
        done: resolve,
      };
      const patience = setTimeout(() => {
        this.waiting = this.waiting.filter((each) => each !== guest);
        resolve(false);
      }, PATIENCE_MS);
      this.waiting.push(guest);
    });
  }

  async letIn(drive: DriveLine): Promise<void> {
    const guests = this.waiting;
    this.waiting = [];
    for (const { look } of guests) await look(drive);
  }

  /** The line is given back: who still waits takes a turn of its own. */
  sendAway(): void {
    for (const { done } of this.waiting) done(false);
    this.waiting = [];
  }
}

/** The line of a host: guests are let in before each of its reads. */
export const hospitable = (drive: DriveLine, guests: LineGuests): DriveLine => ({
  get largestRead() {
    return drive.largestRead;
  },
  get requests() {
    return drive.requests;
  },
  async read(unit, address, count) {
    await guests.letIn(drive);
    return drive.read(unit, address, count);
  },
  write: (unit, address, words, only16) => drive.write(unit, address, words, only16),
  close: () => drive.close(),
});
