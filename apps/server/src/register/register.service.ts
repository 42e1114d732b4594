// The register as people see it: positions in plant order, each with its unit and its state.

import { Injectable } from '@nestjs/common';
import type { AreaView, OutcomeCode, PositionDetailView, PositionView, RegisterView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { dayOf, Tolerations } from '../decisions/tolerations.service.ts';
import { notFound } from '../problems/problem.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Drift } from '../sets/drift.service.ts';
import { Plant } from './plant.entity.ts';
import { Position } from './position.entity.ts';
import { Unit } from './unit.entity.ts';

const ROWS = `
select p.id, a.name as area, m.name as machine, p.tag, p.duty, p.criticality, p.motor,
       u.dictionary_id, u.rating, u.region, u.serial, u.firmware, l.name as line, u.line_address,
       newest.taken_at as newest_at, newest.content_hash as newest_hash,
       base.revision, base.content_hash as base_hash,
       try.outcome, try.ended_at, try.text as try_text
from position p
join machine m on m.id = p.machine_id
join area a on a.id = m.area_id
join unit u on u.position_id = p.id and u.removed_at is null
left join line l on l.id = u.line_id
left join lateral (
  select taken_at, content_hash from backup where position_id = p.id order by taken_at desc, seq desc limit 1
) newest on true
left join lateral (
  select revision, content_hash from baseline where position_id = p.id order by revision desc limit 1
) base on true
left join lateral (
  select outcome, ended_at, text from job_item where unit_id = u.id and ended_at is not null
  order by ended_at desc limit 1
) try on true
`;

interface Row {
  id: string;
  area: string;
  machine: string;
  tag: string;
  duty: string;
  criticality: 'low' | 'middle' | 'high';
  motor: string;
  dictionary_id: string;
  rating: string;
  region: string;
  /** A bigint, which the driver gives as text. */
  serial: string;
  firmware: string;
  line: string | null;
  line_address: number | null;
  newest_at: Date | null;
  newest_hash: string | null;
  revision: number | null;
  base_hash: string | null;
  outcome: OutcomeCode | null;
  ended_at: Date | null;
  try_text: string | null;
}

/** A position with the unit that sits there now and its line. */
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

  async view(): Promise<RegisterView> {
    const rows: Row[] = await this.dataSource.query(`${ROWS} order by a.place, m.place, p.place`);
    const plant = await this.dataSource.getRepository(Plant).findOneBy({ id: true });
    const looked = await this.tolerations.among(rows.map(({ id }) => id));
    const positions = await Promise.all(rows.map((row) => this.position(row, looked.has(row.id))));
    return { plant: plant?.name ?? '', areas: grouped(rows, positions) };
  }

  async detail(tag: string): Promise<PositionDetailView> {
    const [row]: Row[] = await this.dataSource.query(`${ROWS} where p.tag = $1`, [tag]);
    if (!row) throw notFound(`The position ${tag}`);
    return { ...(await this.position(row, true)), area: row.area, machine: row.machine };
  }

  /** All of them or a problem that names those that do not exist. */
  async find(tags: readonly string[]): Promise<readonly PositionWithUnit[]> {
    const found = await Promise.all(tags.map((tag) => this.unitAt(tag)));
    return found;
  }

  async unitAt(tag: string): Promise<PositionWithUnit> {
    const unit = await this.dataSource
      .getRepository(Unit)
      .createQueryBuilder('unit')
      .innerJoinAndSelect('unit.position', 'position')
      .leftJoinAndSelect('unit.line', 'line')
      .where('position.tag = :tag and unit.removedAt is null', { tag })
      .getOne();
    if (!unit) throw notFound(`The position ${tag}`);
    return { position: unit.position, unit };
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

  private async position(row: Row, mayTolerate: boolean): Promise<PositionView> {
    const dictionary = await this.dictionaries.get(row.dictionary_id);
    const both = row.newest_hash !== null && row.base_hash !== null;
    const drift = both ? await this.drift.count(row.base_hash ?? '', row.newest_hash ?? '') : null;
    return {
      tag: row.tag,
      duty: row.duty,
      criticality: row.criticality,
      motor: row.motor,
      unit: {
        maker: dictionary.maker,
        model: dictionary.name,
        dictionary: dictionary.id,
        rating: row.rating,
        ratingName: dictionary.ratings.find((rating) => rating.id === row.rating)?.name ?? row.rating,
        region: row.region,
        regionName: dictionary.regions.find((region) => region.id === row.region)?.name ?? row.region,
        serial: Number(row.serial),
        firmware: row.firmware,
        line:
          row.line === null || row.line_address === null
            ? null
            : { name: row.line, address: row.line_address },
      },
      drift,
      tolerated: drift && mayTolerate ? await this.tolerated(row) : 0,
      newestBackup: row.newest_at?.toISOString() ?? null,
      baselineRevision: row.revision,
      lastTry:
        row.outcome && row.ended_at
          ? { outcome: row.outcome, at: row.ended_at.toISOString(), text: row.try_text ?? '' }
          : null,
    };
  }
}

function grouped(rows: readonly Row[], positions: readonly PositionView[]): AreaView[] {
  const areas: { name: string; machines: { name: string; positions: PositionView[] }[] }[] = [];
  rows.forEach((row, at) => {
    let area = areas.at(-1);
    if (area?.name !== row.area) areas.push((area = { name: row.area, machines: [] }));
    let machine = area.machines.at(-1);
    if (machine?.name !== row.machine) area.machines.push((machine = { name: row.machine, positions: [] }));
    const position = positions[at];
    if (position) machine.positions.push(position);
  });
  return areas;
}
