// The register as people see it: positions in plant order, each with its unit and its state.

import { Injectable } from '@nestjs/common';
import type { FormerUnitView, PositionDetailView, PositionView, RegisterOutline } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { DataSource, IsNull, Not } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { dayOf, Tolerations } from '../decisions/tolerations.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Drift } from '../sets/drift.service.ts';
import { Position } from './position.entity.ts';
import { inPlantOrder, ROWS, type Row } from './register-rows.ts';
import { Unit } from './unit.entity.ts';

/** A position with the unit that sits there now, or was the last to sit there, and its line. */
export type PositionWithUnit = { readonly position: Position; readonly unit: Unit };

@Injectable()
export class Register {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly drift: Drift,
    private readonly contents: ContentStore,
    private readonly tolerations: Tolerations,
  ) {}

  /** All positions in plant order. */
  async positions(): Promise<readonly PositionView[]> {
    const [rows, looked] = await Promise.all([this.dataSource.query<Row[]>(ROWS), this.tolerations.among()]);
    return this.views(inPlantOrder(rows), (row) => looked.has(row.id));
  }

  async detail(tag: string): Promise<PositionDetailView> {
    const [row]: Row[] = await this.dataSource.query(`${ROWS} where p.tag = $1`, [tag]);
    if (!row) throw notFound(`The position ${tag}`);
    const formerUnits = await this.formerUnits(row);
    const [position] = await this.views([row], () => true);
    if (!position) throw notFound(`The position ${tag}`);
    const axes: unknown[] = await this.dataSource.query(
      'select 1 from machine_controller c join position p on p.machine_id = c.machine_id where p.id = $1',
      [row.id],
    );
    return { ...position, retiredWhy: row.retired_why, isAxis: axes.length > 0, formerUnits };
  }

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
    const retired = found.find(({ position }) => position.retiredAt !== null);
    if (!retired) return found;
    const detail = `${retired.position.tag} is retired: no unit is there. Bring it back into the register first.`;
    throw new ProblemException(409, 'retired', `${detail} Nothing was done.`);
  }

  /** All of them or a problem that names those that do not exist. */
  async find(tags: readonly string[]): Promise<readonly PositionWithUnit[]> {
    return Promise.all(tags.map((tag) => this.unitAt(tag)));
  }

  async unitAt(tag: string): Promise<PositionWithUnit> {
    const unit = await this.dataSource
      .getRepository(Unit)
      .createQueryBuilder('unit')
      .innerJoinAndSelect('unit.position', 'position')
      .leftJoinAndSelect('unit.line', 'line')
      .where('position.tag = :tag', { tag })
      .orderBy('unit.removed_at', 'DESC', 'NULLS FIRST')
      .limit(1)
      .getOne();
    if (!unit) throw notFound(`The position ${tag}`);
    return { position: unit.position, unit };
  }

  private async formerUnits({ id, unit_id }: Row): Promise<readonly FormerUnitView[]> {
    const units = await this.dataSource.getRepository(Unit).find({
      where: { position: { id }, removedAt: Not(IsNull()), id: Not(unit_id) },
      order: { removedAt: 'DESC' },
    });
    return Promise.all(
      units.map(async ({ dictionaryId, rating, serial, firmware, installedAt, removedAt, removedWhy }) => {
        const { maker, name } = await this.dictionaries.get(dictionaryId);
        return {
          model: `${maker} ${name}`,
          rating,
          serial,
          firmware,
          installedAt: installedAt.toISOString(),
          removedAt: removedAt?.toISOString() ?? '',
          why: removedWhy,
        };
      }),
    );
  }

  /** Differences that somebody has accepted for a while. */
  private async tolerated({ id, base_hash, newest_hash }: Row): Promise<number> {
    const [baseline, newest] = await Promise.all([
      this.contents.get(base_hash ?? ''),
      this.contents.get(newest_hash ?? ''),
    ]);
    const decisions = await this.tolerations.inForce({ positionId: id, baseline, newest }, dayOf(new Date()));
    return decisions.filter(({ kind }) => kind === 'tolerate').length;
  }

  /** What has to be waited for is asked for the few that need it; the thousands of others are only put into words. */
  private async views(
    rows: readonly Row[],
    mayTolerate: (row: Row) => boolean,
  ): Promise<readonly PositionView[]> {
    const ids = [...new Set(rows.map((row) => row.dictionary_id))];
    const dictionaries = new Map(
      await Promise.all(ids.map(async (id) => [id, await this.dictionaries.get(id)] as const)),
    );
    const counted = new Map<Row, number | null>();
    const tolerated = new Map<Row, number>();
    for (const row of rows) {
      const { base_hash: base, newest_hash: newest } = row;
      if (base === null || newest === null || row.differences !== null) continue;
      counted.set(row, base === newest ? 0 : await this.drift.count(base, newest));
    }
    for (const row of rows) {
      const drift = counted.get(row) ?? row.differences;
      if (drift && mayTolerate(row)) tolerated.set(row, await this.tolerated(row));
    }
    return rows.map((row) => {
      const dictionary = dictionaries.get(row.dictionary_id);
      if (!dictionary) throw new Error(`${row.tag} has no dictionary`);
      const drift = counted.get(row) ?? row.differences;
      return positionView(row, dictionary, drift, tolerated.get(row) ?? 0);
    });
  }
}

function positionView(
  row: Row,
  dictionary: Dictionary,
  drift: number | null,
  tolerated: number,
): PositionView {
  const { outcome, ended_at: endedAt, try_text: text } = row;
  return {
    tag: row.tag,
    area: row.area,
    machine: row.machine,
    retiredAt: row.retired_at?.toISOString() ?? null,
    duty: row.duty,
    criticality: row.criticality,
    motor: row.motor,
    motorId: row.motor_id,
    unit: unitView(row, dictionary),
    drift,
    tolerated,
    newestBackup: row.newest_at?.toISOString() ?? null,
    newestIsOfUnit: row.newest_unit_id === row.unit_id,
    baselineRevision: row.revision,
    lastTry: outcome && endedAt ? { outcome, at: endedAt.toISOString(), text: text ?? '' } : null,
  };
}

function unitView(row: Row, dictionary: Dictionary): PositionView['unit'] {
  const { line, line_address: address } = row;
  return {
    maker: dictionary.maker,
    model: dictionary.name,
    dictionary: dictionary.id,
    rating: row.rating,
    ratingName: dictionary.ratings.find((rating) => rating.id === row.rating)?.name ?? row.rating,
    region: row.region,
    regionName: dictionary.regions.find((region) => region.id === row.region)?.name ?? row.region,
    serial: Number(row.serial),
    firmware: row.firmware,
    line: line === null || address === null ? null : { name: line, address },
  };
}
