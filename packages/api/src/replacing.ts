import type { ReplacementSheet, Saying, Surveyed } from '@drive-keep/core/replace';
import type { Reading } from '@drive-keep/core/values';

export const REPLACEMENT_STATES = ['open', 'closed', 'given-up'] as const;
export type ReplacementState = (typeof REPLACEMENT_STATES)[number];

/** The last word of a line, with what somebody else said before where that was something else. */
export interface SayingView extends Saying {
  /** Names the word; a later one of somebody who has not seen it is not taken. */
  readonly id: string;
  readonly by: string;
  /** When it came to the server, and when it was said by the clock of the device. */
  readonly at: string;
  readonly toldAt: string;
  readonly other: { readonly by: string; readonly at: string; readonly value: Saying['value'] } | null;
}

/** What a device brings. */
export interface NewSaying extends Saying {
  /** The word that it answers, or nothing where the line had none; tasks are taken as they come. */
  readonly seen: string | null;
  /** By the clock of the device. */
  readonly toldAt: string;
}

export interface UnitMark {
  readonly dictionary: string;
  readonly model: string;
  readonly rating: string;
  readonly region: string;
  readonly serial: number;
  readonly firmware: string;
  /** `Line 2, address 14`; nothing for a unit without a line. */
  readonly line: { readonly name: string; readonly address: number } | null;
}

/** How far the doing is. Each is nothing until it has come about. */
export interface DoingView {
  readonly swap: (UnitMark & { readonly by: string; readonly at: string }) | null;
  /** The first backup of the new unit, and the settings that were not as delivered. */
  readonly asFound: { readonly id: string; readonly at: string; readonly changed: readonly string[] } | null;
  readonly plan: { readonly id: string; readonly state: string } | null;
  readonly sheet: { readonly id: string; readonly state: 'open' | 'finished' } | null;
  /** The sheet was changed after writing was planned. */
  readonly planOutdated: boolean;
  /** The newest look at the new unit after that, against what the sheet promises. */
  readonly readBack: { readonly id: string; readonly at: string; readonly codes: readonly string[] } | null;
  readonly draft:
    'waiting' | 'refused' | { readonly revision: number; readonly by: string; readonly at: string } | null;
}

export interface ReplacementView {
  readonly id: string;
  readonly tag: string;
  readonly duty: string;
  readonly state: ReplacementState;
  readonly version: number;
  readonly why: string;
  readonly startedBy: string;
  readonly startedAt: string;
  readonly ended: { readonly by: string; readonly at: string; readonly why: string } | null;
  readonly old: UnitMark;
  readonly source: { readonly reference: string; readonly title: string; readonly at: string | null };
  /** In its cabinet, in °C; nothing where it is not known. */
  readonly ambient: number | null;
  /** Of the set: a version of the model of the old unit. */
  readonly oldDictionary: string;
  readonly readings: readonly (readonly [code: string, reading: Reading])[];
  readonly wiring: readonly (readonly string[])[];
  /** 0 where none was kept. */
  readonly wiringRevision: number;
  readonly fresh: { readonly dictionary: string; readonly region: string; readonly rating: string | null };
  /** As it was when the replacement began. */
  readonly cross: { readonly revision: number; readonly text: string | null; readonly newest: number };
  readonly sayings: readonly SayingView[];
  /** Answers of closed replacements of the same pair, newest first. */
  readonly earlier: readonly EarlierSaying[];
  readonly doing: DoingView;
}

/** The whole sheet as it stood when it was closed. */
export interface ReplacementRecord {
  readonly sheet: ReplacementSheet;
  readonly view: ReplacementView;
}

export interface EarlierSaying extends Saying {
  readonly tag: string;
  readonly by: string;
  readonly at: string;
}

export interface ReplacementMark {
  readonly id: string;
  readonly tag: string;
  readonly state: ReplacementState;
  readonly from: string;
  readonly to: string;
  readonly startedBy: string;
  readonly startedAt: string;
  readonly endedAt: string | null;
}

/** A model that is no longer bought, with all positions where one still sits. */
export interface ReplaceListModel {
  readonly model: string;
  readonly name: string;
  readonly successors: readonly {
    readonly dictionary: string;
    readonly model: string;
    readonly name: string;
    /** 0 for what the catalogue ships; nothing where nobody has written a cross-reference. */
    readonly revision: number | null;
  }[];
  readonly rows: readonly ReplaceListRow[];
}

export interface ReplaceListRow {
  readonly tag: string;
  readonly duty: string;
  readonly area: string;
  readonly machine: string;
  readonly rating: string;
  readonly serial: number;
  readonly installedAt: string;
  /** What speaks for doing it soon, the worst first. */
  readonly risks: readonly string[];
  readonly risk: 'low' | 'middle' | 'high';
  /** Sits there still, or its replacement is closed. */
  readonly model: string;
  /** The newest one of this position. */
  readonly replacement: ReplacementMark | null;
}

/** What one successor would make of one position. */
export interface ReplaceEstimate extends Surveyed {
  readonly tag: string;
}
