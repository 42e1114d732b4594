// A dictionary of five hundred parameters for the figures that ask for that size: the settings of the shipped model,
// repeated under other codes.

import { isNoise } from '@drive-keep/core/dictionary';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder } from '../setup/folders.mjs';

export function largeDictionary(count) {
  const shipped = loadModels(modelsFolder).get('halvern-hn64@1');
  const settings = shipped.parameters.filter((parameter) => !isNoise(parameter));
  const parameters = Array.from({ length: count }, (_, at) => ({
    ...settings[at % settings.length],
    code: `P${String(at).padStart(3, '0')}`,
    meaning: null,
  }));
  return { ...shipped, id: 'made-up@1', parameters };
}

/** A raw value of the parameter, the `at`-th of those that it may hold. */
export function rawAt({ form, minimum, maximum }, at) {
  if (form.kind === 'option') return form.options[at % form.options.length].raw;
  if (form.kind === 'bits') return at % 2 ** Math.min(8, form.bits.length);
  const [from, to] = [minimum.raw ?? 0, maximum.raw ?? 10_000];
  return from + (at % Math.max(1, to - from));
}

export const madeUpSet = (dictionary, seed = 0) => ({
  dictionary: dictionary.id,
  readings: new Map(
    dictionary.parameters.map((parameter, at) => [parameter.code, rawAt(parameter, at + seed)]),
  ),
});
