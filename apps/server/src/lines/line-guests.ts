// Short looks between the requests of whoever has a line: a person who watches a unit need not wait until a backup of its
// neighbour is done, and the backup goes on after a request or two. Who writes lets nobody in.

import { Mutex } from 'async-mutex';
import type { DriveLine } from './drive-line.ts';

export type Look = (drive: DriveLine) => Promise<void>;

export class LineGuests {
  /** One request at a time, whosever it is. */
  private readonly requests = new Mutex();
  private ended = false;
  /** The line for its host: between any two of its reads a guest may come in. */
  readonly drive: DriveLine;

  constructor(private readonly inner: DriveLine) {
    const { requests } = this;
    this.drive = {
      get largestRead() {
        return inner.largestRead;
      },
      get requests() {
        return inner.requests;
      },
      read: (unit, address, count) => requests.runExclusive(() => inner.read(unit, address, count)),
      write: (unit, address, words, only16) =>
        requests.runExclusive(() => inner.write(unit, address, words, only16)),
      close: () => inner.close(),
    };
  }

  /** True when the look is over; false where the line is given back already. */
  visit(look: Look): Promise<boolean> {
    return this.requests.runExclusive(async () => {
      if (this.ended) return false;
      await look(this.inner);
      return true;
    });
  }

  /** The line is given back: no guest is on it after that. */
  async end(): Promise<void> {
    this.ended = true;
    await this.requests.runExclusive(() => undefined);
  }
}
