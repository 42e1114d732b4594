// Two versions of one model: whether a parameter means the same by the same integer in both.

import { findParameter, type Dictionary, type Parameter } from '../dictionary/index.ts';
import type { Form } from '../values/index.ts';

/** False where the other version does not have it, counts it otherwise, or calls one of its options something else. */
export function countsAlike(parameter: Parameter, other: Dictionary): boolean {
  const there = findParameter(other, parameter.code);
  return there !== undefined && sameForm(parameter.form, there.form);
}

function sameForm(a: Form, b: Form): boolean {
  if (a.kind === 'number' && b.kind === 'number')
    return a.unit === b.unit && JSON.stringify(a.resolution) === JSON.stringify(b.resolution);
  // A choice that only one of them has is no contradiction.
  if (a.kind === 'option' && b.kind === 'option')
    return a.options.every(({ raw, text }) =>
      b.options.every((each) => each.raw !== raw || each.text === text),
    );
  if (a.kind === 'bits' && b.kind === 'bits')
    return a.bits.every(({ bit, text }) => b.bits.every((each) => each.bit !== bit || each.text === text));
  return false;
}
