import type { Reading } from '@drive-keep/core/values';

/** Somebody has accepted a finding with these values; it comes back when they change, or after its day. */
export interface AcceptanceView {
  readonly id: string;
  readonly reason: string;
  readonly until: string;
  readonly person: string;
  readonly at: string;
}

export interface CheckFindingView {
  /** The same as long as it is about the same thing, whatever the values: `speed-outside preset.2`. */
  readonly identity: string;
  /** Changes with the values that it is about; an acceptance names it. */
  readonly signature: string;
  readonly check: string;
  readonly name: string;
  /** `stop`: should be mended before the machine runs; `look`: somebody should know. */
  readonly attention: 'stop' | 'look';
  readonly text: string;
  readonly why: string;
  readonly values: readonly { readonly code: string; readonly reading: Reading | null }[];
  /** Each of them would mend it: raw values for a write plan. They were tried. */
  readonly mends: readonly (readonly { readonly code: string; readonly raw: number }[])[];
  /** When it was first seen; nothing where it was there when the position was first checked, and for other sets than the newest. */
  readonly since: string | null;
  readonly accepted: AcceptanceView | null;
  /** Was accepted before; its day is over, or the values have changed since. */
  readonly lapsed: AcceptanceView | null;
}

/** A check that found nothing and was not told all that it needs. */
export interface UntoldCheckView {
  readonly check: string;
  readonly name: string;
  readonly missing: readonly string[];
}

/** What was known of the position when it was checked. */
export interface CheckedWith {
  readonly motor: boolean;
  /** Revision of the wiring; 0 where none is kept. */
  readonly wiring: number;
  readonly supply: boolean;
  readonly cabinet: boolean;
  readonly peers: number;
}

export interface ChecksView {
  readonly tag: string;
  readonly dictionary: string;
  /** Which set: `newest`, `plan:…`, `draft` … */
  readonly reference: string;
  readonly title: string;
  /** When that set was read or signed; nothing for what has no time. */
  readonly at: string | null;
  readonly checkedAt: string;
  /** How many checks concern this drive: the others are about what its model does not have. */
  readonly looked: number;
  readonly findings: readonly CheckFindingView[];
  readonly untold: readonly UntoldCheckView[];
  readonly with: CheckedWith;
  /** Against what the unit was last seen to hold, for another set of its model; nothing for that itself. */
  readonly against: {
    readonly fewer: readonly CheckFindingView[];
    readonly more: readonly CheckFindingView[];
  } | null;
}

/** One open finding of the plant, with the time when it was first seen. */
export interface PlantFindingView {
  readonly tag: string;
  readonly duty: string;
  readonly identity: string;
  readonly name: string;
  readonly attention: 'stop' | 'look';
  readonly text: string;
  readonly since: string;
}

export interface PlantFindingsView {
  /** Those that are new since the time that was asked for; a long list is cut, the register has them all. */
  readonly findings: readonly PlantFindingView[];
  /** How many are new in all. */
  readonly fresh: number;
  /** Open findings in all, and at how many positions. */
  readonly open: number;
  readonly positions: number;
  /** Positions that were checked as they stand, those whose newest values wait for their check, and those that nothing is known of. */
  readonly checked: number;
  readonly waiting: number;
  readonly unknown: number;
}
