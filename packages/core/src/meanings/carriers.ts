// Where in a model a meaning stands: in a parameter, in options or bits of others, in what every unit does, or derived from
// the plate. Looked up once for each dictionary.

import { type Bit, type Option, type Saying, type Meaning, meaningOf } from '../values/index.ts';
import type { Dictionary, Fixed, Parameter } from '../dictionary/index.ts';
import type { ConversionName, Vocabulary } from './vocabulary.ts';

/** One option or bit that says something of a meaning. */
export interface Sayer {
  readonly at: Option | Bit;
  readonly saying: Saying;
}

export type Carrier =
  | { readonly kind: 'parameter'; readonly parameter: Parameter; readonly conversion: ConversionName }
  | { readonly kind: 'said'; readonly parameter: Parameter; readonly sayers: readonly Sayer[] }
  | { readonly kind: 'fixed'; readonly fixed: Fixed }
  | { readonly kind: 'poles-from-plate' };

export interface CarrierIndex {
  /** Canonical meanings in the order of the model's menu. */
  readonly of: ReadonlyMap<Meaning, Carrier>;
  /** Parameters by what they state, in the names of today. */
  readonly stated: ReadonlyMap<Meaning, Parameter>;
}

export function indexCarriers(dictionary: Dictionary, vocabulary: Vocabulary): CarrierIndex {
  const of = new Map<Meaning, Carrier>();
  const stated = new Map<Meaning, Parameter>();
  const add = (meaning: Meaning, carrier: Carrier) => {
    if (!of.has(meaning)) of.set(meaning, carrier);
  };
  for (const parameter of dictionary.parameters) {
    if (parameter.meaning === null) continue;
    stated.set(vocabulary.nameOfToday(parameter.meaning), parameter);
    for (const { meaning, conversion } of vocabulary.canonicalsOf(parameter.meaning))
      add(meaning, { kind: 'parameter', parameter, conversion });
  }
  for (const parameter of dictionary.parameters)
    for (const [meaning, sayers] of sayersOf(parameter))
      add(meaningOf(meaning), { kind: 'said', parameter, sayers });
  for (const fixed of dictionary.fixed) add(fixed.meaning, { kind: 'fixed', fixed });
  for (const { id, derived } of vocabulary.entries) if (derived) add(meaningOf(id), { kind: derived });
  return { of, stated };
}

function sayersOf({ form }: Parameter): ReadonlyMap<string, readonly Sayer[]> {
  const sayers = new Map<string, Sayer[]>();
  const places: readonly (Option | Bit)[] =
    form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
  for (const at of places)
    for (const saying of at.says ?? []) {
      const own = sayers.get(saying.meaning);
      if (own) own.push({ at, saying });
      else sayers.set(saying.meaning, [{ at, saying }]);
    }
  return sayers;
}
