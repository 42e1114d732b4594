import type { UnreachableCause, WritePhase, WriteReason } from '@drive-keep/core/plans';
import type { Reading } from '@drive-keep/core/values';

/** Plain writes, a reset with what goes back, or the end of another plan: the rest of it, or the way back. */
export type WritePlanKind = 'write' | 'reset' | 'resume' | 'undo';

/** A reset goes before all else. */
export type StepPhase = 'reset' | WritePhase;
export type StepReason = WriteReason | { readonly kind: 'procedure'; readonly text: string };

export type WritePlanState =
  'planned' | 'released' | 'writing' | 'done' | 'refused' | 'failed' | 'interrupted';

export interface WriteStepView {
  readonly code: string;
  readonly from: Reading | null;
  readonly to: number;
  readonly phase: StepPhase;
  readonly reason: StepReason;
  /** How long the unit is busy after it, in ms; 0 for a plain write. */
  readonly busyMs: number;
  readonly stopped: boolean;
  readonly restart: boolean;
  readonly state: 'planned' | 'writing' | 'written' | 'failed';
  readonly readBack: number | null;
  readonly text: string;
}

export interface UnreachableView {
  readonly code: string;
  readonly cause: UnreachableCause;
  readonly text: string;
}

/** A value that does nothing for the time being, and the parameter that decides it. */
export interface IdleView {
  readonly code: string;
  readonly by: string;
}

export interface ReleaseView {
  readonly by: string;
  readonly at: string;
  readonly until: string;
}

export interface WritePlanView {
  readonly id: string;
  readonly tag: string;
  readonly dictionary: string;
  readonly kind: WritePlanKind;
  readonly follows: string | null;
  readonly state: WritePlanState;
  readonly target: string;
  readonly plannedBy: string;
  readonly plannedAt: string;
  readonly steps: readonly WriteStepView[];
  readonly unreachable: readonly UnreachableView[];
  readonly alreadyThere: readonly string[];
  readonly idle: readonly IdleView[];
  /** Writes after which the unit may not be reached any more, with what they mean; whoever carries out states that he knows. */
  readonly cutOffs: readonly { readonly code: string; readonly text: string }[];
  readonly release: ReleaseView | null;
  /** The unit is restarted after the save, to prove that the values stuck. */
  readonly restartCheck: boolean;
  /** Somebody may state that the machine is stopped: it was not begun, or nothing of it was written. */
  readonly mayBeReleased: boolean;
  /** What may be planned from here, once the unit has been read again. */
  readonly followUps: readonly ('resume' | 'undo')[];
  /** What stands in the way, or how it ended; empty while nothing is to be said. */
  readonly text: string;
  /** What the unit holds now, where the plan did not come to its end. */
  readonly holds: string;
  readonly saved: boolean;
  readonly jobId: string | null;
  readonly backupBefore: string | null;
  readonly backupAfter: string | null;
}

/** One parameter that a reset changes. */
export interface ResetLossView {
  readonly code: string;
  readonly now: Reading | null;
  /** What it holds after the reset. */
  readonly after: Reading | null;
  /** What the signed baseline wants; nothing where there is none, or it has no value for it. */
  readonly baseline: Reading | null;
}

/** What a reset of a unit would do, before anything is planned. */
export interface ResetView {
  readonly tag: string;
  readonly dictionary: string;
  readonly region: string;
  readonly scope: number | null;
  readonly regions: readonly { readonly id: string; readonly name: string }[];
  readonly scopes: readonly { readonly raw: number; readonly name: string }[];
  readonly steps: readonly string[];
  /** Over the line; otherwise at the keypad, by the steps, and proven by reading it off or backing it up afterwards. */
  readonly overLine: boolean;
  readonly losses: readonly ResetLossView[];
  readonly keeps: readonly string[];
  /** Revision of the signed baseline; nothing where there is none. */
  readonly revision: number | null;
  readonly newestAt: string;
  /** Another region whose defaults the unit holds now. */
  readonly otherRegion: { readonly name: string; readonly codes: readonly string[] } | null;
  /** Against the defaults of this rating and region: what of the newest backup is not at its default. */
  readonly notAtDefault: readonly string[];
}
