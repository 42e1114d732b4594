import { expect, it } from '@jest/globals';
import { loadModels, Plant } from '@drive-keep/plant-sim';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import { bridgeBeside, describePlant } from './describe-plant.ts';

const dictionaries = loadModels(MODELS_FOLDER);
const described = describePlant(dictionaries, bridgeBeside(MODELS_FOLDER));
const resting = { ...described, units: described.units.map((each) => ({ ...each, runContact: false })) };

it('hangs on every unit what its position is wired with, and with all of it at rest none starts, fails or is locked', () => {
  const plant = new Plant(resting, { dictionaries });
  const odd = [...plant.units.values()].flatMap(({ wired, description: { tag } }) => {
    const report = wired?.report;
    const rests = report && !report.runs && report.fault === null && !report.locked && !report.misread;
    return rests ? [] : [[tag, report]];
  });
  expect(odd).toEqual([]);
  expect(plant.units.size).toBeGreaterThan(30);
});

it('starts each unit that its contacts command when somebody works the one that runs it', () => {
  const plant = new Plant(resting, { dictionaries });
  const unit = [...plant.units.values()].find(({ description }) => description.tag === 'KL1-RD-07');
  unit?.wired?.work('S1', 1);
  expect([unit?.wired?.report.runs, unit?.running]).toEqual([true, true]);
  unit?.wired?.cut(Object.keys(unit.wired.floor.plan.conductors)[0] ?? '', true);
  expect(unit?.wired?.report.runs).toBe(false);
});

it('runs by its contacts what production runs, and all of it stands still when the hands let go', () => {
  const plant = new Plant(described, { dictionaries });
  const worked = [...plant.units.values()].filter(({ description }) => description.hands);
  expect(worked.length).toBeGreaterThan(25);
  const odd = worked.filter(({ wired }) => !wired?.report.runs || wired.report.fault !== null);
  expect(odd.map(({ description }) => description.tag)).toEqual([]);
  for (const unit of worked) unit.runContact = false;
  expect(worked.filter(({ wired }) => wired?.report.runs).map(({ description }) => description.tag)).toEqual(
    [],
  );
});
