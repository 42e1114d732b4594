// Facts of the site: supplies with a series of measured voltages, cabinets with their temperature, and to which of them a
// position belongs.

import { Injectable } from '@nestjs/common';
import type { PositionSiteView, SiteView, SupplyView } from '@drive-keep/api';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Cabinet } from './cabinet.entity.ts';
import { SupplyMeasurement } from './supply-measurement.entity.ts';
import { Supply } from './supply.entity.ts';

export type SupplyWish = Pick<Supply, 'name' | 'nominalVolts' | 'frequency'> & {
  readonly residualMilliamps?: number | null;
};
export type CabinetWish = Pick<Cabinet, 'name' | 'ambient'>;
export interface MeasurementWish {
  readonly volts: number;
  /** Now, where it is not said. */
  readonly at?: string;
  readonly note?: string;
}

/** Of a series so many of the newest are shown. */
const MOST_MEASUREMENTS = 200;

@Injectable()
export class Site {
  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  async view(): Promise<SiteView> {
    const manager = this.dataSource.manager;
    const supplies = await manager.find(Supply, { order: { name: 'ASC' } });
    const cabinets = await manager.find(Cabinet, { order: { name: 'ASC' } });
    const [atSupply, inCabinet] = [await this.counts('supply_id'), await this.counts('cabinet_id')];
    return {
      supplies: await Promise.all(supplies.map((each) => this.supplyView(each, atSupply.get(each.id) ?? 0))),
      cabinets: cabinets.map((each) => ({ ...each, positions: inCabinet.get(each.id) ?? 0 })),
    };
  }

  /** The supply and the cabinet of a position, as far as they are said. */
  async of(tag: string): Promise<PositionSiteView> {
    const { supply_id: supplyId, cabinet_id: cabinetId } = await this.row(tag);
    const manager = this.dataSource.manager;
    const supply = supplyId ? await manager.findOneBy(Supply, { id: supplyId }) : null;
    const cabinet = cabinetId ? await manager.findOneBy(Cabinet, { id: cabinetId }) : null;
    return { supply: supply && (await this.supplyView(supply, 0)), cabinet };
  }

  addSupply = (wish: SupplyWish, by: Account): Promise<SiteView> =>
    this.named(wish.name, async (manager) => {
      await manager.insert(Supply, wish);
      await this.note(by, 'supply-added', `Added the supply ${supplyText(wish)}.`, manager);
    });

  changeSupply = (id: string, wish: SupplyWish, version: number, by: Account): Promise<SiteView> =>
    this.named(wish.name, async (manager) => {
      const supply = await locked(manager, Supply, id, 'The supply');
      requireSameVersion(supply.version, version, `The supply ${supply.name}`);
      await manager.update(Supply, { id }, { ...wish, version: version + 1 });
      await this.note(by, 'supply-changed', `${supplyText(supply)} is now ${supplyText(wish)}.`, manager);
    });

  measure = (id: string, { volts, at, note = '' }: MeasurementWish, by: Account): Promise<SiteView> =>
    this.named('', async (manager) => {
      const supply = await locked(manager, Supply, id, 'The supply');
      const taken = at === undefined ? new Date() : new Date(at);
      if (taken.getTime() > Date.now() + 60_000)
        throw new ProblemException(
          422,
          'not-yet',
          'The time of the measurement lies ahead. Give the time at which it was taken.',
        );
      const row = { supplyId: id, volts: volts.toFixed(1), at: taken, person: by.person, note };
      await manager.insert(SupplyMeasurement, row);
      await this.note(
        by,
        'supply-measured',
        `Measured ${volts.toFixed(1)} V at the supply ${supply.name}.`,
        manager,
      );
    });

  addCabinet = (wish: CabinetWish, by: Account): Promise<SiteView> =>
    this.named(wish.name, async (manager) => {
      await manager.insert(Cabinet, wish);
      await this.note(by, 'cabinet-added', `Added the cabinet ${cabinetText(wish)}.`, manager);
    });

  changeCabinet = (id: string, wish: CabinetWish, version: number, by: Account): Promise<SiteView> =>
    this.named(wish.name, async (manager) => {
      const cabinet = await locked(manager, Cabinet, id, 'The cabinet');
      requireSameVersion(cabinet.version, version, `The cabinet ${cabinet.name}`);
      await manager.update(Cabinet, { id }, { ...wish, version: version + 1 });
      await this.note(by, 'cabinet-changed', `${cabinetText(cabinet)} is now ${cabinetText(wish)}.`, manager);
    });

  /** Nothing: it belongs to none. */
  async place(
    tag: string,
    supplyId: string | null,
    cabinetId: string | null,
    by: Account,
  ): Promise<PositionSiteView> {
    const { id } = await this.row(tag);
    await this.dataSource.transaction(async (manager) => {
      const supply = supplyId ? await locked(manager, Supply, supplyId, 'The supply') : null;
      const cabinet = cabinetId ? await locked(manager, Cabinet, cabinetId, 'The cabinet') : null;
      await manager.query('update position set supply_id = $2, cabinet_id = $3 where id = $1', [
        id,
        supplyId,
        cabinetId,
      ]);
      const text = `Belongs to ${supply ? `the supply ${supply.name}` : 'no supply'} and ${cabinet ? `the cabinet ${cabinet.name}` : 'no cabinet'}.`;
      await this.note(by, 'position-placed', text, manager, tag);
    });
    return this.of(tag);
  }

  private async supplyView(supply: Supply, positions: number): Promise<SupplyView> {
    const rows = await this.dataSource.getRepository(SupplyMeasurement).find({
      where: { supplyId: supply.id },
      order: { at: 'DESC', id: 'DESC' },
      take: MOST_MEASUREMENTS,
    });
    const measurements = rows.map(({ volts, at, person, note }) => ({
      ...{ volts: Number(volts), person, note },
      at: at.toISOString(),
    }));
    return { ...supply, measurements, positions };
  }

  private async counts(column: 'supply_id' | 'cabinet_id'): Promise<ReadonlyMap<string, number>> {
    const rows: { id: string; count: string }[] = await this.dataSource.query(
      `select ${column} as id, count(*) from position where ${column} is not null and retired_at is null group by 1`,
    );
    return new Map(rows.map(({ id, count }) => [id, Number(count)]));
  }

  private async row(
    tag: string,
  ): Promise<{ id: string; supply_id: string | null; cabinet_id: string | null }> {
    const [row] = await this.dataSource.query<
      { id: string; supply_id: string | null; cabinet_id: string | null }[]
    >('select id, supply_id, cabinet_id from position where tag = $1', [tag]);
    if (!row) throw notFound(`The position ${tag}`);
    return row;
  }

  /** Names are of one thing each: the later of two people is told. */
  private async named(name: string, work: (manager: EntityManager) => Promise<void>): Promise<SiteView> {
    try {
      await this.dataSource.transaction(work);
    } catch (error) {
      if ((error as { code?: string }).code === UNIQUE)
        throw new ProblemException(
          409,
          'name-taken',
          `${name} is there already. Give another name. Nothing was changed.`,
        );
      throw error;
    }
    return this.view();
  }

  private note = ({ person }: Account, action: string, text: string, manager: EntityManager, tag?: string) =>
    this.logbook.write({ person, action, text, ...(tag ? { tag } : {}) }, manager);
}

/** Error code of PostgreSQL: unique_violation. */
const UNIQUE = '23505';

async function locked<T extends Supply | Cabinet>(
  manager: EntityManager,
  entity: new () => T,
  id: string,
  what: string,
): Promise<T> {
  const found = await manager
    .createQueryBuilder(entity, 'each')
    .setLock('pessimistic_write')
    .where('each.id = :id', { id })
    .getOne();
  if (!found) throw notFound(what);
  return found;
}

const supplyText = ({ name, nominalVolts, frequency, residualMilliamps: trips }: SupplyWish): string =>
  `${name}, ${nominalVolts} V ${frequency} Hz${trips ? `, residual-current device of ${trips} mA` : ''}`;
const cabinetText = ({ name, ambient }: CabinetWish): string =>
  `${name}, ${ambient === null ? 'temperature not told' : `up to ${ambient} °C`}`;
