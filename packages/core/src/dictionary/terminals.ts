// The terminals of a model: what each is, which parameter sets it, and under which number the drive's own user program
// knows it. Links, board switches and supply arrangements belong to them.

import type { Code } from './parameter.ts';

/** What a terminal is for, in the words of IEC 61800-7 and of drive manuals. */
export const TERMINAL_KINDS = [
  'digital-input',
  'analog-input',
  'digital-output',
  'relay',
  'analog-output',
  'safe-input',
  'supply',
  'common',
  'power',
  'brake',
  'sensor',
  'feedback',
  'network',
] as const;
export type TerminalKind = (typeof TERMINAL_KINDS)[number];

/** Who decides what the terminal does. `chosen`: the parameter in `ownedBy` decides between drive and user program. */
export const OWNERS = ['drive', 'program', 'chosen'] as const;
export type TerminalOwner = (typeof OWNERS)[number];

export interface Terminal {
  /** As printed at the connector. */
  readonly id: string;
  readonly name: string;
  readonly kind: TerminalKind;
  /** Electrical facts: `24 V, 6 mA`. */
  readonly signal: string;
  /** Nominal voltage, in V; nothing where it is not told. */
  readonly volts: number | null;
  /** What a supply, an output or a relay can carry, or an input takes, in mA; nothing where it is not told. */
  readonly milliamps: number | null;
  /** Of a digital output: whether it gives plus to its load or takes it to zero; nothing where it is not told. */
  readonly logic: 'sourcing' | 'sinking' | null;
  /** Burden of a current signal at an analog input, in ohms. */
  readonly burdenOhm: number | null;
  /** Least load of an analog output that gives a voltage, in ohms. */
  readonly leastOhm: number | null;
  /** Largest load of an analog output that gives a current, in ohms. */
  readonly mostOhm: number | null;
  /** Of a relay: which, and whether this side closes or opens when it pulls in. */
  readonly contact: { readonly relay: number; readonly side: 'closes' | 'opens' | 'common' } | null;
  /** What it does whatever the parameters, or nothing where a parameter says it. */
  readonly does: string;
  readonly setBy: Code | null;
  readonly sense: { readonly code: Code; readonly bit: number | null } | null;
  readonly filter: Code | null;
  readonly program: string | null;
  readonly owner: TerminalOwner;
  readonly ownedBy: { readonly code: Code; readonly bit: number } | null;
}

export interface TerminalStrip {
  readonly name: string;
  readonly terminals: readonly Terminal[];
}

/** A jumper between two terminals. */
export interface TerminalLink {
  readonly between: readonly [string, string];
  readonly factory: boolean;
  readonly why: string;
}

export interface SwitchPlace {
  readonly name: string;
  readonly does: string;
  /** Options of the parameter in `agreesWith` that go with this place; nothing where it is not told. */
  readonly agrees: readonly number[] | null;
  /** Names of the arrangements that it makes; nothing where it makes none. */
  readonly makes: readonly string[] | null;
}

export interface BoardSwitch {
  readonly id: string;
  readonly name: string;
  readonly places: readonly SwitchPlace[];
  readonly factory: string;
  /** The parameter that has to agree with the switch. */
  readonly agreesWith: Code | null;
}

/** How the input contacts are fed. */
export interface SupplyArrangement {
  readonly name: string;
  readonly logic: 'sourcing' | 'sinking';
  readonly supply: 'internal' | 'external';
  readonly factory: boolean;
  readonly how: string;
}

export interface TerminalChart {
  readonly strips: readonly TerminalStrip[];
  readonly links: readonly TerminalLink[];
  readonly switches: readonly BoardSwitch[];
  readonly arrangements: readonly SupplyArrangement[];
}

/** All terminals of all strips, in the order in which they sit. */
export function terminalsOf(chart: TerminalChart): readonly Terminal[] {
  let all = inOrder.get(chart);
  if (!all) {
    all = chart.strips.flatMap((strip) => strip.terminals);
    inOrder.set(chart, all);
  }
  return all;
}
const inOrder = new WeakMap<TerminalChart, readonly Terminal[]>();
