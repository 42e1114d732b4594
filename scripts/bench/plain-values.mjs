// A whole set of the largest shipped model in plain values, as the screens and checks ask for it, and two models compared.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { compareAcross } from '@drive-keep/core/compare';
import { Bridge, readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const ROUNDS = 200;

function timed(work) {
  const times = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    const begin = performance.now();
    work();
    times.push(performance.now() - begin);
  }
  return times;
}

export function plainValuesBench() {
  const models = [...loadModels(modelsFolder).values()];
  const bridge = new Bridge(readVocabulary(readFileSync(join(modelsFolder, '../meanings.yaml'), 'utf8')));
  const sides = models
    .map((dictionary) => {
      const outfit = { rating: dictionary.ratings[0].id, region: dictionary.regions[0].id };
      return { dictionary, outfit, set: defaultSet(dictionary, outfit) };
    })
    .sort((a, b) => b.dictionary.parameters.length - a.dictionary.parameters.length);
  const [largest, other] = [
    sides[0],
    sides.find(({ dictionary }) => dictionary.maker !== sides[0].dictionary.maker),
  ];
  const reading = timed(() => {
    const plain = bridge.read(largest.dictionary, largest.outfit, largest.set.readings);
    for (const meaning of plain.meanings) plain.get(meaning);
  });
  const comparing = timed(() => compareAcross(bridge, largest, other));
  const count = largest.dictionary.parameters.length;
  return [
    {
      what: `${count} parameters in plain values`,
      measured: `${showMs(median(reading))} median, ${showMs(Math.max(...reading))} slowest`,
      wanted: 'below 2 ms',
    },
    {
      what: 'two models compared by plain values',
      measured: `${showMs(median(comparing))} median, ${showMs(Math.max(...comparing))} slowest`,
      wanted: '',
    },
  ];
}
