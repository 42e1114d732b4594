// The register is changed: positions come, move and are retired, units are swapped. Nothing that was kept is lost by it:
// a unit that goes leaves its row, a position that is retired keeps its history. Everything is checked before anything
// is written, and every change is in the logbook with its person and reason.

import { Injectable } from '@nestjs/common';
import { DataSource, IsNull, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Backup } from '../sets/backup.entity.ts';
import { Motor } from '../motors/motor.entity.ts';
import { Machine } from '../register/machine.entity.ts';
import { Area } from '../register/area.entity.ts';
import { Position } from '../register/position.entity.ts';
import {
  lineFor,
  lockRegister,
  machineFor,
  nextPlace,
  refused,
  requireFreeSerial,
  requireFreeTag,
  requireOutfit,
  type UnitFacts,
} from '../register/register-places.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Unit } from '../register/unit.entity.ts';

export interface PositionFacts {
  readonly area: string;
  readonly machine: string;
  readonly tag: string;
  readonly duty: string;
  readonly criticality: 'low' | 'middle' | 'high';
  readonly motor: string;
}

export type NewPosition = PositionFacts & UnitFacts;

@Injectable()
export class RegisterChanges {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  async add(fresh: NewPosition, account: Account): Promise<void> {
    await this.change((manager) => this.addWithin(manager, fresh, account));
  }

  async addWithin(manager: EntityManager, fresh: NewPosition, { person }: Account): Promise<void> {
    const dictionary = await this.dictionaries.get(fresh.dictionary);
    requireOutfit(dictionary, fresh);
    await requireFreeTag(manager, fresh.tag);
    const { tag, duty, criticality, motor } = fresh;
    const machine = await machineFor(manager, fresh.area, fresh.machine);
    const place = await nextPlace(manager, 'position');
    const position = await manager.save(Position, { machine, tag, duty, criticality, motor, place });
    await this.install(manager, position, fresh);
    const text = `Added to the register: ${duty}, ${dictionary.maker} ${dictionary.name}, serial ${fresh.serial}.`;
    await this.logbook.write({ person, action: 'position-added', tag, text }, manager);
  }

  /** Changes what is said of a position; `before` and after are told in the logbook. */
  async changePosition(
    tag: string,
    wish: Partial<PositionFacts>,
    version: number,
    account: Account,
  ): Promise<void> {
    await this.change(async (manager) => {
      const position = await manager.findOneBy(Position, { tag });
      if (!position) throw notFound(`The position ${tag}`);
      requireSameVersion(position.version, version, tag);
      await this.changePositionWithin(manager, tag, wish, account);
    });
  }

  async changePositionWithin(
    manager: EntityManager,
    tag: string,
    wish: Partial<PositionFacts>,
    { person }: Account,
  ): Promise<void> {
    const position = await manager.getRepository(Position).findOne({
      where: { tag },
      relations: { machine: { area: true } },
    });
    if (!position) throw notFound(`The position ${tag}`);
    const { machine } = position;
    const motor = await shownMotor(manager, position);
    const before = { ...position, motor, machine: machine.name, area: machine.area.name };
    const changes = differing(before, wish);
    if (position.motorId !== null && changes.some(({ name }) => name === 'motor'))
      throw refused(`The motor of ${tag} is one of the library. Give it another one, or none, there first.`);
    if (changes.length === 0) return;
    if (wish.tag !== undefined && wish.tag !== tag) await requireFreeTag(manager, wish.tag, tag);
    const moved = changes.some(({ name }) => name === 'area' || name === 'machine');
    await manager.update(
      Position,
      { id: position.id },
      {
        tag: wish.tag ?? tag,
        duty: wish.duty ?? position.duty,
        criticality: wish.criticality ?? position.criticality,
        motor: position.motorId === null ? (wish.motor ?? position.motor) : position.motor,
        version: position.version + 1,
        ...(moved
          ? {
              machine: await machineFor(manager, wish.area ?? before.area, wish.machine ?? before.machine),
              place: await nextPlace(manager, 'position'),
            }
          : {}),
      },
    );
    const text = `Changed in the register: ${changes.map(({ text: each }) => each).join('; ')}.`;
    await this.logbook.write({ person, action: 'position-changed', tag: wish.tag ?? tag, text }, manager);
  }

  /** Changes what is said of the unit in place. Another unit is a swap, not a change. */
  async changeUnit(tag: string, wish: UnitFacts, version: number, account: Account): Promise<void> {
    await this.change(async (manager) => {
      const { unit } = await this.inPlace(tag);
      requireSameVersion(unit.version, version, `The unit at ${tag}`);
      await this.changeUnitWithin(manager, tag, wish, account);
    });
  }

  async changeUnitWithin(
    manager: EntityManager,
    tag: string,
    wish: UnitFacts,
    { person }: Account,
  ): Promise<void> {
    const { unit } = await this.inPlace(tag);
    const [own, wanted] = await Promise.all([
      this.dictionaries.get(unit.dictionaryId),
      this.dictionaries.get(wish.dictionary),
    ]);
    if (own.model !== wanted.model) {
      throw refused(
        `${tag} has a ${own.name}, and a ${wanted.name} is another drive: record a swap instead.`,
      );
    }
    if (wish.serial !== unit.serial && (await manager.existsBy(Backup, { unit: { id: unit.id } }))) {
      throw refused(
        `The unit at ${tag} has been backed up under serial number ${unit.serial}; another number is another unit: record a swap instead.`,
      );
    }
    requireOutfit(wanted, wish);
    await requireFreeSerial(manager, wish.serial, unit);
    const line = await lineFor(manager, wish, unit);
    const changes = differing(comparable(factsOfUnit(unit)), comparable(wish));
    if (changes.length === 0) return;
    const { rating, region, serial, firmware } = wish;
    await manager.update(
      Unit,
      { id: unit.id },
      {
        dictionaryId: wanted.id,
        rating,
        region,
        serial,
        firmware,
        line,
        lineAddress: line ? (wish.lineAddress ?? null) : null,
        version: unit.version + 1,
      },
    );
    const text = `Changed about the unit: ${changes.map(({ text: each }) => each).join('; ')}.`;
    await this.logbook.write({ person, action: 'unit-changed', tag, text }, manager);
  }

  /** Another unit sits at the position from now on. A retired position comes back by it. */
  async swap(tag: string, fresh: UnitFacts, reason: string, account: Account): Promise<void> {
    await this.change(async (manager) => {
      await this.requireNoReplacement(manager, tag);
      await this.swapWithin(manager, tag, fresh, reason, account);
    });
  }

  /** The same inside a change of the register; answers with the stay that begins. */
  async swapWithin(
    manager: EntityManager,
    tag: string,
    fresh: UnitFacts,
    reason: string,
    { person }: Account,
  ): Promise<string> {
    const { position, unit } = await this.register.unitAt(tag);
    const dictionary = await this.dictionaries.get(fresh.dictionary);
    requireOutfit(dictionary, fresh);
    if (unit.removedAt === null && unit.serial === fresh.serial)
      throw refused(`Serial number ${fresh.serial} is the unit that sits at ${tag} already.`);
    await this.remove(manager, unit, reason);
    const id = await this.install(manager, position, fresh);
    await manager.update(Position, { id: position.id }, { retiredAt: null, retiredWhy: '' });
    const before = await this.dictionaries.get(unit.dictionaryId);
    const text = `Swapped the unit: ${before.name} ${unit.rating} serial ${unit.serial} out, ${dictionary.name} ${fresh.rating} serial ${fresh.serial} in (${reason}).`;
    const facts = { out: unit.serial, in: fresh.serial };
    await this.logbook.write({ person, action: 'unit-swapped', tag, text, facts }, manager);
    return id;
  }

  /** A swap beside the sheet of a replacement would leave its wires and promises hanging. */
  private async requireNoReplacement(manager: EntityManager, tag: string): Promise<void> {
    const [open]: { id: string }[] = await manager.query(
      `select r.id from replacement r join position p on p.id = r.position_id where p.tag = $1 and r.state = 'open'`,
      [tag],
    );
    if (!open) return;
    const detail = `A replacement of ${tag} is open: swap the unit on its sheet, or give the replacement up first. Nothing was changed.`;
    throw new ProblemException(409, 'replacement-open', detail);
  }

  async retire(tags: readonly string[], reason: string, { person }: Account): Promise<void> {
    await this.change(async (manager) => {
      for (const tag of tags) {
        const { position, unit } = await this.inPlace(tag);
        await this.remove(manager, unit, reason);
        await manager.update(Position, { id: position.id }, { retiredAt: new Date(), retiredWhy: reason });
        const text = `Retired from the register (${reason}). Its history stays.`;
        await this.logbook.write({ person, action: 'position-retired', tag, text }, manager);
      }
    });
  }

  /** Retires all positions of an area, or of one machine of it; tells which they were. */
  async retirePlace(
    { area, machine }: { readonly area: string; readonly machine?: string | undefined },
    reason: string,
    person: Account,
  ): Promise<readonly string[]> {
    const positions = await this.dataSource.getRepository(Position).find({
      where: {
        machine: { area: { name: area }, ...(machine === undefined ? {} : { name: machine }) },
        retiredAt: IsNull(),
      },
      order: { place: 'ASC' },
    });
    const name = machine === undefined ? `The area ${area}` : `The machine ${machine} in ${area}`;
    if (positions.length === 0) throw notFound(name);
    const tags = positions.map(({ tag }) => tag);
    await this.retire(tags, reason, person);
    return tags;
  }

  /** A retired position comes back with the unit that it had, as long as that is nowhere else. */
  async bringBack(tag: string, { person }: Account): Promise<void> {
    await this.change(async (manager) => {
      const { position, unit } = await this.register.unitAt(tag);
      if (position.retiredAt === null) throw refused(`${tag} is not retired.`);
      await this.install(manager, position, factsOfUnit(unit));
      await manager.update(Position, { id: position.id }, { retiredAt: null, retiredWhy: '' });
      const text = `Brought back into the register with its unit, serial ${unit.serial}.`;
      await this.logbook.write({ person, action: 'position-back', tag, text }, manager);
    });
  }

  async renameArea(name: string, to: string, { person }: Account): Promise<void> {
    await this.change(async (manager) => {
      if (await manager.existsBy(Area, { name: to })) throw refused(`There is an area ${to} already.`);
      const { affected } = await manager.update(Area, { name }, { name: to });
      if (affected !== 1) throw notFound(`The area ${name}`);
      const text = `Renamed the area ${name} to ${to}.`;
      await this.logbook.write({ person, action: 'area-renamed', text }, manager);
    });
  }

  /** Gives a machine another name, or moves it with all its positions to another area. */
  async changeMachine(
    place: { readonly area: string; readonly machine: string },
    to: { readonly area: string; readonly machine: string },
    { person }: Account,
  ): Promise<void> {
    await this.change(async (manager) => {
      const machine = await manager.findOneBy(Machine, { name: place.machine, area: { name: place.area } });
      if (!machine) throw notFound(`The machine ${place.machine} in ${place.area}`);
      if (await manager.existsBy(Machine, { name: to.machine, area: { name: to.area } }))
        throw refused(`There is a machine ${to.machine} in ${to.area} already.`);
      const area =
        (await manager.findOneBy(Area, { name: to.area })) ??
        (await manager.save(Area, { name: to.area, place: await nextPlace(manager, 'area') }));
      await manager.update(Machine, { id: machine.id }, { name: to.machine, area });
      const text = `Changed the machine ${place.machine} in ${place.area} to ${to.machine} in ${to.area}.`;
      await this.logbook.write({ person, action: 'machine-changed', text }, manager);
    });
  }

  change<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.dataSource.transaction(async (manager) => {
      await lockRegister(manager);
      return work(manager);
    });
  }

  private async inPlace(tag: string): Promise<PositionWithUnit> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw notFound(`The position ${tag}`);
    return at;
  }

  private async install(manager: EntityManager, position: Position, fresh: UnitFacts): Promise<string> {
    await requireFreeSerial(manager, fresh.serial);
    const line = await lineFor(manager, fresh);
    const { id } = await manager.save(Unit, {
      position,
      dictionaryId: fresh.dictionary,
      rating: fresh.rating,
      region: fresh.region,
      serial: fresh.serial,
      firmware: fresh.firmware,
      line,
      lineAddress: line ? (fresh.lineAddress ?? null) : null,
      installedAt: new Date(),
      removedAt: null,
    });
    return id;
  }

  /** While a unit is being written to, nobody takes it out of the register. */
  private async remove(manager: EntityManager, unit: Unit, why: string): Promise<void> {
    if (unit.removedAt !== null) return;
    const [writing]: unknown[] = await manager.query(
      `select 1 from write_plan where unit_id = $1 and state = 'writing' limit 1`,
      [unit.id],
    );
    if (writing) {
      const detail = `A write plan is being carried out on this unit. Wait for its end. Nothing was changed.`;
      throw new ProblemException(409, 'being-written', detail);
    }
    await manager.update(Unit, { id: unit.id }, { removedAt: new Date(), removedWhy: why });
  }
}

export const factsOfUnit = (unit: Unit): UnitFacts => ({
  dictionary: unit.dictionaryId,
  rating: unit.rating,
  region: unit.region,
  serial: unit.serial,
  firmware: unit.firmware,
  ...(unit.line ? { line: unit.line.name, lineAddress: unit.lineAddress ?? undefined } : {}),
});

/** As the register shows it: by its name in the library, where it has one. */
async function shownMotor(manager: EntityManager, { motor, motorId }: Position): Promise<string> {
  const found = motorId === null ? null : await manager.findOneBy(Motor, { id: motorId });
  return found ? `${found.name}, ${found.line}` : motor;
}

/** With what is not there said as nothing: a unit that loses its line has changed. */
export const comparable = <T extends UnitFacts>(facts: T) => ({
  ...facts,
  line: facts.line ?? '',
  lineAddress: facts.lineAddress ?? '',
});

/** What differs, in words: `duty from "…" to "…"`. Only what is wished for counts. */
export function differing<T extends object>(
  before: T,
  wish: Partial<T>,
): readonly { readonly name: string; readonly text: string }[] {
  return Object.entries(wish).flatMap(([name, value]) => {
    const was = (before as Readonly<Record<string, unknown>>)[name];
    if (value === undefined || value === was) return [];
    return [{ name, text: `${WORDS[name] ?? name} from ${quoted(was)} to ${quoted(value)}` }];
  });
}

const quoted = (value: unknown): string =>
  typeof value === 'number' || (typeof value === 'string' && value !== '') ? `"${value}"` : 'nothing';

const WORDS: Readonly<Record<string, string>> = {
  lineAddress: 'address on the line',
  dictionary: 'dictionary',
  serial: 'serial number',
};
