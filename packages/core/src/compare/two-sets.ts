// Two sets of the same model. Laws: compare(a, a) has no rows; applying the rows of compare(a, b) to a gives b
// (for all that was compared); swapping the sides mirrors every row.

import { findParameter, isNoise, type Code, type Dictionary } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import type { Reading } from '../values/index.ts';
import { differenceOf, isDifference, type Difference } from './difference.ts';

export interface ComparisonRow {
  readonly code: Code;
  readonly a: Reading | undefined;
  readonly b: Reading | undefined;
  readonly difference: Difference;
}

export interface Comparison {
  /** What differs, in menu order. */
  readonly rows: readonly ComparisonRow[];
  readonly same: number;
  /** Measured values that moved within their tolerance. */
  readonly tolerated: number;
  /** Monitors, counters and serials that were left out, however they read, and what one side does not tell. */
  readonly leftOut: number;
  /** Codes in a set that its dictionary does not have: content from elsewhere, shown by name and never dropped. */
  readonly unknown: readonly string[];
}

export interface ComparisonOptions {
  /** Compare what changes by itself, too. */
  readonly noise: boolean;
  /** Codes of which one side cannot say anything, such as defaults that no maker tells. */
  readonly untold?: ReadonlySet<Code>;
}

/** Both sets must be of `dictionary`; the caller sees to it. */
export function compareSets(
  dictionary: Dictionary,
  a: ParameterSet,
  b: ParameterSet,
  options: ComparisonOptions = { noise: false },
): Comparison {
  const rows: ComparisonRow[] = [];
  let same = 0;
  let tolerated = 0;
  let leftOut = 0;
  for (const parameter of dictionary.parameters) {
    if (!options.noise && isNoise(parameter)) {
      leftOut += 1;
      continue;
    }
    const left = a.readings.get(parameter.code);
    const right = b.readings.get(parameter.code);
    if (options.untold?.has(parameter.code)) {
      leftOut += 1;
      continue;
    }
    const difference = differenceOf(parameter, left, right);
    if (difference.kind === 'same') same += 1;
    else if (!isDifference(difference)) tolerated += 1;
    else rows.push({ code: parameter.code, a: left, b: right, difference });
  }
  return { rows, same, tolerated, leftOut, unknown: unknownCodes(dictionary, a, b) };
}

function unknownCodes(dictionary: Dictionary, a: ParameterSet, b: ParameterSet): string[] {
  const codes = new Set<string>();
  for (const set of [a, b]) {
    for (const code of set.readings.keys()) if (!findParameter(dictionary, code)) codes.add(code);
  }
  return [...codes].sort();
}

/** The set that results when every row is carried over from B; the inverse of comparing. */
export function applyRows(a: ParameterSet, rows: readonly ComparisonRow[]): ParameterSet {
  const readings = new Map(a.readings);
  for (const row of rows) {
    if (row.b === undefined) readings.delete(row.code);
    else readings.set(row.code, row.b);
  }
  return { dictionary: a.dictionary, readings };
}
