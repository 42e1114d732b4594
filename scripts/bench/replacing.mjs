// What the sheet of a replacement costs: opened, and worked out anew after an answer, with the proof of same behaviour; and what a
// whole model costs to survey.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import {
  NOTHING_SAID,
  readCrossReference,
  replacementSheet,
  sayingsFrom,
  survey,
} from '@drive-keep/core/replace';
import { loadModels } from '@drive-keep/plant-sim';
import { bridgeBeside } from '../../apps/server/dist/demo/describe-plant.js';
import { demoPositions } from '../../apps/server/dist/demo/demo-positions.js';
import { demoWiring } from '../../apps/server/dist/demo/demo-wirings.js';
import { setAt } from '../../apps/server/dist/demo/position-history.js';
import { root } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const MODELS = join(root, 'packages/catalogue/models');
const ANSWERS = 15;

function inputs() {
  const models = loadModels(MODELS);
  const bridge = bridgeBeside(MODELS);
  const folder = join(MODELS, '../cross-references');
  return readdirSync(folder).flatMap((file) => {
    const [oldModel, freshModel] = file.replace('.yaml', '').split('--');
    const [old, fresh] = [models.get(`${oldModel}@1`), models.get(`${freshModel}@1`)];
    const cross = readCrossReference(readFileSync(join(folder, file), 'utf8'), old, fresh).value;
    return demoPositions()
      .filter(({ model }) => model === old.id)
      .map((told) => ({
        ...{ bridge, words: bridge.vocabulary, fresh, region: told.region, rating: null, cross },
        old: {
          set: bridge.read(old, told, setAt(old, told, 0).readings),
          ...{ outfit: told, wiring: demoWiring(told, old, bridge), onLine: told.line !== null, ambient: 35 },
        },
      }));
  });
}

const timed = (work) => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

export function replacingBench() {
  const all = inputs();
  const opened = all.map((input) => timed(() => replacementSheet({ ...input, sayings: NOTHING_SAID })));
  const answered = all.flatMap((input) => {
    const value = { kind: 'accepted', reason: 'seen' };
    const said = [{ part: 'point', line: 'caution contactor', value }];
    const { rating } = replacementSheet({ ...input, sayings: NOTHING_SAID });
    return Array.from({ length: ANSWERS }, () =>
      timed(() => replacementSheet({ ...input, rating, sayings: sayingsFrom(said) })),
    );
  });
  const surveyed = timed(() => {
    for (const input of all) survey(input, []);
  });
  return [
    {
      what: `the sheet of a replacement worked out the first time, ${all.length} positions of the demo`,
      measured: `${showMs(median(opened))} median, ${showMs(Math.max(...opened))} slowest`,
      wanted: 'below 300 ms',
    },
    {
      what: 'the same after an answer, with the proof of same behaviour',
      measured: `${showMs(median(answered))} median, ${showMs(Math.max(...answered))} slowest`,
      wanted: 'below 100 ms',
    },
    {
      what: `a survey over ${all.length} positions`,
      measured: showMs(surveyed),
      wanted: 'below 10 s',
    },
  ];
}
