// Two sets of different models, by meaning and in engineering units. Laws: a set compared with itself differs in nothing;
// swapping the sides mirrors every row. What the two makers count in different ways is never called equal or different:
// both values are shown, with the reason why nobody may compare them as they are.

import {
  findMeaning,
  isNoise,
  kinOf,
  type Code,
  type Dictionary,
  type Meaning,
  type Parameter,
} from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import {
  inBaseUnit,
  isRaw,
  isUnreadable,
  rawInUnit,
  toDecimal,
  toNumber,
  type NumberForm,
  type Reading,
} from '../values/index.ts';

export type AcrossDifference =
  | { readonly kind: 'same' | 'option' | 'only-a' | 'only-b' | 'unreadable' }
  /** `by` in the unit of side A. */
  | { readonly kind: 'greater' | 'less'; readonly by: number }
  /** Option texts differ, and no dictionary says whether they mean the same. */
  | { readonly kind: 'other-words' }
  /** The makers count it another way: gain and proportional band, hertz and percent. */
  | { readonly kind: 'counts-otherwise' };

export interface AcrossSide {
  readonly code: Code;
  readonly reading: Reading | undefined;
}

export interface AcrossRow {
  readonly meaning: Meaning;
  /** Nothing where the model has no such parameter. */
  readonly a: AcrossSide | null;
  readonly b: AcrossSide | null;
  readonly difference: AcrossDifference;
  /** For ramp times: the speeds, in Hz, to which each side counts, where they differ. */
  readonly countsTo: { readonly a: number; readonly b: number } | null;
}

export interface AcrossComparison {
  /** What is not the same, in the order of A, then what only B has. */
  readonly rows: readonly AcrossRow[];
  readonly same: number;
  /** Settings of which the dictionary does not say what they mean. */
  readonly withoutMeaning: { readonly a: number; readonly b: number };
}

export interface ModelSet {
  readonly dictionary: Dictionary;
  readonly set: ParameterSet;
}

/** Enough for any step of a drive, few enough that binary fractions do not show. */
const DIGITS = 10;
const RAMP = /^ramp\.(up|down|up2|down2|first|quick|jog)$/;

/** Each set must be of its dictionary; the caller sees to it. */
export function compareAcross(a: ModelSet, b: ModelSet): AcrossComparison {
  const rows: AcrossRow[] = [];
  const met = new Set<Code>();
  let same = 0;
  for (const parameter of settingsWithMeaning(a.dictionary)) {
    const row = rowOf(parameter, a, b);
    if (row.b) met.add(row.b.code);
    if (row.difference.kind === 'same') same += 1;
    else rows.push(row);
  }
  for (const parameter of settingsWithMeaning(b.dictionary)) {
    if (met.has(parameter.code)) continue;
    const mirrored = rowOf(parameter, b, a);
    rows.push({
      ...mirrored,
      a: mirrored.b,
      b: mirrored.a,
      difference: mirrored.difference.kind === 'only-a' ? { kind: 'only-b' } : mirrored.difference,
    });
  }
  const without = ({ dictionary }: ModelSet) =>
    dictionary.parameters.filter((parameter) => !isNoise(parameter) && parameter.meaning === null).length;
  return { rows, same, withoutMeaning: { a: without(a), b: without(b) } };
}

const settingsWithMeaning = ({ parameters }: Dictionary): readonly (Parameter & { meaning: Meaning })[] =>
  parameters.filter(
    (parameter): parameter is Parameter & { meaning: Meaning } =>
      !isNoise(parameter) && parameter.meaning !== null,
  );

function rowOf(parameter: Parameter & { meaning: Meaning }, a: ModelSet, b: ModelSet): AcrossRow {
  const { meaning, code } = parameter;
  const side = { code, reading: a.set.readings.get(code) };
  const equal = findMeaning(b.dictionary, meaning);
  const kin = equal ?? firstKin(meaning, b.dictionary);
  if (!kin) return { meaning, a: side, b: null, difference: { kind: 'only-a' }, countsTo: null };
  const other = { code: kin.code, reading: b.set.readings.get(kin.code) };
  if (!equal) return { meaning, a: side, b: other, difference: { kind: 'counts-otherwise' }, countsTo: null };
  if (!sharesReference(parameter, kin, a, b) && isRaw(side.reading) && isRaw(other.reading))
    return { meaning, a: side, b: other, difference: { kind: 'counts-otherwise' }, countsTo: null };
  const countsTo = RAMP.test(meaning) ? differingReferences(a, b) : null;
  // Switches in one word have no meanings of their own: within a model they are equal or not, between models nobody can say.
  const sameWord = parameter.form.kind === 'bits' && sameModel(a, b) && side.reading === other.reading;
  if (sameWord && isRaw(side.reading))
    return { meaning, a: side, b: other, difference: { kind: 'same' }, countsTo: null };
  const difference = readingsDiffer(parameter, side.reading, kin, other.reading, countsTo);
  return { meaning, a: side, b: other, difference, countsTo: countsTo === 'unknown' ? null : countsTo };
}

/** Versions of one model count alike. */
const sameModel = ({ dictionary: a }: ModelSet, { dictionary: b }: ModelSet): boolean =>
  a.maker === b.maker && a.name === b.name;

/** Plain numbers that mean nothing without the way that a maker scales them. */
const SCALED_BY_MAKER = /\.gain$/;
const OF_MOTOR_CURRENT = /^limit\.currentMotor/;

/**
 * Whether two numbers of one meaning are shares of the same thing. A percentage says of what only by its model: 100 % of one
 * maker's unit is not 100 % of another's: the reference must be stated, and be equal in both sets.
 */
function sharesReference(left: Parameter, right: Parameter, a: ModelSet, b: ModelSet): boolean {
  if (sameModel(a, b)) return true;
  if (left.form.kind !== 'number' || right.form.kind !== 'number') return true;
  if (SCALED_BY_MAKER.test(left.meaning ?? '')) return false;
  if (left.form.unit !== '%' || right.form.unit !== '%') return true;
  if (!OF_MOTOR_CURRENT.test(left.meaning ?? '')) return false;
  const stated = [a, b].every(
    ({ dictionary }) => dictionary.conventions.current_limit_in === 'percent-of-motor',
  );
  const [currentA, currentB] = [valueOf(a, 'motor.ratedCurrent'), valueOf(b, 'motor.ratedCurrent')];
  return stated && currentA !== undefined && currentA === currentB;
}

const firstKin = (meaning: Meaning, dictionary: Dictionary): Parameter | undefined =>
  kinOf(meaning)
    .map((kin) => findMeaning(dictionary, kin))
    .find((parameter) => parameter !== undefined);

function readingsDiffer(
  left: Parameter,
  a: Reading | undefined,
  right: Parameter,
  b: Reading | undefined,
  countsTo: { readonly a: number; readonly b: number } | null | 'unknown',
): AcrossDifference {
  if (isUnreadable(a) || isUnreadable(b)) return { kind: 'unreadable' };
  if (!isRaw(a) || !isRaw(b)) {
    if (a === b) return { kind: 'same' };
    return { kind: isRaw(a) ? 'only-a' : 'only-b' };
  }
  if (countsTo === 'unknown') return { kind: 'counts-otherwise' };
  if (left.form.kind === 'number' && right.form.kind === 'number')
    return numbersDiffer(left.form, a, right.form, b, countsTo);
  if (left.form.kind === 'option' && right.form.kind === 'option') {
    const [one, other] = [optionOf(left, a), optionOf(right, b)];
    if (one?.meaning !== undefined && other?.meaning !== undefined)
      return { kind: one.meaning === other.meaning ? 'same' : 'option' };
    return { kind: plain(one?.text) === plain(other?.text) ? 'same' : 'other-words' };
  }
  return { kind: 'counts-otherwise' };
}

const optionOf = ({ form }: Parameter, raw: number) =>
  form.kind === 'option' ? form.options.find((option) => option.raw === raw) : undefined;

const plain = (text = ''): string =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Equal where they are so within half of the coarser of the two steps (design rule 1). */
function numbersDiffer(
  left: NumberForm,
  a: number,
  right: NumberForm,
  b: number,
  countsTo: { readonly a: number; readonly b: number } | null,
): AcrossDifference {
  if (!countsTo) {
    const inA = rawInUnit(left, toDecimal(right, b), right.unit);
    const inB = rawInUnit(right, toDecimal(left, a), left.unit);
    if (inA === undefined || inB === undefined) return unscaled(left, a, right, b);
    if (inA.raw === a || inB.raw === b) return { kind: 'same' };
  }
  const [valueA, valueB] = [baseValue(left, a), baseValue(right, b)];
  if (valueA === undefined || valueB === undefined) return { kind: 'counts-otherwise' };
  const scaled = countsTo ? (valueB * countsTo.a) / countsTo.b : valueB;
  const steps = [baseValue(left, 1) ?? 0, baseValue(right, 1) ?? 0];
  if (countsTo && Math.abs(scaled - valueA) <= Math.max(...steps) / 2) return { kind: 'same' };
  const unit = inBaseUnit(1, left.unit) ?? 1;
  return {
    kind: scaled > valueA ? 'greater' : 'less',
    by: Number(((scaled - valueA) / unit).toPrecision(DIGITS)),
  };
}

/** Numbers whose unit has no scale compare as they are where the unit is the same, and not at all where it is not. */
function unscaled(left: NumberForm, a: number, right: NumberForm, b: number): AcrossDifference {
  if (left.unit !== right.unit) return { kind: 'counts-otherwise' };
  const [one, other] = [toNumber(toDecimal(left, a)), toNumber(toDecimal(right, b))];
  const step = Math.max(toNumber(toDecimal(left, 1)), toNumber(toDecimal(right, 1)));
  if (Math.abs(one - other) <= step / 2) return { kind: 'same' };
  return { kind: other > one ? 'greater' : 'less', by: Number((other - one).toPrecision(DIGITS)) };
}

const baseValue = (form: NumberForm, raw: number): number | undefined =>
  inBaseUnit(toNumber(toDecimal(form, raw)), form.unit);

/**
 * The frequencies to which the two models count their ramp times, or nothing where they are the same. A ramp of 10 s to
 * 50 Hz is as steep as one of 12 s to 60 Hz. `unknown` where a model does not say, or a set lacks the value.
 */
function differingReferences(
  a: ModelSet,
  b: ModelSet,
): { readonly a: number; readonly b: number } | null | 'unknown' {
  const [one, other] = [rampReference(a), rampReference(b)];
  if (one === other && sameModel(a, b)) return null;
  if (one === undefined || other === undefined) return 'unknown';
  return sameReference(one, other) ?? null;
}

const sameReference = (a: number | undefined, b: number | undefined) =>
  a === undefined || b === undefined || Math.abs(a - b) < 1e-9 ? undefined : { a, b };

/** In Hz. A rated speed counts as the frequency at which its motor turns so fast without slip. */
function rampReference(side: ModelSet): number | undefined {
  const value = (meaning: string) => valueOf(side, meaning);
  switch (side.dictionary.conventions.ramp_counts_to) {
    case 'base-frequency':
      return value('motor.baseFrequency');
    case 'maximum-frequency':
      return value('frequency.maximum');
    case 'rated-speed': {
      const [base, speed] = [value('motor.baseFrequency'), value('motor.ratedSpeed')];
      if (!base || !speed) return undefined;
      const polePairs = Math.floor((60 * base) / speed);
      return polePairs === 0 ? undefined : (speed * polePairs) / 60;
    }
    default:
      return undefined;
  }
}

/** In the unit of that model; nothing where the model has no such number, or the set does not hold it. */
function valueOf({ dictionary, set }: ModelSet, meaning: string): number | undefined {
  const parameter = findMeaning(dictionary, meaning);
  const reading = parameter && set.readings.get(parameter.code);
  if (parameter?.form.kind !== 'number' || !isRaw(reading)) return undefined;
  return toNumber(toDecimal(parameter.form, reading));
}
