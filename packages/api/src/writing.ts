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
  readonly release: ReleaseView | null;
  /** The unit is restarted after the save, to prove that the values stuck. */
  readonly restartCheck: boolean;
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
