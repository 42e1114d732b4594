// Values of the demo plant are written by meaning and as text, as a commissioning sheet has them; the dictionary turns
// them into codes and raw values.

import { findMeaning, refusalOf, type Code, type Dictionary, type Facts } from '@drive-keep/core/dictionary';
import { parseRaw, meaningOf } from '@drive-keep/core/values';

/** Values by meaning: `{ 'ramp.up': '8.00', 'command.source': 'terminals' }`. */
export type ValuesByMeaning = Readonly<Record<string, string>>;

/** Raw values by code; a meaning or value that the model does not have is a mistake in the demo and throws. */
export function rawValues(
  dictionary: Dictionary,
  facts: Facts,
  values: ValuesByMeaning,
): ReadonlyMap<Code, number> {
  const raws = new Map<Code, number>();
  for (const [meaning, text] of Object.entries(values)) {
    const parameter = findMeaning(dictionary, meaningOf(meaning));
    const raw = parameter && parseRaw(parameter.form, text);
    if (!parameter || !raw?.ok || refusalOf(parameter, raw.value, facts)) {
      throw new Error(`demo value ${meaning} = ${text} does not fit ${dictionary.id}`);
    }
    raws.set(parameter.code, raw.value);
  }
  return raws;
}
