// Reads one unit now, while somebody waits, and keeps what it held as a backup.

import { Injectable } from '@nestjs/common';
import type { ParameterSet } from '@drive-keep/core/sets';
import { Dictionaries, lineFactsOf } from '../catalogue/dictionaries.service.ts';
import { ProblemException } from '../problems/problem.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { LineLock } from './line-lock.ts';
import { describeFault } from './line-text.ts';
import { ModbusLine } from './modbus-line.ts';
import { readUnit } from './unit-reader.ts';

@Injectable()
export class UnitBackups {
  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly lock: LineLock,
    private readonly backups: Backups,
  ) {}

  /** A problem says why where it cannot be read whole; then nothing is kept. */
  async read(
    { position, unit }: PositionWithUnit,
    { person, reason }: { readonly person: string; readonly reason: string },
  ): Promise<{ readonly set: ParameterSet; readonly backupId: string }> {
    const { line } = unit;
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    if (!line) throw new ProblemException(422, 'no-line', `${position.tag} has no line. Nothing was read.`);
    const modbus = new ModbusLine(line.host, line.port);
    try {
      const expected = { address: unit.lineAddress ?? 0, serial: unit.serial };
      const control = { progress: () => undefined, stopped: () => false };
      const read = await this.lock.hold(line.id, () =>
        readUnit(modbus, dictionary, lineFactsOf(dictionary), expected, control),
      );
      if (!read.ok) {
        const name = { tag: position.tag, serial: unit.serial, modelName: dictionary.name };
        throw new ProblemException(502, 'unit-not-read', describeFault(read.fault, name));
      }
      const { set, aside, identity } = read.value;
      const { serial, firmware } = identity;
      const what = { position, unit, set, aside, takenBy: person, reason, serial, firmware };
      const backup = await this.backups.keep({ ...what, how: 'read' });
      return { set, backupId: backup.id };
    } finally {
      modbus.close();
    }
  }
}
