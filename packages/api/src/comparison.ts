import type { Difference } from '@drive-keep/core/compare';
import type { Reading } from '@drive-keep/core/values';

/** `default`, `baseline`, `baseline:2`, `newest`, or `backup:` and its id. */
export type SetReference = string;

export interface ComparedSide {
  readonly reference: SetReference;
  /** Such as "Baseline, revision 3, signed 12 Mar 2026 by R. Ashgrove". */
  readonly title: string;
  readonly at: string | null;
  readonly hash: string;
}

export interface ComparisonRowView {
  readonly code: string;
  readonly a: Reading | null;
  readonly b: Reading | null;
  readonly least: number | null;
  readonly greatest: number | null;
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
