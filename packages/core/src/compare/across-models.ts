// Two sets of different models by plain values (core/meanings). Laws: a set compared with itself differs in nothing but
// what could not be read; swapping the sides mirrors every row. Nothing is called the same that was not told of both.

import { type Meaning, meaningOf } from '../values/index.ts';
import {
  isNoise,
  type Code,
  type Dictionary,
  type Outfit,
  type Parameter,
  type Purpose,
} from '../dictionary/index.ts';
import { likeness, type Bridge, type Plain, type PlainSet, type Untold } from '../meanings/index.ts';
import type { ParameterSet } from '../sets/index.ts';

export type AcrossDifference =
  | { readonly kind: 'same' | 'option' | 'only-a' | 'only-b' | 'unreadable' }
  /** `by` is how much more B says, in the unit of the plain values; `at` the share of the signal where a curve is widest apart. */
  | { readonly kind: 'rounding' | 'greater' | 'less'; readonly by: number; readonly at: number | null }
  /** One side is off where the other has a value, or they are values of different things. */
  | { readonly kind: 'another-kind' }
  | { readonly kind: 'cannot-be-told'; readonly why: NotTold };

/** Of one side why it says nothing; or why both values cannot be laid beside each other. */
export type NotTold =
  | { readonly code: 'untold'; readonly side: 'a' | 'b'; readonly untold: Untold }
  | { readonly code: 'beside'; readonly meaning: Meaning; readonly text: string }
  | { readonly code: 'maker-scale' };

export interface AcrossSide {
  /** The meaning itself, or the one that stands beside it. */
  readonly meaning: Meaning;
  /** Empty where every unit of the model does it without a setting. */
  readonly codes: readonly Code[];
  readonly plain: Plain;
}

export interface AcrossRow {
  readonly meaning: Meaning;
  readonly purpose: Purpose;
  /** Nothing where the model has no such thing. */
  readonly a: AcrossSide | null;
  readonly b: AcrossSide | null;
  readonly difference: AcrossDifference;
}

export interface AcrossComparison {
  /** What is not the same, in the order of A, then what only B has. */
  readonly rows: readonly AcrossRow[];
  readonly same: number;
  /** Settings of which no dictionary says what they mean for another model. */
  readonly withoutMeaning: { readonly a: number; readonly b: number };
}

export interface ModelSet {
  readonly dictionary: Dictionary;
  readonly set: ParameterSet;
  /** Nothing where the rating of the unit is not known. */
  readonly outfit: Outfit | null;
}

/** Each set must be of its dictionary; the caller sees to it. */
export function compareAcross(bridge: Bridge, a: ModelSet, b: ModelSet): AcrossComparison {
  const [left, right] = [new Side(bridge, a), new Side(bridge, b)];
  const rows: AcrossRow[] = [];
  let same = 0;
  for (const meaning of new Set([...left.meanings, ...right.meanings])) {
    const row = rowOf(bridge, meaningOf(meaning), left, right);
    if (row?.difference.kind === 'same') same += 1;
    else if (row) rows.push(row);
  }
  return { rows, same, withoutMeaning: { a: left.withoutMeaning(), b: right.withoutMeaning() } };
}

/** A set in plain values, with what it says by settings. */
class Side {
  readonly dictionary: Dictionary;
  readonly plain: PlainSet;
  private readonly bridge: Bridge;
  private readonly set: ParameterSet;

  constructor(bridge: Bridge, { dictionary, set, outfit }: ModelSet) {
    this.bridge = bridge;
    this.dictionary = dictionary;
    this.set = set;
    this.plain = bridge.read(dictionary, outfit, set.readings);
  }

  /** Those that a setting says; what every unit of the model does stands beside the other side's settings only. */
  get meanings(): readonly string[] {
    return [...this.plain.meanings].filter((meaning) => {
      const carrier = this.plain.carrierOf(meaning);
      return carrier && 'parameter' in carrier && !isNoise(carrier.parameter);
    });
  }

  has(meaning: Meaning): boolean {
    return this.plain.carrierOf(meaning) !== undefined;
  }

  at(meaning: Meaning): AcrossSide | null {
    if (!this.has(meaning)) return null;
    const plain = this.plain.get(meaning);
    return { meaning, codes: plain.codes, plain };
  }

  parameterOf(meaning: Meaning): Parameter | undefined {
    const carrier = this.plain.carrierOf(meaning);
    return carrier && 'parameter' in carrier ? carrier.parameter : undefined;
  }

  withoutMeaning(): number {
    const reached = new Set<Code>();
    for (const meaning of this.plain.meanings) {
      const code = this.parameterOf(meaning)?.code;
      if (code !== undefined) reached.add(code);
    }
    const { vocabulary } = this.bridge;
    return this.dictionary.parameters.filter(
      ({ code, meaning, ...parameter }) =>
        !isNoise({ code, meaning, ...parameter }) &&
        !reached.has(code) &&
        // A part of another value, a word of bits or a command stands for something that is known.
        vocabulary.of(meaningOf(meaning ?? '')) === undefined,
    ).length;
  }

  /** Raw readings of all that a row rests on. */
  raws = (codes: readonly Code[]): string =>
    JSON.stringify(codes.map((code) => this.set.readings.get(code) ?? null));
}

/** Nothing for a row that stands beside another one, which shows both. */
function rowOf(bridge: Bridge, meaning: Meaning, left: Side, right: Side): AcrossRow | undefined {
  const purpose = (left.parameterOf(meaning) ?? right.parameterOf(meaning))?.purpose ?? 'other';
  const [a, b] = [left.at(meaning), right.at(meaning)];
  if (a && b) return { meaning, purpose, a, b, difference: differenceOf(bridge, meaning, left, a, right, b) };
  const beside = besideOf(bridge, meaning, a ? right : left);
  if (!beside) return { meaning, purpose, a, b, difference: alone(a, b) };
  // Both sides would show the same pair: it stands once, at the side of A.
  if (!a) return undefined;
  const other = right.at(beside.meaning);
  const why = { code: 'beside', ...beside } as const;
  return { meaning, purpose, a, b: other, difference: { kind: 'cannot-be-told', why } };
}

/** What only one of them has, where it says anything. */
function alone(a: AcrossSide | null, b: AcrossSide | null): AcrossDifference {
  const plain = (a ?? b)?.plain;
  if (plain?.kind === 'nothing' && plain.why.code === 'unreadable') return { kind: 'unreadable' };
  if (plain?.kind === 'nothing' && plain.why.code === 'not-kept') return { kind: 'same' };
  return { kind: a ? 'only-a' : 'only-b' };
}

/** What the other model has beside this meaning, with the reason why the two cannot be told from each other. */
function besideOf(
  { vocabulary }: Bridge,
  meaning: Meaning,
  other: Side,
): { readonly meaning: Meaning; readonly text: string } | undefined {
  const found = vocabulary.besidesOf(meaning).find((each) => other.has(each.meaning));
  return found && { meaning: found.meaning, text: found.why };
}

/** Versions of one model count alike. */
const sameModel = (a: Dictionary, b: Dictionary): boolean => a.maker === b.maker && a.name === b.name;

function differenceOf(
  bridge: Bridge,
  meaning: Meaning,
  left: Side,
  { plain: a, codes }: AcrossSide,
  right: Side,
  { plain: b, codes: others }: AcrossSide,
): AcrossDifference {
  if (isUnreadable(a) || isUnreadable(b)) return { kind: 'unreadable' };
  const alike = sameModel(left.dictionary, right.dictionary);
  if (!alike && bridge.vocabulary.of(meaning)?.of === 'maker')
    return { kind: 'cannot-be-told', why: { code: 'maker-scale' } };
  if (a.kind === 'nothing' || b.kind === 'nothing') {
    const [whyA, whyB] = [a.kind === 'nothing' ? a.why : null, b.kind === 'nothing' ? b.why : null];
    if (alike && left.raws(codes) === right.raws(others)) return { kind: 'same' };
    return toldByNone(whyA, whyB);
  }
  const like = likeness(a, b);
  switch (like?.kind) {
    case 'same':
      return { kind: 'same' };
    case 'another-option':
      return { kind: 'option' };
    case 'rounding':
      return { kind: 'rounding', by: like.by, at: like.at };
    case 'differs':
      return { kind: like.by > 0 ? 'greater' : 'less', by: like.by, at: like.at };
    default:
      return { kind: 'another-kind' };
  }
}

const isUnreadable = (plain: Plain): boolean => plain.kind === 'nothing' && plain.why.code === 'unreadable';

/** Where one side or both say nothing. */
function toldByNone(a: Untold | null, b: Untold | null): AcrossDifference {
  const silent = (why: Untold | null) => why?.code === 'not-kept';
  if (silent(a) && silent(b)) return { kind: 'same' };
  if (silent(a)) return { kind: 'only-b' };
  if (silent(b)) return { kind: 'only-a' };
  // Neither of them uses it for this, or says anything of it.
  if (a && b && a.code === b.code && (a.code === 'other-use' || a.code === 'unsaid')) return { kind: 'same' };
  // One of them uses it for something else: that is a difference in itself.
  if (a?.code === 'other-use' || b?.code === 'other-use') return { kind: 'option' };
  const [side, untold] = a ? (['a', a] as const) : (['b', b as Untold] as const);
  return { kind: 'cannot-be-told', why: { code: 'untold', side, untold } };
}
