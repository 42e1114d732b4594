import type { Judgement, ProofInput, ProofStep } from '@drive-keep/core/prove';

export const PROOF_VERDICTS = ['passed', 'failed', 'not-done'] as const;
export type ProofVerdict = (typeof PROOF_VERDICTS)[number];
export type ProofScope = 'whole' | 'changed';

/** The last word of a step, with what somebody else said before where that was something else. */
export interface ProofSayingView {
  readonly step: string;
  /** Nothing: taken back. */
  readonly verdict: ProofVerdict | null;
  /** What was seen, or why it was not done. */
  readonly seen: string;
  /** Of the evidence on which the word rests; nothing where a person alone stands for it. */
  readonly evidence: string | null;
  readonly by: string;
  /** When it came to the server, and when it was said by the clock of the device. */
  readonly at: string;
  readonly toldAt: string;
  readonly other: { readonly by: string; readonly at: string; readonly verdict: ProofVerdict | null } | null;
}

/** What a device brings. */
export type NewProofSaying = Pick<ProofSayingView, 'step' | 'verdict' | 'seen' | 'evidence' | 'toldAt'>;

/** What was read while somebody went through a step, and what follows from it. */
export interface ProofEvidenceView extends Omit<Judgement, 'state'> {
  readonly id: string;
  readonly step: string;
  /** `unjudged`: watching ended before it could be told. */
  readonly state: 'passed' | 'failed' | 'unjudged';
  readonly by: string;
  readonly beganAt: string;
  readonly endedAt: string;
  readonly readings: number;
}

/** One reading: only what differs from the one before, in ms since the first. */
export interface ProofReading {
  readonly at: number;
  readonly inputs?: Readonly<Record<string, boolean>>;
  readonly runs?: boolean | null;
  readonly faulty?: boolean | null;
  /** In Hz. */
  readonly hertz?: number | null;
  /** Nothing answered from here on. */
  readonly silent?: true;
}

export interface ProofCounts {
  readonly steps: number;
  readonly passed: number;
  readonly failed: number;
  readonly notDone: number;
}

export interface ProofMark extends ProofCounts {
  readonly id: string;
  readonly state: 'open' | 'closed' | 'given-up';
  readonly scope: ProofScope;
  readonly why: string;
  readonly startedBy: string;
  readonly startedAt: string;
  readonly endedBy: string | null;
  readonly endedAt: string | null;
}

export interface ProofStepView extends ProofStep {
  /** Its evidence can be read over the line of the unit. */
  readonly watched: boolean;
}

export interface ProofRunView extends ProofMark {
  readonly tag: string;
  readonly duty: string;
  readonly dictionary: string;
  readonly model: string;
  readonly rating: string;
  readonly serial: number;
  /** Another unit sits there now: nothing of this run can be gone on with. */
  readonly unitGone: boolean;
  readonly hasLine: boolean;
  readonly set: { readonly title: string; readonly at: string | null; readonly hash: string };
  /** 0 where none was kept. */
  readonly wiringRevision: number;
  /** The proof run whose set and wiring this one goes on from; nothing for a whole one. */
  readonly since: { readonly id: string; readonly at: string } | null;
  readonly planned: readonly ProofStepView[];
  /** Steps that do not matter after what was changed. */
  readonly leftOut: number;
  readonly inputs: readonly ProofInput[];
  readonly states: number;
  readonly unfinished: boolean;
  readonly untold: number;
  readonly sayings: readonly ProofSayingView[];
  readonly evidence: readonly ProofEvidenceView[];
  readonly endedWhy: string;
}

/** What has happened to a position since it was last proved. */
export interface ProofAsked {
  readonly text: string;
  readonly since: string;
  /** What was done last time does not count any more. */
  readonly whole: boolean;
}

export interface ProofsView {
  /** The newest first. */
  readonly runs: readonly ProofMark[];
  readonly asked: ProofAsked | null;
}

export type ProofWatchEvent =
  | {
      readonly kind: 'judging';
      readonly judgement: Judgement;
      /** What the unit shows, in words; empty where nothing comes. */
      readonly shown: string;
    }
  /** Nothing comes, and why. */
  | { readonly kind: 'silent'; readonly text: string; readonly judgement: Judgement }
  /** All settings are being read. */
  | { readonly kind: 'reading'; readonly done: number; readonly total: number }
  | { readonly kind: 'kept'; readonly evidence: ProofEvidenceView };
