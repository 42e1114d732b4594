// The site of the demo plant: two supplies with what was measured at them, and a cabinet for each area and machine group.

import type { EntityManager } from 'typeorm';
import { Cabinet } from '../register/cabinet.entity.ts';
import { SupplyMeasurement } from '../register/supply-measurement.entity.ts';
import { Supply } from '../register/supply.entity.ts';
import { demoTime, type Placed } from './demo-history.ts';
import { MAINS_VOLTS, NIGHTS, TECHNICIAN } from './story.ts';

const MEASURED_HOUR = 11;
const KILN = 'Kiln 1';

interface ToldSupply {
  readonly name: string;
  readonly residualMilliamps: number;
  readonly measured: readonly { readonly nightsAgo: number; readonly volts: number; readonly note: string }[];
}

const SUPPLIES: readonly ToldSupply[] = [
  {
    name: 'Main supply',
    residualMilliamps: 0,
    measured: [
      { nightsAgo: NIGHTS - 20, volts: 402, note: 'at the main board, by day' },
      { nightsAgo: 75, volts: 404.5, note: 'at the main board, by day' },
    ],
  },
  {
    name: 'Kiln supply',
    residualMilliamps: 300,
    measured: [
      { nightsAgo: NIGHTS - 20, volts: 411, note: 'tap of the transformer at +5 %' },
      { nightsAgo: 210, volts: 425.5, note: 'after the second transformer was switched off' },
      { nightsAgo: 40, volts: MAINS_VOLTS, note: 'by night, kiln at heat' },
    ],
  },
];

/** The warmest of each area, in °C; the presses stand in the open hall, and nobody has measured. */
const AMBIENT: Readonly<Record<string, number>> = {
  'Body preparation': 35,
  Drying: 42,
  Glazing: 32,
  [KILN]: 48,
  'Sorting and packing': 30,
};

export async function makeSite(manager: EntityManager, placed: readonly Placed[], now: Date): Promise<void> {
  const supplies = new Map<string, string>();
  for (const { name, measured, residualMilliamps } of SUPPLIES) {
    const { id } = await manager.save(Supply, {
      ...{ name, nominalVolts: 400, frequency: 50, residualMilliamps },
    });
    supplies.set(name, id);
    for (const { nightsAgo, volts, note } of measured) {
      const row = { supplyId: id, volts: volts.toFixed(1), person: TECHNICIAN, note };
      await manager.insert(SupplyMeasurement, { ...row, at: demoTime(now, nightsAgo, MEASURED_HOUR) });
    }
  }
  const cabinets = new Map<string, string>();
  for (const { told, position } of placed) {
    const name = `${told.area}, ${told.machine.toLowerCase()}`;
    const ambient = AMBIENT[told.area] ?? null;
    const cabinet = cabinets.get(name) ?? (await manager.save(Cabinet, { name, ambient })).id;
    cabinets.set(name, cabinet);
    const supply = supplies.get(told.area === KILN ? 'Kiln supply' : 'Main supply');
    await manager.query('update position set supply_id = $2, cabinet_id = $3 where id = $1', [
      position.id,
      supply,
      cabinet,
    ]);
  }
}
