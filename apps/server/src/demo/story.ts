// How the demo plant is told: positions as commissioned, and what happened to them since. The history of backups and the
// state of the simulated plant both follow from it.

import type { OutcomeCode } from '@drive-keep/api';
import type { Mischief } from '@drive-keep/plant-sim';
import type { ValuesByMeaning } from './demo-values.ts';

export const PLANT_NAME = 'Fennimoor Tileworks';
/** Measured at the kiln supply; nominal is 400 V. */
export const MAINS_VOLTS = 427;
export const SEED = 640_712;
/** Nights that the history goes back. */
export const NIGHTS = 730;

export const ENGINEER = 'R. Ashgrove';
export const TECHNICIAN = 'T. Pellow';
export const VIEWER = 'M. Quill';

export const LINES = ['gateway-1', 'gateway-2', 'gateway-3'] as const;
export type LineName = (typeof LINES)[number];

/** A change at the unit, so many nights ago. */
export interface Change {
  readonly nightsAgo: number;
  /** Who changed it, then took a backup and said why; nobody where it was found by a round later. */
  readonly by: string | null;
  readonly reason: string;
  readonly values: ValuesByMeaning;
  /** It was tried out in the working memory and never saved: a power cycle takes it back. */
  readonly unsaved?: boolean;
  /** The change was taken into a new revision of the baseline. */
  readonly revision?: boolean;
}

/** A difference that the engineer has accepted for a while. */
export interface ToldToleration {
  readonly meaning: string;
  readonly nightsAgo: number;
  readonly daysLeft: number;
  readonly reason: string;
}

export interface DemoPosition {
  readonly area: string;
  readonly machine: string;
  readonly tag: string;
  readonly duty: string;
  readonly criticality: 'low' | 'middle' | 'high';
  readonly motor: string;
  readonly model: string;
  readonly rating: string;
  readonly region: string;
  /** Nothing for a keypad-only unit. */
  readonly line: { readonly name: LineName; readonly address: number } | null;
  readonly serial: number;
  /** 207 is firmware 2.07. */
  readonly firmware: number;
  /** As commissioned. */
  readonly values: ValuesByMeaning;
  readonly changes: readonly Change[];
  readonly runs: boolean;
  /** Nights on which a keypad-only unit was read off. */
  readonly readOff: readonly number[];
  readonly tolerated: readonly ToldToleration[];
  /** Findings of the checks that the engineer has accepted for a while. */
  readonly accepted: readonly ToldAcceptance[];
  /** Registers that this unit's older firmware refuses, by meaning. */
  readonly refuses: readonly string[];
  /** Since so many nights the rounds end with this instead of a backup. */
  readonly failing: { readonly nights: number; readonly outcome: OutcomeCode } | null;
  readonly mischief: Partial<Mischief>;
  /** Serial number that really answers there. */
  readonly answers: number;
  /** Another model sat there before; it was replaced so many nights ago. */
  readonly replaced: { readonly nightsAgo: number; readonly old: OldUnitTold } | null;
}

export type OldUnitTold = Pick<DemoPosition, 'model' | 'rating' | 'serial' | 'firmware' | 'values'>;

type Needed = 'tag' | 'duty' | 'motor' | 'model' | 'rating' | 'serial' | 'firmware' | 'values';

/** By the identity of the finding. */
export interface ToldAcceptance {
  readonly finding: string;
  readonly nightsAgo: number;
  /** Below zero: its day is over. */
  readonly daysLeft: number;
  readonly reason: string;
}

/** A position with what most of them have in common. */
export function demoPosition(
  place: Pick<DemoPosition, 'area' | 'machine'>,
  own: Pick<DemoPosition, Needed> & Partial<DemoPosition>,
): DemoPosition {
  return {
    criticality: 'middle',
    region: '50-hz',
    line: null,
    changes: [],
    runs: true,
    readOff: [],
    tolerated: [],
    accepted: [],
    refuses: [],
    failing: null,
    mischief: {},
    answers: own.serial,
    replaced: null,
    ...place,
    ...own,
  };
}

/** The same position as it was with the unit of before; nothing where none was replaced. */
export const beforeReplacement = ({ replaced, ...told }: DemoPosition): DemoPosition | undefined =>
  replaced
    ? { ...told, ...replaced.old, changes: [], answers: replaced.old.serial, replaced: null }
    : undefined;
