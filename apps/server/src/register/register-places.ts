// Where things of the register belong, checked and found inside one transaction that has the register for itself.

import { factsOf, type Dictionary } from '@drive-keep/core/dictionary';
import { IsNull, type EntityManager } from 'typeorm';
import { ProblemException } from '../problems/problem.ts';
import { Area } from './area.entity.ts';
import { Line } from '../lines/line.entity.ts';
import { Machine } from './machine.entity.ts';
import { Position } from './position.entity.ts';
import { Unit } from './unit.entity.ts';

/** What is said of a unit when it comes to a position. */
export interface UnitFacts {
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  readonly serial: number;
  readonly firmware: string;
  /** Name and address of its line; nothing for a keypad-only unit. */
  readonly line?: string | undefined;
  readonly lineAddress?: number | undefined;
}

export const refused = (detail: string): ProblemException =>
  new ProblemException(422, 'register-refused', `${detail} Nothing was changed.`);

/** One change of the register at a time, over all server processes. */
export const lockRegister = (manager: EntityManager): Promise<unknown> =>
  manager.query(`select pg_advisory_xact_lock(hashtextextended('register', 0))`);

export function requireOutfit(dictionary: Dictionary, { rating, region }: UnitFacts): void {
  if (factsOf(dictionary, { rating, region })) return;
  const ratings = dictionary.ratings.map(({ id }) => id).join(', ');
  const regions = dictionary.regions.map(({ id }) => id).join(', ');
  throw refused(
    `${dictionary.name} has no rating ${rating} in region ${region}. Ratings: ${ratings}; regions: ${regions}.`,
  );
}

/** A tag is the same whatever its case. `own` is the position that may go on having it. */
export async function requireFreeTag(manager: EntityManager, tag: string, own?: string): Promise<void> {
  const taken = await manager
    .getRepository(Position)
    .createQueryBuilder('position')
    .where('lower(position.tag) = lower(:tag)', { tag })
    .getOne();
  if (!taken || taken.tag === own) return;
  throw refused(`The tag ${taken.tag} is taken. Choose another one.`);
}

/** A unit is at one place only. `own` is the stay that may go on having the serial number. */
export async function requireFreeSerial(manager: EntityManager, serial: number, own?: Unit): Promise<void> {
  const unit = await manager
    .getRepository(Unit)
    .findOne({ where: { serial, removedAt: IsNull() }, relations: { position: true } });
  if (!unit || unit.id === own?.id) return;
  throw refused(
    `The unit with serial number ${serial} is at ${unit.position.tag}. Swap or retire it there first.`,
  );
}

/** The line of a unit, its address being free but for the stay `own`. */
export async function lineFor(
  manager: EntityManager,
  { line: name, lineAddress }: Pick<UnitFacts, 'line' | 'lineAddress'>,
  own?: Unit,
): Promise<Line | null> {
  if (name === undefined && lineAddress === undefined) return null;
  if (name === undefined || lineAddress === undefined)
    throw refused('A unit on a line needs both, the line and its address.');
  const line = await manager.getRepository(Line).findOneBy({ name });
  if (!line) throw refused(`There is no line ${name}. Add it under Lines first.`);
  if (line.retiredAt) throw refused(`The line ${name} is retired. Choose another one.`);
  const taken = await manager.getRepository(Unit).findOne({
    where: { line: { id: line.id }, lineAddress, removedAt: IsNull() },
    relations: { position: true },
  });
  if (taken && taken.id !== own?.id)
    throw refused(`Address ${lineAddress} of ${line.name} belongs to ${taken.position.tag}.`);
  return line;
}

/** The machine of that name in that area; both are made where they do not exist yet, behind the others. */
export async function machineFor(manager: EntityManager, area: string, machine: string): Promise<Machine> {
  const areas = manager.getRepository(Area);
  const within =
    (await areas.findOneBy({ name: area })) ??
    (await areas.save({ name: area, place: await nextPlace(manager, 'area') }));
  const machines = manager.getRepository(Machine);
  const known = await machines.findOneBy({ area: { id: within.id }, name: machine });
  return known ?? machines.save({ area: within, name: machine, place: await nextPlace(manager, 'machine') });
}

export async function nextPlace(
  manager: EntityManager,
  table: 'area' | 'machine' | 'position',
): Promise<number> {
  const [row]: { next: number }[] = await manager.query(
    `select coalesce(max(place), 0) + 1 as next from ${table}`,
  );
  return row?.next ?? 0;
}
