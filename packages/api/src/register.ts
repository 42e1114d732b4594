import type { FindingView } from './findings.ts';
import type { OutcomeCode } from './jobs.ts';
import type { PositionState, PositionStateKind } from './position-state.ts';
import type { WiringMark } from './wiring.ts';

export const REGISTER_SORTS = ['plant', 'tag', 'model', 'state', 'backup', 'differences'] as const;
export type RegisterSort = (typeof REGISTER_SORTS)[number];

/** A part of the register: what the filters let through, in order, from one place on. */
export interface RegisterPage {
  readonly plant: string;
  /** Positions of the whole plant. */
  readonly all: number;
  /** Positions that the filters let through, whatever their state. */
  readonly counts: Readonly<Partial<Record<PositionStateKind, number>>>;
  /** Positions that the filters let through and that have an open finding. */
  readonly withFindings: number;
  /** Positions that the filters let through, the state among them. */
  readonly total: number;
  /** So many of them have a line. */
  readonly onLine: number;
  readonly from: number;
  readonly positions: readonly PositionView[];
}

/** What there is to choose from: areas with their machines, models in use. */
export interface RegisterOutline {
  readonly areas: readonly {
    readonly name: string;
    readonly machines: readonly { readonly name: string; readonly positions: number }[];
  }[];
  readonly models: readonly { readonly model: string; readonly name: string; readonly positions: number }[];
  readonly retired: number;
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
  /** Serial number of another unit that answered, where it was read. */
  readonly foundSerial: number | null;
}

export interface PositionView {
  readonly tag: string;
  readonly area: string;
  readonly machine: string;
  /** Since when nothing is there any more; its history stays. */
  readonly retiredAt: string | null;
  readonly duty: string;
  readonly criticality: 'low' | 'middle' | 'high';
  readonly motor: string;
  /** Its motor in the library, where it has one. */
  readonly motorId: string | null;
  readonly unit: UnitView;
  /** Differences of the newest backup from the baseline; nothing where one of them is missing. */
  readonly drift: number | null;
  /** What was kept as its baseline or its newest backup cannot be read back. */
  readonly damaged: boolean;
  /** So many of them are tolerated for a while. */
  readonly tolerated: number;
  readonly newestBackup: string | null;
  /** The newest backup is one of the unit that sits there now, not of one before it. */
  readonly newestIsOfUnit: boolean;
  readonly baselineRevision: number | null;
  readonly lastTry: LastTryView | null;
  /** Open findings of the checks; nothing where its newest values wait for their check, or nothing is known of its unit. */
  readonly findings: { readonly stop: number; readonly look: number } | null;
  readonly state: PositionState;
}

export interface PositionDetailView extends PositionView {
  /** Goes with a change of the position, so that the later of two people is told. */
  readonly version: number;
  /** The same for the unit in place. */
  readonly unitVersion: number;
  readonly retiredWhy: string;
  /** Its machine has a controller, which moves it together with other axes. */
  readonly isAxis: boolean;
  /** Units that sat there before, the last one first. */
  readonly formerUnits: readonly FormerUnitView[];
}

export interface FormerUnitView {
  readonly model: string;
  readonly rating: string;
  readonly serial: number;
  readonly firmware: string;
  readonly installedAt: string;
  readonly removedAt: string;
  readonly why: string;
}

/** What a plant list would do to the register, row by row, before anything is done. */
export interface PlantListPreview {
  readonly fileName: string;
  readonly hash: string;
  /** What holds for the whole file: sheets and columns that were not read. */
  readonly notes: readonly FindingView[];
  readonly rows: readonly PlantListRowView[];
  readonly acceptable: boolean;
}

export interface PlantListRowView {
  readonly line: number;
  readonly tag: string;
  readonly duty: string;
  /** Nothing is done where a finding stops the row. */
  readonly does: 'add' | 'change' | 'nothing' | 'stopped';
  readonly changes: readonly string[];
  readonly findings: readonly Pick<FindingView, 'attention' | 'text'>[];
}

/** `again`: the unit that answered at an address before; the gateway does not look at the address. */
export type FoundKind =
  'known' | 'unknown' | 'other-serial' | 'elsewhere' | 'unknown-model' | 'silent' | 'again';

/** What answers at one address of a line. */
export interface FoundUnitView {
  readonly address: number;
  readonly found: FoundKind;
  /** The registered position at this address, if there is one. */
  readonly tag: string | null;
  readonly dictionary: string | null;
  readonly model: string;
  readonly rating: string | null;
  readonly firmware: string;
  readonly serial: number | null;
  readonly text: string;
}

export interface ScanView {
  readonly id: string;
  readonly line: string;
  readonly from: number;
  readonly to: number;
  readonly state: 'running' | 'done' | 'stopped' | 'interrupted';
  readonly startedBy: string;
  readonly startedAt: string;
  readonly asked: number;
  /** Why it ended early; empty where it did not. */
  readonly text: string;
  readonly units: readonly FoundUnitView[];
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
  /** What was kept cannot be read back. */
  readonly damaged: boolean;
  /** Same content as the backup before. */
  readonly sameAsBefore: boolean;
}

export type BackupHow = 'read' | 'read-off' | 'imported' | 'before-write' | 'after-write';

export interface BaselineMark {
  /** The proof run that showed on the machine what was signed; nothing where none had. */
  readonly proof: string | null;
  /** Revision of the wiring that was signed with it; nothing where there was none. */
  readonly wiring: number | null;
  /** What was signed cannot be read back. */
  readonly damaged: boolean;
  readonly revision: number;
  readonly signedAt: string;
  readonly signedBy: string;
  readonly reason: string;
  readonly hash: string;
}

export interface HistoryView {
  readonly backups: readonly BackupMark[];
  readonly baselines: readonly BaselineMark[];
  /** The backup that tells what the unit was last seen to hold. */
  readonly newest: string | null;
  /** The last one before it that holds something else. */
  readonly lastThatDiffered: string | null;
  /** The oldest first. */
  readonly wirings: readonly WiringMark[];
  /** Values that files told, the newest first: to be compared and written. */
  readonly parts: readonly {
    readonly reference: string;
    readonly fileName: string;
    readonly at: string;
    readonly by: string;
  }[];
  /** Other units that came in since the first. */
  readonly swaps: readonly { readonly at: string; readonly otherModel: boolean; readonly text: string }[];
}
