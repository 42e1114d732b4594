// What a check looks at: a set with its model, its motor, its wiring, its site and its peers. What is not known is nothing, and
// a check that would need it says so.

import type { Code, Outfit } from '../dictionary/index.ts';
import { machineOf, type Machine } from '../behaviour/index.ts';
import type { Bridge, PlainSet } from '../meanings/index.ts';
import type { MotorPlate } from '../motor/index.ts';
import type { Readings } from '../rules/index.ts';
import { NO_WIRING, type Wiring } from '../wiring/index.ts';
import type { Dictionary } from '../dictionary/index.ts';

export interface SiteFacts {
  /** In the cabinet, the warmest that is met, in °C. */
  readonly ambient: number | null;
  readonly nominalVolts: number | null;
  /** As it was measured last at the supply. */
  readonly measuredVolts: number | null;
  readonly hertz: number | null;
  /** Whether a residual-current device stands before the unit, and at what it trips, in mA; 0 where there is none. */
  readonly residualMilliamps: number | null;
}

export const NO_SITE: SiteFacts = {
  ambient: null,
  nominalVolts: null,
  measuredVolts: null,
  hertz: null,
  residualMilliamps: null,
};

/** Another drive of the same duty. */
export interface Peer {
  readonly tag: string;
  readonly firmware: string;
  readonly set: PlainSet;
}

export interface Ground {
  readonly outfit: Outfit;
  readonly set: PlainSet;
  readonly machine: Machine;
  /** A wiring of the position is kept. */
  readonly wired: boolean;
  /** From the library of motors. */
  readonly plate: MotorPlate | null;
  readonly site: SiteFacts;
  /** On a line, keypad only, or not known. */
  readonly address: number | 'keypad' | null;
  /** Other positions of the line whose set has the same address. */
  readonly sharesAddress: readonly string[];
  readonly firmware: string | null;
  readonly peers: readonly Peer[];
  /** Of this model; `none` where the position has none, nothing where that was not asked. */
  readonly baseline: PlainSet | 'none' | null;
  /** Whether the baseline was ever proved by a run; nothing where that is not kept. */
  readonly proved: boolean | null;
  /** Codes that stand in the working memory only; nothing where that is not known. */
  readonly unsaved: readonly Code[] | null;
}

/** What somebody knows of a position; all of it may be left out. */
export type Known = Partial<Omit<Ground, 'set' | 'machine' | 'wired' | 'outfit'>> & {
  readonly wiring?: Wiring | null;
};

export function groundOf(
  bridge: Bridge,
  dictionary: Dictionary,
  outfit: Outfit,
  readings: Readings,
  { wiring = null, ...known }: Known = {},
): Ground {
  const set = bridge.read(dictionary, outfit, readings);
  return {
    ...{ outfit, set, machine: machineOf(set, wiring ?? NO_WIRING), wired: wiring !== null },
    ...{ plate: null, site: NO_SITE, address: null, sharesAddress: [], firmware: null, peers: [] },
    ...{ baseline: null, proved: null, unsaved: null },
    ...known,
  };
}

/** The same position with other values. */
export function groundWith(ground: Ground, readings: Readings): Ground {
  const { set, outfit, machine } = ground;
  const fresh = set.bridge.read(set.dictionary, outfit, readings);
  return { ...ground, set: fresh, machine: machineOf(fresh, machine.wiring) };
}
