// The motor library: plates under names of their own, and which positions have them.

import { Injectable } from '@nestjs/common';
import type { MotorView } from '@drive-keep/api';
import {
  plateLine,
  plateLineBeside,
  readPlate,
  sameNumbers,
  writePlate,
  type MotorPlate,
  type PlateText,
} from '@drive-keep/core/motor';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Position } from '../register/position.entity.ts';
import { isUuid } from '../storage/uuid.ts';
import { Motor } from './motor.entity.ts';

export interface MotorWish {
  readonly name: string;
  readonly plate: PlateText;
  /** Id of the motor whose plate it started from. */
  readonly startedFrom?: string | undefined;
}

@Injectable()
export class MotorLibrary {
  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  async all(): Promise<readonly MotorView[]> {
    const motors = await this.motors();
    const used: { id: string; tags: string[] }[] = await this.dataSource.query(
      `select motor_id as id, array_agg(tag order by tag) as tags from position
        where motor_id is not null and retired_at is null group by motor_id`,
    );
    const tags = new Map(used.map((each) => [each.id, each.tags]));
    return motors.map((motor) => ({
      id: motor.id,
      name: motor.name,
      plate: motor.plate,
      text: writePlate(motor.plate),
      line: motor.line,
      startedFrom: motor.startedFrom,
      positions: tags.get(motor.id) ?? [],
      version: motor.version,
      changedBy: motor.changedBy,
      changedAt: motor.changedAt.toISOString(),
      twins: motors
        .filter((other) => other.id !== motor.id && sameNumbers(motor.plate, other.plate))
        .map(({ name }) => name),
    }));
  }

  motors(): Promise<Motor[]> {
    return this.dataSource.getRepository(Motor).find({ order: { name: 'ASC' } });
  }

  async get(
    id: string,
    manager: EntityManager = this.dataSource.manager,
    lock?: { readonly mode: 'pessimistic_write' },
  ): Promise<Motor> {
    const motor = isUuid(id)
      ? await manager.findOne(Motor, { where: { id }, ...(lock ? { lock } : {}) })
      : null;
    if (!motor) throw notFound('This motor');
    return motor;
  }

  async add({ name, plate, startedFrom }: MotorWish, account: Account): Promise<string> {
    const read = plateFrom(plate);
    const from = startedFrom === undefined ? '' : (await this.get(startedFrom)).name;
    return this.dataSource.transaction((manager) => this.keep(manager, name, read, from, account));
  }

  async keep(
    manager: EntityManager,
    name: string,
    plate: MotorPlate,
    startedFrom: string,
    { person }: Pick<Account, 'person'>,
  ): Promise<string> {
    await this.requireFree(manager, name);
    const line = plateLineBeside(name, plate);
    const motor = { name: name.trim(), plate, line, startedFrom, changedBy: person, changedAt: new Date() };
    const { id } = await manager.save(Motor, motor);
    const text = `Added the motor ${motor.name}: ${plateLine(plate)}.`;
    await this.logbook.write({ person, action: 'motor-added', text, facts: { motor: id } }, manager);
    return id;
  }

  async change(id: string, { name, plate }: MotorWish, version: number, { person }: Account): Promise<void> {
    const read = plateFrom(plate);
    await this.dataSource.transaction(async (manager) => {
      const before = await this.get(id, manager, { mode: 'pessimistic_write' });
      requireSameVersion(before.version, version, `The motor ${before.name}`);
      if (before.name.toLowerCase() !== name.trim().toLowerCase()) await this.requireFree(manager, name);
      const line = plateLineBeside(name, read);
      await manager.update(
        Motor,
        { id },
        {
          ...{ name: name.trim(), plate: read, line, changedBy: person, changedAt: new Date() },
          version: before.version + 1,
        },
      );
      const text = `Changed the motor ${before.name}: ${plateLine(before.plate)} to ${name.trim()}: ${plateLine(read)}.`;
      const facts = { motor: id, before: before.plate };
      await this.logbook.write({ person, action: 'motor-changed', text, facts }, manager);
    });
  }

  async remove(id: string, { person }: Account): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const { name, plate } = await this.get(id, manager);
      const used = await manager.find(Position, { where: { motorId: id }, order: { tag: 'ASC' } });
      if (used.length > 0) {
        const tags = used.map(({ tag }) => tag).join(', ');
        const detail = `${name} is the motor of ${tags}. Give them another one first. Nothing was removed.`;
        throw new ProblemException(409, 'motor-used', detail);
      }
      await manager.delete(Motor, { id });
      const text = `Removed the motor ${name}: ${plateLine(plate)}. No position had it.`;
      await this.logbook.write({ person, action: 'motor-removed', text, facts: { plate } }, manager);
    });
  }

  /** Which motor a position has; nothing where the library does not have it. */
  async assign(tag: string, motorId: string | null, { person }: Account): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const position = await manager.findOneBy(Position, { tag });
      if (!position) throw notFound(`The position ${tag}`);
      const motor = motorId === null ? null : await this.get(motorId, manager);
      await manager.update(Position, { id: position.id }, { motorId });
      const text = motor ? `Its motor is ${motor.name}.` : 'Its motor is none of the library.';
      await this.logbook.write({ person, action: 'motor-assigned', tag, text }, manager);
    });
  }

  private async requireFree(manager: EntityManager, name: string): Promise<void> {
    const [taken]: { name: string; line: string }[] = await manager.query(
      'select name, line from motor where lower(name) = lower($1)',
      [name.trim()],
    );
    if (!taken) return;
    const detail = `There is a motor ${taken.name} already (${taken.line}). Give this one a name of its own. Nothing was changed.`;
    throw new ProblemException(409, 'motor-name', detail);
  }
}

function plateFrom(text: PlateText): MotorPlate {
  const read = readPlate(text);
  if (read.ok) return read.value;
  const findings = read.fault.map((found) => findingLine(findingView(found)));
  const detail = `The plate cannot be kept. ${findings[0] ?? ''} Nothing was changed.`;
  throw new ProblemException(422, 'plate', detail, findings);
}
