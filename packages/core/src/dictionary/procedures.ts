// What the maker's manual says to do for a purpose, step by step: at the keypad in words, over the line as writes.

import type { Code } from './parameter.ts';

/** What a procedure of the manual is for. */
export const PURPOSES_OF_PROCEDURES = ['identify', 'reset', 'save', 'restart', 'unlock'] as const;
export type ProcedurePurpose = (typeof PURPOSES_OF_PROCEDURES)[number];

export interface ProcedureStep {
  readonly text: string;
  /** The parameter that the step sets, with the value as text (a fact of the rating or region by `@name`). */
  readonly set: { readonly code: Code; readonly to: string } | null;
  /** How long the unit is busy afterwards. */
  readonly busyMs: number;
}

/** What a reset covers, by the value of the parameter that chooses it; menus by the first part of their paths. */
export interface ResetScope {
  readonly raw: number;
  readonly name: string;
  /** Menus that it covers; all where there are none. */
  readonly only: readonly string[];
  readonly leaves: readonly string[];
}

export interface Procedure {
  readonly purpose: ProcedurePurpose;
  readonly name: string;
  readonly steps: readonly ProcedureStep[];
  /** What a reset leaves as it is. */
  readonly keeps: readonly Code[];
  /** Choices of what a reset covers; none where it always covers everything. */
  readonly scopes: readonly ResetScope[];
}
