import type { Reading } from '@drive-keep/core/values';

export const DECISION_KINDS = ['put-back', 'take-in', 'tolerate', 'later'] as const;
/** What to do about one difference between baseline and newest backup. */
export type DecisionKind = (typeof DECISION_KINDS)[number];

export interface DecisionView {
  readonly id: string;
  readonly code: string;
  readonly kind: DecisionKind;
  readonly reason: string;
  /** Last day of a toleration, as 2027-03-31. */
  readonly until: string | null;
  readonly person: string;
  readonly madeAt: string;
  /** What the baseline wanted and what was found when it was decided. */
  readonly wanted: Reading | null;
  readonly found: Reading | null;
}

/** A baseline revision that waits for its signature. */
export interface DraftView {
  /** The proof run that would be named by the signature: it has shown on the machine what is proposed. */
  readonly proof: { readonly id: string; readonly at: string; readonly passed: number } | null;
  /** Revision of the wiring that would be signed with it; nothing where none was kept. */
  readonly wiring: number | null;
  /**
   * What is proposed: decided differences, the newest backup as the first one, the wiring with the values as they were, or the
   * new unit of a replacement.
   */
  readonly of: 'differences' | 'first' | 'wiring' | 'replacement';
  readonly id: string;
  /** Revision that it would become. */
  readonly revision: number;
  readonly codes: readonly string[];
  readonly reason: string;
  readonly madeBy: string;
  readonly madeAt: string;
  /** The plant wants another person to sign than the one who proposed. */
  readonly secondPerson: boolean;
}

export interface DecisionsView {
  /** One's own, not finished yet. */
  readonly open: readonly DecisionView[];
  /** Finished by anybody and still true of the unit: tolerated, or to be looked at later. */
  readonly inForce: readonly DecisionView[];
  readonly draft: DraftView | null;
}

/** What finishing one's decisions has led to. */
export interface FinishedDecisions {
  readonly writePlanId: string | null;
  /** In place of a write plan, for a unit without a line. */
  readonly keyInSheetId: string | null;
  readonly draftId: string | null;
  readonly tolerated: number;
  readonly later: number;
}
