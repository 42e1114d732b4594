// One unit while its line is ours: reading it, writing to it, and saying in words what went wrong.

import type { Dictionary } from '@drive-keep/core/dictionary';
import type { Result } from '@drive-keep/core/values';
import type { DriveLine } from './drive-line.ts';
import { lineFactsOf } from './line-facts.ts';
import { describeFault } from './line-text.ts';
import type { LineTurn } from './line-turns.ts';
import type { Line } from './line.entity.ts';
import { readUnit, type ReadControl, type ReadFault, type UnitReading } from './unit-reader.ts';
import { UnitWriter } from './unit-writer.ts';

/** A unit as the register has it, where it can be reached. */
export interface UnitOnLine {
  readonly tag: string;
  readonly line: Line;
  readonly address: number;
  readonly serial: number;
  readonly dictionary: Dictionary;
}

const QUIET: ReadControl = { progress: () => undefined, stopped: () => false };

export class UnitAtLine {
  readonly writer: UnitWriter;

  constructor(
    readonly unit: UnitOnLine,
    private readonly drive: DriveLine,
    readonly turn: Pick<LineTurn, 'waitedMs' | 'lost'>,
  ) {
    this.writer = new UnitWriter({ ...unit, line: drive });
  }

  /** All parameters; who answers is checked at the beginning and at the end. */
  read(control: ReadControl = QUIET): Promise<Result<UnitReading, ReadFault>> {
    const { address, serial, dictionary } = this.unit;
    return readUnit(this.drive, dictionary, lineFactsOf(dictionary), { address, serial }, control);
  }

  describe(fault: ReadFault): string {
    const { tag, serial, dictionary } = this.unit;
    return describeFault(fault, { tag, serial, modelName: dictionary.name });
  }
}
