// One keystroke of the look-up on all shipped models and 50 more of 500 generated parameters: every beginning of a list
// of queries, as it is typed, the slowest counts.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { LookUp } from '@drive-keep/core/dictionary';
import { readVocabulary } from '@drive-keep/core/meanings';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const MODELS = 50;
const PARAMETERS = 500;
const QUERIES = [
  'ramp up',
  'motor rated current',
  'acceleratoin',
  'switching frequency',
  '4/12',
  '6083:00',
  'wire break',
  'integral time',
  'preset speed 3',
  'brake opens at',
];
const ROUNDS = 5;

/** Parameters made of the words of the shipped ones, so that every query meets thousands of them. */
function generated(shipped) {
  const words = shipped.flatMap(({ parameters }) =>
    parameters.flatMap(({ name, description }) => `${name} ${description}`.toLowerCase().split(/\W+/)),
  );
  let state = 640_712;
  const word = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return words[state % words.length];
  };
  const text = (length) => Array.from({ length }, word).join(' ');
  return Array.from({ length: MODELS }, (_, at) => ({
    ...shipped[0],
    id: `generated-${at}@1`,
    parameters: Array.from({ length: PARAMETERS }, (__, number) => ({
      ...shipped[0].parameters[0],
      code: `${at}-${number}`,
      name: text(3),
      otherNames: [text(2)],
      description: text(16),
      meaning: `${word()}.${word()}`,
    })),
  }));
}

export function lookUpBench() {
  const shipped = [...loadModels(modelsFolder).values()];
  const vocabulary = readVocabulary(readFileSync(join(modelsFolder, '../meanings.yaml'), 'utf8'));
  const lookUp = new LookUp([...shipped, ...generated(shipped)], vocabulary);
  const times = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    for (const query of QUERIES) {
      for (let length = 1; length <= query.length; length += 1) {
        const began = performance.now();
        lookUp.find(query.slice(0, length), 40);
        // The first round warms up.
        if (round > 0) times.push(performance.now() - began);
      }
    }
  }
  const count = shipped.reduce((sum, { parameters }) => sum + parameters.length, MODELS * PARAMETERS);
  return [
    {
      what: `A keystroke of the look-up on ${count} parameters, slowest of ${times.length}`,
      measured: `${showMs(Math.max(...times))} (median ${showMs(median(times))})`,
      wanted: 'within 30 ms',
    },
  ];
}
