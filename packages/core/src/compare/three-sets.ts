// Three ways: what the baseline wants, what was held before, and what is held now. For every difference it says when it
// came about and whether it was there at the signing already.

import { isNoise, type Code, type Dictionary, type Parameter } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import type { Reading } from '../values/index.ts';
import { differenceOf, isDifference } from './difference.ts';

export type ThreeWay =
  /** Held before and holds now what the baseline wants. */
  | 'same'
  /** As wanted before; another value now. */
  | 'new'
  /** The same other value before and now. */
  | 'standing'
  /** Another value before, and yet another one now. */
  | 'moved'
  /** Another value before; now as wanted again. */
  | 'mended';

export interface ThreeWayRow {
  readonly code: Code;
  readonly baseline: Reading | undefined;
  readonly before: Reading | undefined;
  readonly now: Reading | undefined;
  readonly way: ThreeWay;
}

/** The way of one parameter. Changing `before` and `now` turns new into mended and leaves the others. */
export function wayOf(
  parameter: Parameter,
  baseline: Reading | undefined,
  before: Reading | undefined,
  now: Reading | undefined,
): ThreeWay {
  const differs = (a: Reading | undefined, b: Reading | undefined) =>
    isDifference(differenceOf(parameter, a, b));
  const was = differs(baseline, before);
  const is = differs(baseline, now);
  if (!was) return is ? 'new' : 'same';
  if (!is) return 'mended';
  return differs(before, now) ? 'moved' : 'standing';
}

/** Rows that are not the same three times, in menu order. All sets must be of `dictionary`. */
export function compareThree(
  dictionary: Dictionary,
  baseline: ParameterSet,
  before: ParameterSet,
  now: ParameterSet,
): readonly ThreeWayRow[] {
  return dictionary.parameters.flatMap((parameter) => {
    if (isNoise(parameter)) return [];
    const { code } = parameter;
    const [wanted, then, current] = [baseline, before, now].map((set) => set.readings.get(code));
    const way = wayOf(parameter, wanted, then, current);
    return way === 'same' ? [] : [{ code, baseline: wanted, before: then, now: current, way }];
  });
}
