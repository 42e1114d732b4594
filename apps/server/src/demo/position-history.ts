// What a position held at each time: the set as commissioned and after each change, for its backups, its baselines and
// for the simulated unit as it stands today.

import { meaningOf } from '@drive-keep/core/values';
import {
  factsOf,
  findMeaning,
  type Code,
  type Dictionary,
  type Facts,
  type Outfit,
} from '@drive-keep/core/dictionary';
import { defaultSet, type ParameterSet } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { rawValues, type ValuesByMeaning } from './demo-values.ts';
import type { DemoPosition } from './story.ts';

/** The settings that hold after all changes up to `nightsAgo`. */
function valuesAt(position: DemoPosition, nightsAgo: number): ValuesByMeaning {
  const past = position.changes.filter((change) => change.nightsAgo >= nightsAgo);
  return past.reduce((values, change) => ({ ...values, ...change.values }), position.values);
}

/** The set that a backup of the position would have read then. */
export function setAt(dictionary: Dictionary, position: DemoPosition, nightsAgo: number): ParameterSet {
  const defaults = defaultSet(dictionary, position);
  if (!defaults) throw new Error(`${dictionary.id} does not know the outfit of ${position.tag}`);
  const readings = new Map<Code, Reading>(defaults.readings);
  const values = valuesAt(position, nightsAgo);
  for (const [code, raw] of rawValues(dictionary, outfitFacts(dictionary, position), values))
    readings.set(code, raw);
  for (const meaning of position.refuses) {
    const parameter = findMeaning(dictionary, meaningOf(meaning));
    if (parameter) readings.set(parameter.code, { unreadable: 'refused' });
  }
  return { dictionary: dictionary.id, readings };
}

/** What the unit holds permanently, for the simulated plant; it differs from the set where the unit refuses to be read. */
export function rawsNow(dictionary: Dictionary, position: DemoPosition): Record<string, number> {
  const saved = position.changes.filter(({ unsaved }) => !unsaved);
  const values = valuesAt({ ...position, changes: saved }, 0);
  return Object.fromEntries(rawValues(dictionary, outfitFacts(dictionary, position), values));
}

/** What its working memory holds beside that. */
export function rawsUnsaved(dictionary: Dictionary, position: DemoPosition): Record<string, number> {
  const unsaved = position.changes.filter((change) => change.unsaved);
  const values = unsaved.reduce((all, change) => ({ ...all, ...change.values }), {});
  return Object.fromEntries(rawValues(dictionary, outfitFacts(dictionary, position), values));
}

export function refusedRegisters(dictionary: Dictionary, position: DemoPosition): number[] {
  return position.refuses.flatMap((meaning) => {
    const register = findMeaning(dictionary, meaningOf(meaning))?.register;
    return register ? [register.address] : [];
  });
}

const outfitFacts = (dictionary: Dictionary, outfit: Outfit): Facts => factsOf(dictionary, outfit) ?? {};
