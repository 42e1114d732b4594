import type { UnreachableCause, WritePhase, WriteReason } from '@drive-keep/core/plans';
import type { Reading } from '@drive-keep/core/values';

export type WritePlanState =
  'planned' | 'released' | 'writing' | 'done' | 'refused' | 'failed' | 'interrupted';

export interface WriteStepView {
  readonly code: string;
  readonly from: Reading | null;
  readonly to: number;
  readonly phase: WritePhase;
  readonly reason: WriteReason;
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

export interface ReleaseView {
  readonly by: string;
  readonly at: string;
  readonly until: string;
}

export interface WritePlanView {
  readonly id: string;
  readonly tag: string;
  readonly dictionary: string;
  readonly state: WritePlanState;
  readonly target: string;
  readonly plannedBy: string;
  readonly plannedAt: string;
  readonly steps: readonly WriteStepView[];
  readonly unreachable: readonly UnreachableView[];
  readonly alreadyThere: readonly string[];
  readonly release: ReleaseView | null;
  /** What stands in the way, or how it ended; empty while nothing is to be said. */
  readonly text: string;
  /** What the unit holds now, where the plan did not come to its end. */
  readonly holds: string;
  readonly saved: boolean;
  readonly jobId: string | null;
  readonly backupBefore: string | null;
  readonly backupAfter: string | null;
}
