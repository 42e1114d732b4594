import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';
import {
  openOf,
  NOTHING_SAID,
  readCrossReference,
  replaceBy,
  replacementSheet,
} from '@drive-keep/core/replace';
import { formatWiring } from '@drive-keep/core/wiring';
import { loadModels } from '@drive-keep/plant-sim';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import { demoPositions } from './demo-positions.ts';
import { demoWiring } from './demo-wirings.ts';
import { bridgeBeside } from './describe-plant.ts';
import { setAt } from './position-history.ts';
import { beforeReplacement, NIGHTS } from './story.ts';

const models = loadModels(MODELS_FOLDER);
const bridge = bridgeBeside(MODELS_FOLDER);
const replaced = demoPositions().flatMap((told) => {
  const old = beforeReplacement(told);
  const [from, to] = [old && models.get(old.model), models.get(told.model)];
  return old && from && to ? [{ tag: told.tag, told, old, from, to }] : [];
});

it('has a position that changed its model', () => {
  expect(replaced.map(({ tag }) => tag)).toEqual(['GL-BE-03']);
});

it.each(replaced)('$tag stands as its replacement has left it, set and wires', ({ told, old, from, to }) => {
  const file = join(MODELS_FOLDER, `../cross-references/${from.model}--${to.model}.yaml`);
  const read = readCrossReference(readFileSync(file, 'utf8'), from, to);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  const set = setAt(from, old, NIGHTS + 1);
  const input = {
    ...{ bridge, words: bridge.vocabulary, fresh: to, region: told.region, rating: told.rating },
    old: {
      set: bridge.read(from, old, set.readings),
      outfit: old,
      wiring: demoWiring(old, from, bridge),
      onLine: true,
    },
    ...{ cross: read.value, sayings: NOTHING_SAID },
  };
  const { settings, wires } = replaceBy(input).replacement;
  const now = setAt(to, told, 0);
  const wanted = to.parameters.filter(({ keeping, access }) => keeping === 'setting' && access !== 'read');
  for (const { code } of wanted)
    expect([code, now.readings.get(code)]).toEqual([code, settings.readings.get(code)]);
  expect(formatWiring(demoWiring(told, to, bridge))).toBe(formatWiring(wires.wiring));
  const { behaviour, open } = replacementSheet(input);
  expect([behaviour.same, open.settings, openOf(open) > 0]).toEqual([true, 0, true]);
});
