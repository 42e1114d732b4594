// A position comes into the register with the unit that sits there. Everything is checked before anything is written.

import { Injectable } from '@nestjs/common';
import { factsOf } from '@drive-keep/core/dictionary';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Area } from './area.entity.ts';
import { Line } from './line.entity.ts';
import { Machine } from './machine.entity.ts';
import { Position } from './position.entity.ts';
import { Unit } from './unit.entity.ts';

export interface NewPosition {
  readonly area: string;
  readonly machine: string;
  readonly tag: string;
  readonly duty: string;
  readonly criticality: 'low' | 'middle' | 'high';
  readonly motor: string;
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  readonly serial: number;
  readonly firmware: string;
  /** Name and address of its line; nothing for a keypad-only unit. */
  readonly line?: string;
  readonly lineAddress?: number;
}

@Injectable()
export class NewPositions {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  async add(fresh: NewPosition, { person }: Account): Promise<void> {
    const dictionary = await this.dictionaries.get(fresh.dictionary);
    if (!factsOf(dictionary, fresh)) {
      throw refused(`${dictionary.name} has no rating ${fresh.rating} in region ${fresh.region}.`);
    }
    await this.dataSource.transaction(async (manager) => {
      await manager.query(`select pg_advisory_xact_lock(hashtextextended('register', 0))`);
      await this.requireFree(manager, fresh);
      const line = await this.lineOf(manager, fresh);
      const machine = await this.machineOf(manager, fresh);
      const { tag, duty, criticality, motor } = fresh;
      const place = await manager.getRepository(Position).count();
      const position = await manager.save(Position, { machine, tag, duty, criticality, motor, place });
      await manager.save(Unit, {
        position,
        dictionaryId: dictionary.id,
        rating: fresh.rating,
        region: fresh.region,
        serial: fresh.serial,
        firmware: fresh.firmware,
        line,
        lineAddress: line ? (fresh.lineAddress ?? null) : null,
        installedAt: new Date(),
        removedAt: null,
      });
      const text = `Added to the register: ${duty}, ${dictionary.maker} ${dictionary.name}, serial ${fresh.serial}.`;
      await this.logbook.write({ person, action: 'position-added', tag, text }, manager);
    });
  }

  private async requireFree(manager: EntityManager, { tag, serial }: NewPosition): Promise<void> {
    if (await manager.getRepository(Position).existsBy({ tag })) {
      throw refused(`The tag ${tag} is taken. Choose another one.`);
    }
    const unit = await manager
      .getRepository(Unit)
      .findOne({ where: { serial }, relations: { position: true } });
    if (unit) throw refused(`The unit with serial number ${serial} is at ${unit.position.tag} already.`);
  }

  private async lineOf(manager: EntityManager, fresh: NewPosition): Promise<Line | null> {
    if (fresh.line === undefined && fresh.lineAddress === undefined) return null;
    if (fresh.line === undefined || fresh.lineAddress === undefined)
      throw refused('A unit on a line needs both, the line and its address.');
    const line = await manager.getRepository(Line).findOneBy({ name: fresh.line });
    if (!line) throw refused(`There is no line ${fresh.line}.`);
    const taken = await manager.getRepository(Unit).findOne({
      where: { line: { id: line.id }, lineAddress: fresh.lineAddress },
      relations: { position: true },
    });
    if (taken && taken.removedAt === null)
      throw refused(`Address ${fresh.lineAddress} of ${line.name} belongs to ${taken.position.tag}.`);
    return line;
  }

  private async machineOf(manager: EntityManager, fresh: NewPosition): Promise<Machine> {
    const areas = manager.getRepository(Area);
    const area =
      (await areas.findOneBy({ name: fresh.area })) ??
      (await areas.save({ name: fresh.area, place: (await areas.count()) + 1000 }));
    const machines = manager.getRepository(Machine);
    const known = await machines.findOneBy({ area: { id: area.id }, name: fresh.machine });
    return known ?? machines.save({ area, name: fresh.machine, place: (await machines.count()) + 1000 });
  }
}

const refused = (detail: string): ProblemException =>
  new ProblemException(422, 'position-refused', `${detail} Nothing was added.`);
