// What the maker's manual says to do for a purpose, step by step: at the keypad in words, over the line as writes.

import type { Code } from './parameter.ts';

export const PURPOSES_OF_PROCEDURES = ['identify', 'reset', 'save', 'restart', 'unlock'] as const;
export type ProcedurePurpose = (typeof PURPOSES_OF_PROCEDURES)[number];

export interface ProcedureStep {
  readonly text: string;
  /** The parameter that the step sets, with the value as text (a fact of the rating or region by `@name`). */
  readonly set: { readonly code: Code; readonly to: string } | null;
  /** How long the unit is busy afterwards. */
  readonly busyMs: number;
}

export interface Procedure {
  readonly purpose: ProcedurePurpose;
  readonly name: string;
  readonly steps: readonly ProcedureStep[];
  /** What a reset leaves as it is. */
  readonly keeps: readonly Code[];
}
