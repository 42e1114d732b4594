// The set that a unit of this rating and region holds after a reset: the defaults, and nothing for monitors.

import { defaultOf, factsOf, type Code, type Dictionary, type Outfit } from '../dictionary/index.ts';
import type { ParameterSet } from './parameter-set.ts';

/** Nothing where the dictionary does not know the rating or the region. */
export function defaultSet(dictionary: Dictionary, outfit: Outfit): ParameterSet | undefined {
  const facts = factsOf(dictionary, outfit);
  if (!facts) return undefined;
  const readings = new Map<Code, number>();
  for (const parameter of dictionary.parameters) {
    const raw = defaultOf(parameter, facts);
    if (raw !== undefined) readings.set(parameter.code, raw);
  }
  return { dictionary: dictionary.id, readings };
}
