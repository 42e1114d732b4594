// What else a write does to a unit, from the maker's manual, and how that stands in model.yaml. An effect follows a write
// to `when` by a person or over the line; what an effect itself changes has no further effects.

import { wordOfToday } from './older-words.ts';
import type { FactReader } from './fact-reader.ts';
import type { Code } from './parameter.ts';
import type { CodeReader } from './read-terminals.ts';

/** Facts of the unit by name, as its rating and region give them. */
type FactTexts = Readonly<Record<string, string>>;

interface Cause {
  readonly when: Code;
  /** Raw values of `when` to which this is tied; any change where there are none. */
  readonly is: readonly number[] | null;
  readonly why: string;
}

export type Effect =
  /** These go back to their defaults when `when` changes. */
  | (Cause & { readonly kind: 'puts-back'; readonly codes: readonly Code[] })
  /** These take fixed raw values when `when` changes. */
  | (Cause & { readonly kind: 'sets'; readonly values: readonly FixedValue[] })
  /** Facts, and with them defaults and ranges, are those of the option that `when` holds. */
  | (Cause & { readonly kind: 'chooses'; readonly options: readonly FactChoice[] })
  /** These cannot be set beyond what `when` holds; they follow it when it narrows. */
  | (Cause & {
      readonly kind: 'narrows';
      readonly bound: 'minimum' | 'maximum';
      readonly codes: readonly Code[];
    })
  /** These are refused while `when` is one of `is`. */
  | (Cause & { readonly kind: 'blocks'; readonly codes: readonly Code[] })
  /** These are kept and do nothing while `when` is one of `is`. */
  | (Cause & { readonly kind: 'idles'; readonly codes: readonly Code[] });

export interface FixedValue {
  readonly code: Code;
  readonly raw: number;
}

export interface FactChoice {
  readonly raw: number;
  /** A text that begins with "@" names another fact of the unit. */
  readonly facts: FactTexts;
  /** Region whose facts hold. */
  readonly region: string | null;
}

/** An effect as it stands in the file: a menu is not yet resolved into its codes. */
export interface EffectLine {
  readonly effect: Effect;
  readonly menu: string | null;
  readonly at: { readonly line: number; readonly column: number };
}

/**
 * One entry of the list `effects` of model.yaml. What is missing or of the wrong kind is told through `at` and read as empty;
 * codes that no parameter has are told through `codes`.
 */
export const readEffect = (at: FactReader, codes: CodeReader): EffectLine => ({
  effect: readOne(at, codes),
  menu: at.has('menu') ? at.text('menu') : null,
  at: at.place('when'),
});

function readOne(at: FactReader, codes: CodeReader): Effect {
  const cause = {
    when: codes.at(at, 'when'),
    is: at.has('is') ? at.integers('is') : null,
    why: at.text('why'),
  };
  const always = { ...cause, is: cause.is ?? [] };
  if (at.has('sets')) return { ...cause, kind: 'sets', values: readFixed(at.in('sets'), codes) };
  if (at.has('chooses')) return { ...cause, kind: 'chooses', options: at.list('chooses').map(readChoice) };
  if (at.has('narrows')) {
    const bound = at.oneOf('bound', ['maximum', 'minimum'], wordOfToday);
    return { ...cause, kind: 'narrows', bound, codes: codes.listIfAny(at, 'narrows') };
  }
  if (at.has('blocks')) return { ...always, kind: 'blocks', codes: codes.listIfAny(at, 'blocks') };
  if (at.has('idles')) return { ...always, kind: 'idles', codes: codes.listIfAny(at, 'idles') };
  return { ...cause, kind: 'puts-back', codes: codes.listIfAny(at, 'codes') };
}

const readFixed = (at: FactReader, codes: CodeReader): FixedValue[] =>
  at.keys().map((key) => ({ code: codes.named(at, key), raw: at.integer(key) }));

const readChoice = (at: FactReader): FactChoice => ({
  raw: at.integer('is'),
  facts: at.has('facts') ? at.facts('facts') : {},
  region: at.has('region') ? at.text('region') : null,
});

/** Whether an effect is tied to this raw value of its `when`. */
export const isTiedTo = ({ is }: Pick<Effect, 'is'>, raw: unknown): boolean =>
  is === null || (typeof raw === 'number' && is.includes(raw));

/** Codes that a write to `when` may change, or whose range it may change; those that it only blocks are not among them. */
export function changedBy(effect: Effect): readonly Code[] {
  switch (effect.kind) {
    case 'puts-back':
    case 'narrows':
      return effect.codes;
    case 'sets':
      return effect.values.map(({ code }) => code);
    default:
      return [];
  }
}
