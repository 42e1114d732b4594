export type JobKind = 'backup' | 'write' | 'axes';
export type JobState = 'queued' | 'running' | 'done' | 'stopped' | 'interrupted';

export const OUTCOMES = [
  'kept',
  'kept-with-gaps',
  'no-line',
  'no-connection',
  'no-answer',
  'late',
  'broke-off',
  'wrong-answer',
  'busy',
  'other-model',
  'other-serial',
  'identity-changed',
  'stopped',
  'interrupted',
  'failed',
] as const;
/** How the backup of one unit ended. */
export type OutcomeCode = (typeof OUTCOMES)[number];

export interface JobItemView {
  readonly tag: string;
  readonly duty: string;
  readonly state: 'waiting' | 'reading' | 'ended';
  /** Requests answered, of those planned. */
  readonly done: number;
  readonly total: number;
  readonly outcome: OutcomeCode | null;
  /** What happened and what to do, in words. */
  readonly text: string;
  readonly backupId: string | null;
}

export interface JobView {
  readonly id: string;
  readonly kind: JobKind;
  readonly state: JobState;
  readonly requestedBy: string;
  readonly requestedAt: string;
  readonly finishedAt: string | null;
  readonly reason: string;
  readonly items: readonly JobItemView[];
}

/** Answer to starting a backup. */
export interface StartedJob {
  readonly job: JobView;
  /** Somebody had already started the same; this is that job. */
  readonly joined: boolean;
}
