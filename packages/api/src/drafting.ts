import type { DraftSheet } from '@drive-keep/core/start';
import type { Reading } from '@drive-keep/core/values';

/** A ready draft for a kind of duty, of the catalogue or of the plant. */
export interface StartingPointView {
  readonly id: string;
  readonly name: string;
  readonly about: string;
  readonly load: string;
  readonly assumes: readonly string[];
  /** The whole file. */
  readonly text: string;
  /** 0 for what the catalogue ships. */
  readonly revision: number;
  readonly revisions: readonly {
    readonly revision: number;
    readonly savedBy: string;
    readonly savedAt: string;
    readonly why: string;
  }[];
}

export const DRAFT_STATES = ['open', 'put-away'] as const;
export type DraftState = (typeof DRAFT_STATES)[number];

/** The last word of a field. */
export interface DraftFieldView {
  /** Key of the field: `plate.current`, `ask.speed.1`, `set.ramp.up`. */
  readonly key: string;
  /** As it was typed; empty where it was taken back. */
  readonly text: string;
  readonly why: string;
  /** Names the word; a later one of somebody who has not seen it is not taken. */
  readonly id: string;
  readonly by: string;
  readonly at: string;
  /** What somebody else said before, where that was something else. */
  readonly other: { readonly by: string; readonly at: string; readonly text: string } | null;
}

export interface NewDraftField {
  readonly key: string;
  readonly text: string;
  readonly why: string;
  readonly seen: string | null;
}

/** What a draft begins with, as it was then. */
export interface DraftBaseView {
  /** `KL1-RD-01, baseline 3`, or the name of a file. */
  readonly title: string;
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  readonly readings: readonly (readonly [code: string, reading: Reading])[];
  /** By its own words, as a wiring is kept. */
  readonly wiring: string;
  readonly cross: string | null;
}

export interface DraftRevisionView {
  readonly id: string;
  readonly revision: number;
  readonly why: string;
  readonly by: string;
  readonly at: string;
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  readonly hash: string;
  /** Settings that are not as delivered. */
  readonly changes: number;
}

export const DRAFT_USES = ['key-in', 'write-plan', 'baseline', 'wiring'] as const;
export type DraftUse = (typeof DRAFT_USES)[number];

export interface DraftUseView {
  readonly kind: DraftUse;
  readonly tag: string;
  readonly revision: number;
  /** Of the key-in sheet or the write plan. */
  readonly madeId: string | null;
  readonly by: string;
  readonly at: string;
}

export interface SettingsDraftView {
  readonly id: string;
  readonly name: string;
  readonly owner: string;
  readonly startedAt: string;
  readonly version: number;
  readonly state: DraftState;
  readonly ended: { readonly by: string; readonly at: string; readonly why: string } | null;
  /** The position that it is for; nothing while there is none. */
  readonly tag: string | null;
  readonly dictionary: string;
  readonly region: string;
  /** Nothing: the smallest that bears the motor. */
  readonly rating: string | null;
  /** A version of the same model that was taken in since. */
  readonly newerDictionary: string | null;
  readonly point: {
    readonly id: string;
    /** As it was when the draft began with it. */
    readonly text: string;
    /** Another revision is in force since. */
    readonly isOlder: boolean;
  } | null;
  readonly base: DraftBaseView | null;
  /** The draft that this one was carried over from. */
  readonly from: { readonly id: string; readonly name: string } | null;
  readonly fields: readonly DraftFieldView[];
  readonly revisions: readonly DraftRevisionView[];
  readonly uses: readonly DraftUseView[];
}

export interface DraftMark {
  readonly id: string;
  readonly name: string;
  readonly owner: string;
  readonly state: DraftState;
  readonly tag: string | null;
  readonly model: string;
  readonly rating: string | null;
  /** Starting point or set that it begins with. */
  readonly begins: string;
  readonly startedAt: string;
  readonly changedAt: string;
  readonly changedBy: string;
  readonly revisions: number;
}

/** A revision as it was kept: everything that was chosen, and why. */
export interface DraftRecord {
  readonly name: string;
  readonly owner: string;
  readonly tag: string | null;
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  readonly begins: string;
  readonly fields: readonly DraftFieldView[];
  readonly sheet: Omit<DraftSheet, 'readings'>;
}
