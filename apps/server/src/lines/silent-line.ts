// The line of a restored copy: it asks nobody and says so. Two servers that read and write the same units would disturb each
// other, and nobody would know which of them has kept what.

import { fail } from '@drive-keep/core/values';
import type { DriveLine, LineAnswer } from './drive-line.ts';

export class SilentLine implements DriveLine {
  readonly requests = 0;
  readonly largestRead = 125;

  read(): Promise<LineAnswer<readonly number[]>> {
    return Promise.resolve(fail({ code: 'copy' }));
  }

  write(): Promise<LineAnswer<void>> {
    return Promise.resolve(fail({ code: 'copy' }));
  }

  close(): void {
    // Nothing was opened.
  }
}
