import type { OutcomeCode } from './jobs.ts';

export interface RegisterView {
  readonly plant: string;
  readonly areas: readonly AreaView[];
}

export interface AreaView {
  readonly name: string;
  readonly machines: readonly MachineView[];
}

export interface MachineView {
  readonly name: string;
  readonly positions: readonly PositionView[];
}

export interface UnitView {
  readonly maker: string;
  readonly model: string;
  readonly dictionary: string;
  readonly rating: string;
  readonly ratingName: string;
  readonly region: string;
  readonly regionName: string;
  readonly serial: number;
  readonly firmware: string;
  /** Nothing for keypad-only units. */
  readonly line: { readonly name: string; readonly address: number } | null;
}

/** What is known of the last try to back this position up. */
export interface LastTryView {
  readonly outcome: OutcomeCode;
  readonly at: string;
  readonly text: string;
}

export interface PositionView {
  readonly tag: string;
  readonly duty: string;
  readonly criticality: 'low' | 'middle' | 'high';
  readonly motor: string;
  readonly unit: UnitView;
  /** Differences of the newest backup from the baseline; nothing where one of them is missing. */
  readonly drift: number | null;
  /** So many of them are tolerated for a while. */
  readonly tolerated: number;
  readonly newestBackup: string | null;
  readonly baselineRevision: number | null;
  readonly lastTry: LastTryView | null;
}

export interface PositionDetailView extends PositionView {
  readonly area: string;
  readonly machine: string;
}

/** One mark of the history strip. */
export interface BackupMark {
  readonly id: string;
  readonly takenAt: string;
  readonly takenBy: string;
  readonly how: BackupHow;
  readonly reason: string;
  readonly serial: number;
  readonly firmware: string;
  readonly hash: string;
  /** Differences from the baseline that was in force; nothing before the first baseline. */
  readonly differences: number | null;
  readonly unreadable: number;
  /** Same content as the backup before. */
  readonly sameAsBefore: boolean;
}

export type BackupHow = 'read' | 'imported' | 'before-write' | 'after-write';

export interface BaselineMark {
  readonly revision: number;
  readonly signedAt: string;
  readonly signedBy: string;
  readonly reason: string;
  readonly hash: string;
}

export interface HistoryView {
  readonly backups: readonly BackupMark[];
  readonly baselines: readonly BaselineMark[];
}
