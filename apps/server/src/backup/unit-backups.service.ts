// Reads one unit now, while somebody waits, and keeps what it held as a backup.

import { Injectable } from '@nestjs/common';
import type { ParameterSet } from '@drive-keep/core/sets';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Lines, noLine } from '../lines/lines.service.ts';
import { ProblemException } from '../problems/problem.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';

@Injectable()
export class UnitBackups {
  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly lines: Lines,
    private readonly backups: Backups,
  ) {}

  /** A problem says why where it cannot be read whole; then nothing is kept. */
  async read(
    { position, unit }: PositionWithUnit,
    { person, reason }: { readonly person: string; readonly reason: string },
  ): Promise<{ readonly set: ParameterSet; readonly backupId: string }> {
    const { line, lineAddress, serial } = unit;
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    if (!line) throw noLine(position.tag);
    const reached = { tag: position.tag, line, address: lineAddress ?? 0, serial, dictionary };
    const { set, aside, identity } = await this.lines.withUnit(reached, 'look', async (at) => {
      const read = await at.read();
      if (read.ok) return read.value;
      throw new ProblemException(502, 'unit-not-read', at.describe(read.fault));
    });
    const { firmware } = identity;
    const what = { position, unit, set, aside, takenBy: person, reason, serial, firmware };
    const backup = await this.backups.keep({ ...what, how: 'read' });
    return { set, backupId: backup.id };
  }
}
