// What a drive and its machine remember from one event to the next: small and finite, so that all of it can be walked.

import type { FaultClass } from '../dictionary/index.ts';

export type Direction = 'forward' | 'reverse';

/** What holds the drive until it is reset. */
export type Fault = FaultClass | 'external' | 'motor-warm' | 'dry' | 'signalLost' | 'sto';

/** The raised speed: where it started, and how far raise and lower have brought it since. */
export type Raised = 'start' | 'up' | 'down' | 'maximum' | 'minimum';

export interface State {
  readonly supply: boolean;
  /** Of every device that is not as it rests: 1 for worked, the place of a selector, the share of a signal. */
  readonly devices: Readonly<Record<string, number>>;
  /** `wire 3`, `link 0`, or `at S1:13` for all wires there. */
  readonly broken: readonly string[];
  /** Field relays that are pulled in. */
  readonly pulled: readonly string[];
  /** Numbers of the drive's outputs that are on. */
  readonly outputs: readonly string[];
  /** Those of `EDGES` that are on: the next event may be an edge. */
  readonly on: readonly string[];
  /** How the shaft turns; it comes to rest when the machine settles. */
  readonly motion: 'rest' | Direction;
  readonly settled: boolean;
  /** Commanded to turn; without it the shaft is on its way to rest. */
  readonly runs: boolean;
  /** A start by a button. */
  readonly latch: Direction | null;
  /** Started at the keypad. */
  readonly keyed: boolean;
  readonly jogging: boolean;
  readonly hand: boolean;
  /** The place of command that counted last. */
  readonly place: 'first' | 'second' | 'hand';
  /** A standing command counts only after it was taken away once. */
  readonly waits: boolean;
  readonly fault: Fault | null;
  /** A quick stop, a coast or an open safety channel that has not ended: what was commanded then is not commanded anew. */
  readonly stopping: 'quick-stop' | 'coast' | 'sto' | null;
  readonly raised: Raised;
  /** Last set-point of an analog input that is held while its signal is lost, in Hz. */
  readonly held: Readonly<Record<string, number>>;
  /** Analog inputs whose loss holds until it is reset. */
  readonly lost: readonly string[];
  /** Automatic restarts that are left. */
  readonly restarts: 'left' | 'none';
}

/** Functions of inputs of which it counts whether they were on before. */
export const EDGES = ['fault-reset', 'run.forward', 'run.reverse'] as const;

/** Nothing is worked, and the supply is off. */
export const AT_REST: State = {
  supply: false,
  devices: {},
  broken: [],
  pulled: [],
  outputs: [],
  on: [],
  motion: 'rest',
  settled: true,
  runs: false,
  latch: null,
  keyed: false,
  jogging: false,
  hand: false,
  place: 'first',
  waits: false,
  fault: null,
  stopping: null,
  raised: 'start',
  held: {},
  lost: [],
  restarts: 'left',
};

export type Key = 'run' | 'stop' | 'reset' | 'hand' | 'automatic';

export type Event =
  /** A device is worked (1) or let go (0), a selector is turned to a place, a signal changes to a share from 0 to 1. */
  | { readonly kind: 'device'; readonly name: string; readonly to: number }
  | { readonly kind: 'break'; readonly what: string }
  | { readonly kind: 'mend'; readonly what: string }
  | { readonly kind: 'supply'; readonly on: boolean }
  | { readonly kind: 'fault'; readonly of: FaultClass }
  | { readonly kind: 'key'; readonly key: Key }
  /** Everything has had its time: ramps are at their end, automatic restarts have been tried. */
  | { readonly kind: 'settle' };
