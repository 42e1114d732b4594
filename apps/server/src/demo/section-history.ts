// What a section held at each time: the set as commissioned and after each change, for its backups, its baselines
// and for the simulated unit as it stands today.

import { factsOf, findMeaning, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import { defaultSet, type ParameterSet } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { rawValues, type ValuesByMeaning } from './demo-values.ts';
import { RATING, REGION, type Section } from './kiln-one.ts';

const OUTFIT = { rating: RATING, region: REGION };

/** The settings that hold after all changes up to `nightsAgo`. */
export function valuesAt(section: Section, nightsAgo: number): ValuesByMeaning {
  const past = section.changes.filter((change) => change.nightsAgo >= nightsAgo);
  return past.reduce((values, change) => ({ ...values, ...change.values }), section.values);
}

/** The set that a backup of the section would have read then. */
export function setAt(dictionary: Dictionary, section: Section, nightsAgo: number): ParameterSet {
  const defaults = defaultSet(dictionary, OUTFIT);
  const facts = factsOf(dictionary, OUTFIT);
  if (!defaults || !facts) throw new Error(`${dictionary.id} does not know the outfit of the demo`);
  const readings = new Map<Code, Reading>(defaults.readings);
  for (const [code, raw] of rawValues(dictionary, facts, valuesAt(section, nightsAgo)))
    readings.set(code, raw);
  for (const meaning of section.refuses) {
    const parameter = findMeaning(dictionary, meaning);
    if (parameter) readings.set(parameter.code, { unreadable: 'refused' });
  }
  return { dictionary: dictionary.id, readings };
}

/** What the unit holds now, for the simulated plant; it differs from the set where the unit refuses to be read. */
export function rawsNow(dictionary: Dictionary, section: Section): Record<string, number> {
  const facts = factsOf(dictionary, OUTFIT) ?? {};
  return Object.fromEntries(rawValues(dictionary, facts, valuesAt(section, 0)));
}

export function refusedRegisters(dictionary: Dictionary, section: Section): number[] {
  return section.refuses.flatMap((meaning) => {
    const register = findMeaning(dictionary, meaning)?.register;
    return register ? [register.address] : [];
  });
}
