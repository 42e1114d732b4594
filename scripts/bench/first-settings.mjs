// What a key on a sheet of first settings costs in its worker: the whole set, its findings, the table of its duty and what every
// combination of its contacts does, for each duty on each model that takes it.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { modelsFolder } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const KEYS = 30;
const TOLD = {
  ...{ 'plate.power': '1.5', 'plate.voltage': '400', 'plate.frequency': '50', 'plate.speed': '1420' },
  ...{ 'plate.powerFactor': '0.79', 'supply.volts': '400', 'supply.hertz': '50' },
  ...{ 'ask.setpoint': '4', 'ask.process.full': '8', 'ask.brake.current': '2', 'ask.resistor.ohms': '200' },
};

export async function firstSettingsBench() {
  const { loadModels } = await import('@drive-keep/plant-sim');
  const { draftInputOf, draftSheet } = await import('@drive-keep/core/start');
  const { bridgeBeside } = await import('../../apps/server/dist/demo/describe-plant.js');
  const bridge = bridgeBeside(modelsFolder);
  const folder = join(modelsFolder, '../starting-points');
  const medians = [];
  const all = [];
  for (const file of readdirSync(folder))
    for (const dictionary of loadModels(modelsFolder).values()) {
      const point = readFileSync(join(folder, file), 'utf8');
      const kept = { dictionary, region: dictionary.regions[0].id, rating: null, point, base: null };
      const press = (current) => {
        const told = Object.entries({ ...TOLD, 'plate.current': current });
        const fields = told.map(([key, text]) => ({ key, text, why: '' }));
        return draftSheet(draftInputOf(bridge, { ...kept, fields }));
      };
      if (press('3.6').refusals.length > 0) continue;
      const times = Array.from({ length: KEYS }, (_, at) => {
        const begin = performance.now();
        press(`3.${at % 10}`);
        return performance.now() - begin;
      });
      medians.push(median(times));
      all.push(...times);
    }
  const within = all.sort((a, b) => a - b)[Math.floor(all.length * 0.95)];
  return [
    {
      what: `a key on a sheet of first settings (${medians.length} duties on models)`,
      measured: `${showMs(median(medians))} median, ${showMs(Math.max(...medians))} slowest, 95 % within ${showMs(within)}`,
      wanted: 'below 50 ms',
    },
  ];
}
