import { describe, expect, it } from '@jest/globals';
import { allFiles } from '../testing/shipped-model.ts';
import { readModel } from './read-model.ts';

const OLDER: readonly (readonly [RegExp, string])[] = [
  [/\bminimum,maximum\b/g, 'least,greatest'],
  [/frequency\.minimum/g, 'frequency.least'],
  [/frequency\.maximum/g, 'frequency.greatest'],
  [/loop\.outputMinimum/g, 'loop.outputLeast'],
  [/bound: maximum/g, 'bound: greatest'],
  [/maximum-frequency/g, 'greatest-frequency'],
];
const inOlderWords = (text: string): string =>
  OLDER.reduce((all, [today, older]) => all.replace(today, older), text);

describe('a model file in the words of before', () => {
  it.each(Object.keys(allFiles))('of %s reads like one in the words of today', (name) => {
    const files = allFiles[name];
    if (!files) throw new Error(name);
    const older = { ...files, model: inOlderWords(files.model), parameters: inOlderWords(files.parameters) };
    expect(older.parameters).not.toBe(files.parameters);
    const [before, today] = [readModel(older), readModel(files)];
    if (!before.ok || !today.ok) throw new Error(JSON.stringify([before, today]).slice(0, 500));
    expect(
      before.value.parameters.map(({ meaning, minimum, maximum }) => [meaning, minimum, maximum]),
    ).toEqual(today.value.parameters.map(({ meaning, minimum, maximum }) => [meaning, minimum, maximum]));
    expect([before.value.effects, before.value.conventions]).toEqual([
      today.value.effects,
      today.value.conventions,
    ]);
  });
});
