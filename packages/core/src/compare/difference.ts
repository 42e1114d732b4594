// What lies between two readings of one parameter, A the earlier or wanted one and B the later or present one.

import type { Parameter } from '../dictionary/index.ts';
import {
  describeRaw,
  forPeople,
  hasBit,
  isRaw,
  isUnreadable,
  showSigned,
  subtractDecimal,
  toDecimal,
  toNumber,
  assertNever,
  type Decimal,
  type Reading,
} from '../values/index.ts';

export type Difference =
  | { readonly kind: 'same' }
  | { readonly kind: 'greater' | 'less' | 'within-tolerance'; readonly by: Decimal }
  | { readonly kind: 'option' }
  | { readonly kind: 'bits'; readonly on: readonly number[]; readonly off: readonly number[] }
  | { readonly kind: 'only-a' | 'only-b' }
  | { readonly kind: 'unreadable'; readonly side: 'a' | 'b' | 'both' };

/**
 * Two identifications of the same motor differ by its temperature alone: copper changes by 0.39 %/K (IEC 60228),
 * and 25 K between a cold and a warm winding make 10 %.
 */
const MEASURED_TOLERANCE = 0.1;

const SAME: Difference = { kind: 'same' };

/** Same model on both sides: raw values are compared, so nothing is ever lost in rounding. */
export function differenceOf(
  parameter: Parameter,
  a: Reading | undefined,
  b: Reading | undefined,
): Difference {
  if (isRaw(a) && a === b) return SAME;
  if (isUnreadable(a) || isUnreadable(b)) {
    if (isUnreadable(a) && isUnreadable(b)) return { kind: 'unreadable', side: 'both' };
    return { kind: 'unreadable', side: isUnreadable(a) ? 'a' : 'b' };
  }
  if (a === undefined) return b === undefined ? SAME : { kind: 'only-b' };
  if (b === undefined) return { kind: 'only-a' };
  return changeOf(parameter, a, b);
}

function changeOf(parameter: Parameter, a: number, b: number): Difference {
  const { form } = parameter;
  switch (form.kind) {
    case 'number': {
      const by = subtractDecimal(toDecimal(form, b), toDecimal(form, a));
      if (parameter.keeping === 'measured' && withinTolerance(a, b)) return { kind: 'within-tolerance', by };
      return { kind: b > a ? 'greater' : 'less', by };
    }
    case 'option':
      return { kind: 'option' };
    case 'bits':
      return { kind: 'bits', on: changedBits(b & ~a), off: changedBits(a & ~b) };
    default:
      return assertNever(form);
  }
}

const withinTolerance = (a: number, b: number): boolean =>
  Math.abs(b - a) <= MEASURED_TOLERANCE * Math.max(Math.abs(a), Math.abs(b));

function changedBits(word: number): number[] {
  return Array.from({ length: 32 }, (_, bit) => bit).filter((bit) => hasBit(word, bit));
}

/** True for what somebody has to look at. */
export const isDifference = (difference: Difference): boolean =>
  difference.kind !== 'same' && difference.kind !== 'within-tolerance';

/** The change in words: `+12.0 s (×1.6)`, `Keypad → Terminals`, `on: brake; off: fan`. */
export function describeChange(parameter: Parameter, a: Reading | undefined, b: Reading | undefined): string {
  const difference = differenceOf(parameter, a, b);
  switch (difference.kind) {
    case 'same':
      return 'no change';
    case 'greater':
    case 'less':
    case 'within-tolerance':
      return describeNumber(parameter, difference.by, a as number, b as number);
    case 'option':
      return `${optionText(parameter, a as number)} → ${optionText(parameter, b as number)}`;
    case 'bits':
      return describeBits(parameter, difference.on, difference.off);
    case 'only-a':
      return 'missing in B';
    case 'only-b':
      return 'missing in A';
    case 'unreadable':
      return difference.side === 'both'
        ? 'unreadable in A and B'
        : `unreadable in ${difference.side.toUpperCase()}`;
    default:
      return assertNever(difference);
  }
}

function describeNumber(parameter: Parameter, by: Decimal, a: number, b: number): string {
  const unit = parameter.form.kind === 'number' ? parameter.form.unit : '';
  const change = unit === '' ? showSigned(by) : `${showSigned(by)} ${unit}`;
  const ratio = a !== 0 && b !== 0 && a > 0 === b > 0 ? ` (×${forPeople(showRatio(b / a))})` : '';
  const tolerated = differenceOf(parameter, a, b).kind === 'within-tolerance' ? ', within tolerance' : '';
  return change + ratio + tolerated;
}

/** Two digits are enough to judge a change; near 1 the second place is what matters. */
function showRatio(ratio: number): string {
  if (ratio >= 10) return ratio.toFixed(0);
  return ratio < 1.1 ? ratio.toFixed(2) : ratio.toFixed(1);
}

const optionText = (parameter: Parameter, raw: number): string =>
  describeRaw(parameter.form, raw) ?? `option ${raw}`;

function describeBits(parameter: Parameter, on: readonly number[], off: readonly number[]): string {
  const { form } = parameter;
  if (form.kind !== 'bits') return '';
  const name = (bit: number) => form.bits.find((each) => each.bit === bit)?.text ?? `bit ${bit}`;
  const part = (word: string, bits: readonly number[]) =>
    bits.length === 0 ? [] : [`${word}: ${bits.map(name).join(', ')}`];
  return [...part('on', on), ...part('off', off)].join('; ');
}

/** For drawing: where a raw number lies between minimum and maximum, from 0 to 1; outside values stay outside. */
export function placeInRange(
  parameter: Parameter,
  raw: number,
  minimum: number,
  maximum: number,
): number | undefined {
  if (parameter.form.kind !== 'number' || maximum <= minimum) return undefined;
  const at = (value: number) => toNumber(toDecimal(parameter.form as never, value));
  return (at(raw) - at(minimum)) / (at(maximum) - at(minimum));
}
