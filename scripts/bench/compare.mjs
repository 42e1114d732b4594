// Comparing two sets of the shipped model in core, beside a plain-object differ on the same readings.

import microdiff from 'microdiff';
import { compareSets } from '@drive-keep/core/compare';
import { limitsOf } from '@drive-keep/core/dictionary';
import { defaultSet } from '@drive-keep/core/sets';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder } from '../setup/folders.mjs';
import { medianMs, showMs } from './timing.mjs';

/** Every so-many-th setting differs: more than on any drive that is looked at with care. */
const EVERY = 11;

export async function compareBench() {
  const dictionary = loadModels(modelsFolder).get('halvern-hn64@1');
  const a = defaultSet(dictionary, { rating: dictionary.ratings[0].id, region: dictionary.regions[0].id });
  const b = { ...a, readings: new Map(a.readings) };
  const numbers = dictionary.parameters.filter((each) => a.readings.has(each.code) && 'raw' in each.maximum);
  numbers.forEach(({ code, ...rest }, at) => {
    if (at % EVERY === 0) b.readings.set(code, limitsOf({ code, ...rest }, {}).maximum);
  });
  const [plainA, plainB] = [a, b].map(({ readings }) => Object.fromEntries(readings));
  const rows = compareSets(dictionary, a, b).rows.length;
  const ours = medianMs(() => compareSets(dictionary, a, b));
  const plain = medianMs(() => microdiff(plainA, plainB));
  const size = dictionary.parameters.length;
  return [
    {
      what: `Two sets of ${size} parameters, ${rows} differences`,
      measured: showMs(ours),
      wanted: 'under 1 ms',
    },
    {
      what: 'The same two as plain objects, microdiff',
      measured: showMs(plain),
      wanted: 'for comparison',
    },
  ];
}
