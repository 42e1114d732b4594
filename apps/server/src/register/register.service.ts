// Places and who sits there: positions with their units, and what the register has to choose from. What state they are in
// is told by the overview.

import { Injectable } from '@nestjs/common';
import type { RegisterOutline } from '@drive-keep/api';
import { DataSource, IsNull, Not } from 'typeorm';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Position } from './position.entity.ts';
import { Unit } from './unit.entity.ts';

/** A position with the unit that sits there now, or was the last to sit there, and its line. */
export type PositionWithUnit = { readonly position: Position; readonly unit: Unit };

@Injectable()
export class Register {
  constructor(private readonly dataSource: DataSource) {}

  /** What there is to choose from. */
  async outline(): Promise<RegisterOutline> {
    const machines: { area: string; machine: string; positions: number }[] = await this.dataSource.query(
      `select a.name as area, m.name as machine, count(p.id)::int as positions
         from area a join machine m on m.area_id = a.id
         left join position p on p.machine_id = m.id and p.retired_at is null
        group by a.name, a.place, m.name, m.place order by a.place, a.name, m.place, m.name`,
    );
    const models: { model: string; name: string; positions: number }[] = await this.dataSource.query(
      `select d.model, min(d.maker || ' ' || d.name) as name, count(*)::int as positions
         from unit u join dictionary d on d.id = u.dictionary_id
        where u.removed_at is null group by d.model order by 2`,
    );
    const retired = await this.dataSource.getRepository(Position).countBy({ retiredAt: Not(IsNull()) });
    const areas = [...new Set(machines.map(({ area }) => area))].map((name) => ({
      name,
      machines: machines
        .filter(({ area }) => area === name)
        .map(({ machine, positions }) => ({ name: machine, positions })),
    }));
    return { areas, models, retired };
  }

  /** All of them, in place, or a problem that names the first that is not. */
  async inPlace(tags: readonly string[]): Promise<readonly PositionWithUnit[]> {
    const found = await this.find(tags);
    const gone = found.find(({ position, unit }) => position.retiredAt !== null || unit.removedAt !== null);
    if (!gone) return found;
    const why = gone.position.retiredAt ? 'is retired: no unit is there' : 'has no unit';
    const detail = `${gone.position.tag} ${why}. Bring it back into the register first.`;
    throw new ProblemException(409, 'retired', `${detail} Nothing was done.`);
  }

  /** A problem where this unit does not sit at the position any more. */
  async requireInPlace(tag: string, unitId: string): Promise<PositionWithUnit> {
    const [at] = await this.inPlace([tag]);
    if (at?.unit.id === unitId) return at;
    const detail = `Another unit sits at ${tag} since. Plan anew from a backup of it. Nothing was done.`;
    throw new ProblemException(409, 'other-unit', detail);
  }

  /** All of them, in this order, by one question; or a problem that names those that do not exist. */
  async find(tags: readonly string[]): Promise<readonly PositionWithUnit[]> {
    const units = await this.dataSource
      .getRepository(Unit)
      .createQueryBuilder('unit')
      .innerJoinAndSelect('unit.position', 'position')
      .leftJoinAndSelect('unit.line', 'line')
      .where('position.tag = any(:tags)', { tags })
      .orderBy('unit.removed_at', 'DESC', 'NULLS FIRST')
      .getMany();
    // The one that is there, or the last that was.
    const byTag = new Map([...units].reverse().map((unit) => [unit.position.tag, unit]));
    const unknown = tags.filter((tag) => !byTag.has(tag));
    if (unknown.length > 0) throw notFound(`The position ${unknown.join(', ')}`);
    return tags.flatMap((tag) => {
      const unit = byTag.get(tag);
      return unit ? [{ position: unit.position, unit }] : [];
    });
  }

  async unitAt(tag: string): Promise<PositionWithUnit> {
    const [at] = await this.find([tag]);
    if (!at) throw notFound(`The position ${tag}`);
    return at;
  }
}
