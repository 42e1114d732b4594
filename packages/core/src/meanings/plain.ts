// Plain values: what a parameter says in canonical terms, whatever the model counts in. A value comes with the step in
// which it was kept, the codes it comes from and how it was told; where nothing can be told, why.

import type { Code } from '../dictionary/index.ts';
import type { ConversionName } from './vocabulary.ts';

/** A fact that a conversion used: a meaning or a reference by its name, in its plain unit. */
export interface UsedFact {
  readonly what: string;
  readonly code: Code | null;
  readonly value: number;
  readonly unit: string;
}

/** How a value was told where it was not as it stands: what the parameter itself says, and the facts beside it. */
export interface How {
  readonly conversion:
    ConversionName | 'reference' | 'poles' | 'poles-from-plate' | 'increments' | 'same-as' | 'fixed';
  readonly own: { readonly value: number; readonly unit: string } | null;
  readonly facts: readonly UsedFact[];
}

/** Why nothing is told. `missing` names what would be needed. */
export type Untold =
  /** This model has no such thing. */
  | { readonly code: 'no-such-thing' }
  /** The set holds no value for it. */
  | { readonly code: 'not-kept' }
  | { readonly code: 'unreadable' }
  /** A reference of the unit or the set that is not known. */
  | { readonly code: 'missing'; readonly what: string }
  /** Nobody states what the number counts to. */
  | { readonly code: 'reference-not-stated' }
  /** A percentage of the maker's own scale. */
  | { readonly code: 'maker-scale' }
  /** The divisor is zero, or on the wrong side of it. */
  | { readonly code: 'divisor'; readonly what: string }
  /** The slip of the plate is beyond any motor: speed and frequency do not belong together. */
  | { readonly code: 'plate-slip' }
  /** Both points of the line lie at the same signal. */
  | { readonly code: 'points-equal' }
  /** The signal is the actual value of the loop, or not used for the speed. */
  | { readonly code: 'other-use' }
  /** The model's option or bit does not say it. */
  | { readonly code: 'unsaid' }
  /** The unit of the number is of another quantity. */
  | { readonly code: 'unit'; readonly unit: string };

export interface PlainNumber {
  readonly kind: 'number';
  readonly value: number;
  readonly unit: string;
  /** The step in which the model keeps it, in the same unit. */
  readonly step: number;
  readonly codes: readonly Code[];
  readonly how: How | null;
}

export interface PlainChoice {
  readonly kind: 'choice';
  readonly option: string;
  readonly codes: readonly Code[];
  readonly how: How | null;
}

export interface CurvePoint {
  /** Share of the signal, 0 at its start, 1 at its end. */
  readonly signal: number;
  readonly value: number;
}

/** Straight from point to point, from the start of the signal to its end. */
export interface PlainCurve {
  readonly kind: 'curve';
  readonly points: readonly CurvePoint[];
  readonly unit: string;
  readonly step: number;
  readonly codes: readonly Code[];
  readonly how: How | null;
}

export interface PlainNothing {
  readonly kind: 'nothing';
  readonly why: Untold;
  readonly codes: readonly Code[];
}

export type Plain = PlainNumber | PlainChoice | PlainCurve | PlainNothing;

export const nothing = (why: Untold, codes: readonly Code[] = []): PlainNothing => ({
  kind: 'nothing',
  why,
  codes,
});

/** Enough for any step of a drive, few enough that binary fractions do not show. */
const DIGITS = 12;
export const tidy = (value: number): number => Number(value.toPrecision(DIGITS)) + 0;

/** The value of a curve at a share of its signal. */
export function curveAt({ points }: Pick<PlainCurve, 'points'>, signal: number): number {
  const after = points.findIndex((point) => point.signal >= signal);
  const right = points[after === -1 ? points.length - 1 : after];
  const left = points[Math.max(0, after - 1)];
  if (!left || !right) return 0;
  if (right.signal === left.signal) return right.value;
  return left.value + ((right.value - left.value) * (signal - left.signal)) / (right.signal - left.signal);
}
