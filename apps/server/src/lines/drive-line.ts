// The connection to the units behind one gateway. An answer is a value or one of a few faults; nothing is thrown.

import type { Result } from '@drive-keep/core/values';

export type LineFault =
  /** Nobody listens at the gateway's address. */
  | { readonly code: 'no-connection'; readonly where: string }
  | { readonly code: 'no-answer'; readonly afterMs: number }
  /** Answers came, but after their time; none of them was used. */
  | { readonly code: 'late'; readonly afterMs: number }
  /** This installation is a restored copy of a plant: it asks nobody. */
  | { readonly code: 'copy' }
  | { readonly code: 'broke-off' }
  /** An answer that does not belong to the request or is cut short. */
  | { readonly code: 'wrong-answer' }
  /** Exceptions of the Modbus Application Protocol V1.1b3, section 7. */
  | { readonly code: 'refused'; readonly exception: 'function' | 'address' | 'value' | 'failure' }
  | { readonly code: 'busy' };

export type LineAnswer<T> = Result<T, LineFault>;

export interface DriveLine {
  /** Registers in one request at the most, as the line carries them. */
  readonly largestRead: number;
  /** Reads 1 to 125 registers of one unit from a unified address on; each word is 0 to 65535. */
  read(unit: number, address: number, count: number): Promise<LineAnswer<readonly number[]>>;
  /** Writes words to consecutive holding registers in one request; a single one with function 16 only where that is asked for. */
  write(unit: number, address: number, words: readonly number[], only16?: boolean): Promise<LineAnswer<void>>;
  /** Requests sent so far, repeats included. */
  readonly requests: number;
  close(): void;
}

export const isRefusal = (fault: LineFault): boolean => fault.code === 'refused';
