import type { AcrossDifference, Difference, ThreeWay } from '@drive-keep/core/compare';
import type { Plain } from '@drive-keep/core/meanings';
import type { Purpose } from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';

/** `default`, `baseline`, `baseline:2`, `newest`, or `backup:` and its id. */
export type SetReference = string;

export interface ComparedSide {
  readonly reference: SetReference;
  /** Goes on meaning this very set, as `newest` and `baseline` do not. */
  readonly lastingReference: SetReference;
  /** Such as "Baseline, revision 3, signed 12 Mar 2026 by R. Ashgrove". */
  readonly title: string;
  readonly at: string | null;
  readonly hash: string;
}

export interface ComparisonRowView {
  readonly code: string;
  readonly a: Reading | null;
  readonly b: Reading | null;
  readonly minimum: number | null;
  readonly maximum: number | null;
  readonly default: number | null;
  readonly difference: Difference;
  /** The change in words. */
  readonly change: string;
}

export interface ComparisonView {
  readonly dictionary: string;
  readonly a: ComparedSide;
  readonly b: ComparedSide;
  readonly rows: readonly ComparisonRowView[];
  readonly same: number;
  readonly tolerated: number;
  readonly leftOut: number;
  readonly unknown: readonly string[];
}

/** One step in the history of a single parameter. */
export interface ParameterStep {
  readonly at: string;
  readonly reading: Reading | null;
  readonly by: string;
  readonly reason: string;
}

/** When a difference from the newest baseline came about. */
export interface DifferenceOrigin {
  readonly code: string;
  /** The first backup since which it has been like this without a break. */
  readonly since: string;
  readonly by: string;
  readonly reason: string;
  /** It was there already when the baseline was signed. */
  readonly atSigning: boolean;
}

/** What the baseline wants, what was held before, what is held now. */
export interface ThreeWayView {
  readonly dictionary: string;
  readonly baseline: ComparedSide;
  readonly before: ComparedSide;
  readonly now: ComparedSide;
  readonly rows: readonly {
    readonly code: string;
    readonly baseline: Reading | null;
    readonly before: Reading | null;
    readonly now: Reading | null;
    readonly way: ThreeWay;
    /** Nothing where it cannot be told. */
    readonly origin: DifferenceOrigin | null;
  }[];
}

/** A live reading as it goes: rows as they become known, then how it ended. */
export type LiveEvent =
  | {
      readonly kind: 'rows';
      readonly done: number;
      readonly total: number;
      readonly rows: readonly ComparisonRowView[];
    }
  | { readonly kind: 'end'; readonly ok: boolean; readonly text: string; readonly at: string };

export interface AcrossSideView {
  readonly tag: string;
  readonly duty: string;
  readonly model: string;
  readonly dictionary: string;
  readonly title: string;
  readonly at: string | null;
}

/** What one drive says of a meaning: the parameters behind it as they stand, and the plain value. */
export interface AcrossValueView {
  readonly meaning: string;
  readonly holds: readonly { readonly code: string; readonly reading: Reading | null }[];
  readonly plain: Plain;
}

/** Two drives, of the same model or of different ones, by meaning and in engineering units. */
export interface AcrossView {
  readonly a: AcrossSideView;
  readonly b: AcrossSideView;
  readonly rows: readonly {
    readonly meaning: string;
    readonly purpose: Purpose;
    readonly a: AcrossValueView | null;
    readonly b: AcrossValueView | null;
    readonly difference: AcrossDifference;
  }[];
  /** The trade's words for meanings and references that the rows name. */
  readonly terms: Readonly<Record<string, string>>;
  readonly same: number;
  readonly withoutMeaning: { readonly a: number; readonly b: number };
}

/** One parameter of one position over time. */
export interface ParameterHistoryView {
  readonly tag: string;
  readonly duty: string;
  readonly steps: readonly ParameterStep[];
  /** Values that signed baselines want, from when on. */
  readonly wanted: readonly { readonly at: string; readonly reading: Reading | null }[];
}
