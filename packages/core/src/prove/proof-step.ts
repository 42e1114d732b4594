// A step of a proof run: what hands do, stage by stage, and what must be seen after each. Plain data, made once when the run
// begins and kept with it: what was looked for never changes because a set, a wiring or a rule did.

import type { Fault, StopWay } from '../behaviour/index.ts';
import type { Code } from '../dictionary/index.ts';
import type { RampSetting } from '../signals/index.ts';

export const PROOF_PARTS = [
  'paths',
  'runs',
  'ramps',
  'stops',
  'faults',
  'hand',
  'supply',
  'loop',
  'values',
] as const;
export type ProofPart = (typeof PROOF_PARTS)[number];

export const PART_NAMES: Readonly<Record<ProofPart, string>> = {
  paths: 'Signal paths, contact by contact',
  runs: 'Runs, directions and speeds',
  ramps: 'Ramp times',
  stops: 'Stopping',
  faults: 'Faults and their reset',
  hand: 'Keys, hand and automatic',
  supply: 'Supply off and on',
  loop: 'Control loop',
  values: 'After the supply was away',
};

export interface Stage {
  /** In words: `S2 (speed) at 2`. */
  readonly deed: string;
  /** The supply is away: nothing answers. */
  readonly silent: boolean;
  /** Inputs by number: true where the terminal is closed. */
  readonly inputs: Readonly<Record<string, boolean>>;
  readonly runs: boolean;
  readonly faulty: boolean;
  /** Which one, as the engine names it. */
  readonly fault: Fault | null;
  /** It is waited until the speed has arrived. */
  readonly settles: boolean;
  readonly speed: StageSpeed | null;
  readonly ramp: StageRamp | null;
  /** How it comes to rest, where it has been running. */
  readonly stops: StopWay | null;
  /** A press that is over at once: one look at it is enough. */
  readonly brief: boolean;
  /** Seconds that it may take, by its ramps. */
  readonly within: number;
  /** What must be seen, in words. */
  readonly see: readonly string[];
}

export type StageSpeed =
  /** In Hz. */
  | { readonly kind: 'fixed'; readonly hertz: number }
  /** By the share of the signal at an analog input, which is seen itself; `points` rise in their share. */
  | {
      readonly kind: 'signal';
      readonly input: string;
      readonly points: readonly { readonly share: number; readonly hertz: number }[];
      /** Where the signal has to stand; nothing where any place will do. */
      readonly at: number | null;
    }
  /** What the control loop asks for: the actual value comes to the set-point. */
  | { readonly kind: 'loop' };

/** A change of speed of which the time is measured. */
export interface StageRamp {
  readonly way: 'up' | 'down';
  readonly setting: RampSetting;
}

export interface ProofStep {
  /** Made of what is done, so that the same deeds have the same name in every run of a position. */
  readonly id: string;
  readonly part: ProofPart;
  readonly title: string;
  readonly stages: readonly Stage[];
  /** What no register tells, and a person has to look for. */
  readonly eyes: readonly string[];
  /** Settings on which what must be seen rests. */
  readonly codes: readonly Code[];
  /** Terminals that take part. */
  readonly terminals: readonly string[];
}

/** What is known of an input, so that it can be said which wire is likely at fault. */
export interface ProofInput {
  readonly number: string;
  readonly terminal: string;
  /** `wire 12 from S2:14`. */
  readonly wires: readonly string[];
}

export interface ProofPlan {
  readonly steps: readonly ProofStep[];
  readonly inputs: readonly ProofInput[];
  /** What the walk says of itself: how many states, and whether all of them. */
  readonly states: number;
  readonly unfinished: boolean;
  /** Ways of which it cannot be told where they end. */
  readonly untold: number;
}
