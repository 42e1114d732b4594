// The register as people see it: positions in plant order, each with its unit and its state.

import { Injectable } from '@nestjs/common';
import type { FormerUnitView, PositionDetailView, PositionView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { DataSource, IsNull, Not } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { PlantSettings } from '../register/plant-settings.service.ts';
import { Unit } from '../register/unit.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Drift } from '../sets/drift.service.ts';
import { Clock } from '../storage/clock.ts';
import { SharedAnswer } from '../storage/shared-answer.ts';
import { dayOf, Tolerations } from '../tolerations/tolerations.service.ts';
import { stateOf } from './position-state.ts';
import { inPlantOrder, rowsOn, type Row } from './register-rows.ts';

@Injectable()
export class Overview {
  private readonly shared = new SharedAnswer(() => this.all());

  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly drift: Drift,
    private readonly contents: ContentStore,
    private readonly tolerations: Tolerations,
    private readonly clock: Clock,
    private readonly settings: PlantSettings,
  ) {}

  /** All positions in plant order. Thousands are put into words once for all who ask at the same time. */
  positions = (): Promise<readonly PositionView[]> => this.shared.ask();

  private async all(): Promise<readonly PositionView[]> {
    const [rows, looked] = await Promise.all([
      this.dataSource.query<Row[]>(rowsOn(dayOf(this.clock.now()))),
      this.tolerations.among(),
    ]);
    return this.views(inPlantOrder(rows), (row) => looked.has(row.id));
  }

  async detail(tag: string): Promise<PositionDetailView> {
    const [row]: Row[] = await this.dataSource.query(`${rowsOn(dayOf(this.clock.now()))} where p.tag = $1`, [
      tag,
    ]);
    if (!row) throw notFound(`The position ${tag}`);
    const formerUnits = await this.formerUnits(row);
    const [position] = await this.views([row], () => true);
    if (!position) throw notFound(`The position ${tag}`);
    const axes: unknown[] = await this.dataSource.query(
      'select 1 from machine_controller c join position p on p.machine_id = c.machine_id where p.id = $1',
      [row.id],
    );
    return {
      ...position,
      version: row.version,
      unitVersion: row.unit_version,
      retiredWhy: row.retired_why,
      isAxis: axes.length > 0,
      formerUnits,
    };
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
      this.contents.getIfGood(base_hash ?? ''),
      this.contents.getIfGood(newest_hash ?? ''),
    ]);
    if (!baseline || !newest) return 0;
    const decisions = await this.tolerations.inForce({ positionId: id, baseline, newest }, dayOf(new Date()));
    return decisions.filter(({ kind }) => kind === 'tolerate').length;
  }

  /** A damaged dictionary stops no page: the register goes on with what its row says of the model. */
  private async namesOf(id: string): Promise<ModelNames> {
    try {
      return await this.dictionaries.get(id);
    } catch (error) {
      if (!(error instanceof ProblemException)) throw error;
      return { ...(await this.dictionaries.named(id)), ratings: [], regions: [] };
    }
  }

  /** What has to be waited for is asked for the few that need it; the thousands of others are only put into words. */
  private async views(
    rows: readonly Row[],
    mayTolerate: (row: Row) => boolean,
  ): Promise<readonly PositionView[]> {
    const ids = [...new Set(rows.map((row) => row.dictionary_id))];
    const dictionaries = new Map(
      await Promise.all(ids.map(async (id) => [id, await this.namesOf(id)] as const)),
    );
    const damaged = await this.contents.knownDamage();
    const isDamaged = ({ base_hash: base, newest_hash: newest }: Row) =>
      damaged.has(base ?? '') || damaged.has(newest ?? '');
    const counted = new Map<Row, number | null>();
    const tolerated = new Map<Row, number>();
    for (const row of rows) {
      const { base_hash: base, newest_hash: newest } = row;
      if (isDamaged(row)) counted.set(row, null);
      if (base === null || newest === null || row.differences !== null || counted.has(row)) continue;
      counted.set(row, base === newest ? 0 : await this.drift.count(base, newest));
    }
    for (const row of rows) {
      const drift = isDamaged(row) ? null : (counted.get(row) ?? row.differences);
      if (drift && mayTolerate(row)) tolerated.set(row, await this.tolerated(row));
    }
    const { overdueHours } = await this.settings.view();
    const at = { now: this.clock.now().getTime(), overdueHours };
    return rows.map((row) => {
      const dictionary = dictionaries.get(row.dictionary_id);
      if (!dictionary) throw new Error(`${row.tag} has no dictionary`);
      const drift = isDamaged(row) ? null : (counted.get(row) ?? row.differences);
      const known = { drift, tolerated: tolerated.get(row) ?? 0, damaged: isDamaged(row) };
      return positionView(row, dictionary, known, at);
    });
  }
}

type ModelNames = Pick<Dictionary, 'id' | 'maker' | 'name' | 'ratings' | 'regions'>;

function positionView(
  row: Row,
  dictionary: ModelNames,
  counted: Pick<PositionView, 'drift' | 'tolerated' | 'damaged'>,
  { now, overdueHours }: { readonly now: number; readonly overdueHours: number },
): PositionView {
  const { outcome, ended_at: endedAt, try_text: text } = row;
  const position = {
    tag: row.tag,
    area: row.area,
    machine: row.machine,
    retiredAt: row.retired_at?.toISOString() ?? null,
    duty: row.duty,
    criticality: row.criticality,
    motor: row.motor,
    motorId: row.motor_id,
    unit: unitView(row, dictionary),
    ...counted,
    newestBackup: row.newest_at?.toISOString() ?? null,
    newestIsOfUnit: row.newest_unit_id === row.unit_id,
    findings:
      row.retired_at === null &&
      row.newest_unit_id === row.unit_id &&
      row.newest_hash === row.checked_hash &&
      row.newest_hash !== null
        ? { stop: row.stop, look: row.look }
        : null,
    baselineRevision: row.revision,
    lastTry:
      outcome && endedAt
        ? {
            outcome,
            at: endedAt.toISOString(),
            text: text ?? '',
            foundSerial: numberOrNull(row.found_serial),
          }
        : null,
  };
  return { ...position, state: stateOf(position, now, overdueHours) };
}

function unitView(row: Row, dictionary: ModelNames): PositionView['unit'] {
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

const numberOrNull = (text: string | null): number | null => (text === null ? null : Number(text));
