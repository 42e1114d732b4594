// Reading off at the keypad: phones bring values when they have a network; where two of them bring different values for
// one parameter, a person chooses. When it is kept, what nobody read off is kept as unreadable, never as a default.

import { Injectable } from '@nestjs/common';
import type {
  BroughtEntry,
  ImportedBackup,
  ReadOffConflict,
  ReadOffSync,
  ReadOffView,
} from '@drive-keep/api';
import {
  describeRefusal,
  factsOf,
  findParameter,
  isNoise,
  refusalOf,
  type Code,
  type Dictionary,
} from '@drive-keep/core/dictionary';
import { hashOf } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ReadOff, type StoredEntry } from './read-off.entity.ts';

@Injectable()
export class ReadOffs {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly logbook: Logbook,
  ) {}

  async open(tag: string): Promise<ReadOffView | null> {
    const { position } = await this.register.unitAt(tag);
    const found = await this.find(this.dataSource.manager, position.id);
    return found && readOffView(found);
  }

  /** Takes what a phone brings. The first that brings something starts it. */
  async bring(
    tag: string,
    serial: number,
    brought: readonly BroughtEntry[],
    { person }: Account,
  ): Promise<ReadOffSync> {
    const at = await this.inPlace(tag);
    if (at.unit.serial !== serial) {
      const detail = `Serial number ${at.unit.serial} sits at ${tag} now; these values were read off at ${serial}. Nothing was taken.`;
      throw new ProblemException(409, 'other-serial', detail);
    }
    const dictionary = await this.dictionaries.get(at.unit.dictionaryId);
    requireAcceptable(dictionary, at, brought);
    return this.dataSource.transaction(async (manager) => {
      await manager.query(`select pg_advisory_xact_lock(hashtextextended('read-off ' || $1, 0))`, [
        at.position.id,
      ]);
      const readOff = (await this.find(manager, at.position.id)) ?? (await this.begin(manager, at, person));
      const entries: Record<string, StoredEntry> = { ...readOff.entries };
      const conflicts: ReadOffConflict[] = [];
      for (const { code, raw, at: time, before } of brought) {
        const theirs = entries[code];
        if (theirs && theirs.raw !== raw && theirs.raw !== before) {
          conflicts.push({ code, mine: raw, theirs: { code, ...theirs } });
        } else if (theirs?.raw !== raw) entries[code] = { raw, by: person, at: time };
      }
      await manager.update(ReadOff, { id: readOff.id }, { entries });
      return { readOff: readOffView({ ...readOff, entries }), conflicts };
    });
  }

  /** It becomes a backup of the unit. */
  async keep(tag: string, reason: string, { person }: Account): Promise<ImportedBackup> {
    const at = await this.inPlace(tag);
    const dictionary = await this.dictionaries.get(at.unit.dictionaryId);
    return this.dataSource.transaction(async (manager) => {
      const readOff = await this.find(manager, at.position.id, true);
      if (!readOff || Object.keys(readOff.entries).length === 0) {
        const detail = `Nothing has been read off at ${tag} yet. Nothing was kept.`;
        throw new ProblemException(409, 'nothing-read-off', detail);
      }
      const readings = new Map<Code, Reading>();
      for (const parameter of dictionary.parameters) {
        if (isNoise(parameter)) continue;
        const entry = readOff.entries[parameter.code];
        readings.set(parameter.code, entry ? entry.raw : { unreadable: 'not-read-off' });
      }
      const set = { dictionary: dictionary.id, readings };
      const hash = hashOf(set);
      const same = await this.backups.newestWith(at.position.id, hash);
      const { position, unit } = at;
      const { serial, firmware } = unit;
      const who = { takenBy: person, how: 'read-off' as const, reason, serial, firmware };
      const backup = await this.backups.keep({ position, unit, set, aside: new Map(), ...who }, manager);
      await manager.update(ReadOff, { id: readOff.id }, { state: 'kept', backupId: backup.id });
      const missing = backup.unreadable;
      const gaps = missing > 0 ? `; ${missing} were not read off` : '';
      const text = `Read off at the keypad: ${readings.size - missing} parameters${gaps} (${reason}).`;
      await this.logbook.write(
        { person, action: 'read-off', tag, text, facts: { backup: backup.id } },
        manager,
      );
      return { backupId: backup.id, hash, sameAs: same?.takenAt.toISOString() ?? null };
    });
  }

  async drop(tag: string, { person }: Account): Promise<void> {
    const { position } = await this.register.unitAt(tag);
    const { affected } = await this.dataSource
      .getRepository(ReadOff)
      .update({ position: { id: position.id }, state: 'open' }, { state: 'dropped' });
    if (affected === 0) throw notFound(`An open read-off at ${tag}`);
    const text = 'Dropped what had been read off at the keypad; nothing of it was kept.';
    await this.logbook.write({ person, action: 'read-off-dropped', tag, text });
  }

  private async inPlace(tag: string): Promise<PositionWithUnit> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw notFound(`The position ${tag}`);
    return at;
  }

  private async begin(
    manager: EntityManager,
    { position, unit }: PositionWithUnit,
    person: string,
  ): Promise<ReadOff> {
    const dictionaryId = unit.dictionaryId;
    await manager.insert(ReadOff, { position, unit, dictionaryId, startedBy: person });
    const begun = await this.find(manager, position.id);
    if (!begun) throw new Error('a read-off that was just begun is gone');
    return begun;
  }

  /** The open one of the unit in place; one of a unit that was swapped since is dropped, as it says nothing of this one. */
  private async find(manager: EntityManager, positionId: string, lock = false): Promise<ReadOff | null> {
    const found = await manager.findOne(ReadOff, {
      where: { position: { id: positionId }, state: 'open' },
      relations: { unit: true, position: true },
      ...(lock ? { lock: { mode: 'pessimistic_write' as const, tables: ['read_off'] } } : {}),
    });
    if (!found || found.unit.removedAt === null) return found;
    await manager.update(ReadOff, { id: found.id }, { state: 'dropped' });
    return null;
  }
}

const readOffView = (readOff: ReadOff): ReadOffView => ({
  tag: readOff.position.tag,
  dictionary: readOff.dictionaryId,
  serial: readOff.unit.serial,
  startedBy: readOff.startedBy,
  startedAt: readOff.startedAt.toISOString(),
  entries: Object.entries(readOff.entries).map(([code, entry]) => ({ code, ...entry })),
});

function requireAcceptable(
  dictionary: Dictionary,
  { unit }: PositionWithUnit,
  brought: readonly BroughtEntry[],
): void {
  const facts = factsOf(dictionary, unit) ?? {};
  const findings = brought.flatMap(({ code, raw }) => {
    const parameter = findParameter(dictionary, code);
    if (!parameter || isNoise(parameter)) return [`${code} is not a setting of ${dictionary.name}.`];
    const refusal = refusalOf(parameter, raw, facts);
    return refusal ? [`${code}: ${describeRefusal(parameter, refusal)}`] : [];
  });
  if (findings.length === 0) return;
  const detail = `${findings[0] ?? ''} Nothing was taken.`;
  throw new ProblemException(422, 'not-acceptable', detail, findings);
}
