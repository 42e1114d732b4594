// What holds for the whole plant. Its time zone and the way it writes decimals are taken over by the server process at once;
// other processes of the same plant take them over when they next look.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { PlantView } from '@drive-keep/api';
import { writeDecimalsWith } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { leastRoles } from '../plant/permissions.ts';
import { Plant } from '../plant/plant.entity.ts';
import { ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';

export type PlantWish = Omit<PlantView, 'version' | 'isCopy'>;

/** How soon another process sees a change, in ms. */
const LOOK_MS = 30_000;
/** As it is before anybody has said anything. */
const UNNAMED: PlantView = {
  ...{ name: '', secondSignature: false, nightlyAt: '02:00', overdueHours: 36, timeZone: '', address: '' },
  ...{ mainsVoltage: null, mainsFrequency: null, decimalMark: 'point', isCopy: false },
  may: leastRoles(null),
  // What the row gets when it is made.
  version: 1,
};

const NAMES: Readonly<Record<keyof PlantWish, string>> = {
  name: 'name',
  secondSignature: 'second signature',
  nightlyAt: 'nightly time',
  overdueHours: 'overdue after',
  mainsVoltage: 'mains voltage',
  mainsFrequency: 'mains frequency',
  timeZone: 'time zone',
  decimalMark: 'decimals',
  address: 'address',
  may: 'who may what',
};

@Injectable()
export class PlantSettings implements OnApplicationShutdown {
  private readonly logger = new Logger('PlantSettings');
  /** That of the machine, where the plant says nothing. */
  private readonly ownZone = process.env.TZ;
  private watching: NodeJS.Timeout | undefined;

  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  async view(): Promise<PlantView> {
    const plant = await this.load();
    return plant ? viewOf(plant) : UNNAMED;
  }

  async change(wish: PlantWish, version: number, { person }: Account): Promise<PlantView> {
    requireZone(wish.timeZone);
    const changed = await this.dataSource.transaction(async (manager) => {
      await manager.query(`select pg_advisory_xact_lock(hashtextextended('plant', 0))`);
      const plant = await manager.findOneBy(Plant, { id: true });
      const before = plant ? viewOf(plant) : UNNAMED;
      requireSameVersion(before.version, version, 'The plant');
      const fresh = plant ?? manager.create(Plant, { id: true });
      const saved = await manager.save(Plant, Object.assign(fresh, wish));
      const what = differences(before, wish);
      if (what !== '') await this.logbook.write({ person, action: 'plant-changed', text: what }, manager);
      return viewOf(saved);
    });
    this.takeOver(changed);
    return changed;
  }

  /** A restored copy is told to be the plant from now on: it talks to units again. */
  async beTheOne({ person }: Account): Promise<PlantView> {
    await this.dataSource.getRepository(Plant).update({ id: true }, { isCopy: false });
    const text = 'Said that this restored copy is the plant from now on; it talks to units again.';
    await this.logbook.write({ person, action: 'copy-became-plant', text });
    return this.view();
  }

  /** Takes over what the plant says, now and whenever another process has changed it. */
  async watch(): Promise<void> {
    this.takeOver(await this.view());
    this.watching = setInterval(() => {
      this.view()
        .then((plant) => this.takeOver(plant))
        .catch((error: unknown) => this.logger.warn(String(error)));
    }, LOOK_MS).unref();
  }

  onApplicationShutdown(): void {
    clearInterval(this.watching);
  }

  private takeOver({ timeZone, decimalMark }: PlantView): void {
    writeDecimalsWith(decimalMark);
    const zone = timeZone === '' ? this.ownZone : timeZone;
    // Node.js looks at it anew when it is set.
    if (zone === process.env.TZ) return;
    if (zone === undefined) delete process.env.TZ;
    else process.env.TZ = zone;
  }

  private load(): Promise<Plant | null> {
    return this.dataSource.getRepository(Plant).findOneBy({ id: true });
  }
}

function viewOf(plant: Plant): PlantView {
  const { name, secondSignature, nightlyAt, overdueHours, mainsVoltage, mainsFrequency } = plant;
  const { timeZone, decimalMark, address, isCopy, version } = plant;
  return {
    ...{ name, secondSignature, nightlyAt, overdueHours, mainsVoltage, mainsFrequency },
    ...{ timeZone, decimalMark, address, isCopy, version },
    may: leastRoles(plant),
  };
}

/** `name: "" to "Fennimoor"; …` of what is no longer as it was. */
function differences(before: PlantView, after: PlantWish): string {
  const changed = (Object.keys(NAMES) as (keyof PlantWish)[]).filter(
    (key) => JSON.stringify(before[key]) !== JSON.stringify(after[key]),
  );
  return changed
    .map((key) => `${NAMES[key]}: ${JSON.stringify(before[key])} to ${JSON.stringify(after[key])}`)
    .join('; ');
}

function requireZone(zone: string): void {
  try {
    if (zone !== '') new Intl.DateTimeFormat('en', { timeZone: zone });
  } catch {
    const detail = `There is no time zone "${zone}". Give its name as Europe/Paris, or leave it empty for that of the server. Nothing was changed.`;
    throw new ProblemException(422, 'time-zone', detail);
  }
}
