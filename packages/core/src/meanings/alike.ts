// Whether two plain values say the same: options by what they are, numbers and curves within half of the coarser step.
// Within the half steps of both it is rounding; beyond, a difference.

import { curveAt, type Plain, type PlainCurve } from './plain.ts';

export type Likeness =
  | { readonly kind: 'same' }
  /** `by` is how much greater the second is, in the unit of the plain value. */
  | { readonly kind: 'rounding' | 'differs'; readonly by: number; readonly at: number | null }
  | { readonly kind: 'another-option' }
  /** One is an option, the other a number; or numbers of what is not the same quantity. */
  | { readonly kind: 'another-kind' };

/** Binary fractions of a chain of conversions, relative to the value. */
const DUST = 1e-9;

export function likeness(a: Plain, b: Plain): Likeness | undefined {
  if (a.kind === 'nothing' || b.kind === 'nothing') return undefined;
  if (a.kind === 'choice' && b.kind === 'choice')
    return { kind: a.option === b.option ? 'same' : 'another-option' };
  if (a.kind === 'number' && b.kind === 'number')
    return a.unit === b.unit ? near(a.value, b.value, a.step, b.step, null) : { kind: 'another-kind' };
  if (a.kind === 'curve' && b.kind === 'curve') return curvesNear(a, b);
  return { kind: 'another-kind' };
}

function near(a: number, b: number, stepA: number, stepB: number, at: number | null): Likeness {
  const by = Number((b - a).toPrecision(10));
  const dust = DUST * Math.max(Math.abs(a), Math.abs(b));
  if (Math.abs(b - a) <= Math.max(stepA, stepB) / 2 + dust) return { kind: 'same' };
  // One whole step between two that count alike is no rounding.
  const rounding = Math.abs(b - a) < (stepA + stepB) / 2 - dust;
  return { kind: rounding ? 'rounding' : 'differs', by, at };
}

/** At all corners of both sides, the widest apart. */
function curvesNear(a: PlainCurve, b: PlainCurve): Likeness {
  if (a.unit !== b.unit) return { kind: 'another-kind' };
  const corners = [...a.points, ...b.points].map(({ signal }) => signal);
  const apart = corners.map((signal) => near(curveAt(a, signal), curveAt(b, signal), a.step, b.step, signal));
  const size = (each: Likeness) => ('by' in each ? Math.abs(each.by) : 0);
  return apart.reduce((widest, each) => (size(each) > size(widest) ? each : widest), { kind: 'same' });
}
