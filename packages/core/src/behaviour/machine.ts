// A drive with its wiring, as far as its behaviour goes: what each terminal does by this set, what hangs on it, and by which
// rules the model answers. Made once; a step asks it and never changes it.

import {
  findParameter,
  terminalsOf,
  type Code,
  type Dictionary,
  type Terminal,
  type TerminalChart,
} from '../dictionary/index.ts';
import type { PlainCurve, PlainSet } from '../meanings/index.ts';
import { meaningOf } from '../values/index.ts';
import type { Wiring } from '../wiring/index.ts';
import { Conductors } from './circuit.ts';
import { Rules } from './rules.ts';

export interface DigitalInput {
  readonly terminal: string;
  readonly number: string;
  /** What it does by the set, as the vocabulary names it; nothing where that cannot be told. */
  readonly does: string | undefined;
  /** On while its contact is open. */
  readonly opens: boolean;
  readonly code: Code | null;
}

export interface AnalogInput {
  readonly terminal: string;
  readonly number: string;
  /** Kind of signal by the set. */
  readonly signal: string | undefined;
  /** Of the speed over the signal; nothing where it does not give the speed, or cannot be told. */
  readonly curve: PlainCurve | undefined;
  /** What the loss of a live-zero signal does. */
  readonly loss: string;
  readonly code: Code | null;
}

export interface DriveOutput {
  readonly number: string;
  readonly does: string | undefined;
  /** On while what it tells is not true. */
  readonly inverted: boolean;
  /** Of a relay: its contact terminals; of a transistor: the terminal that switches. */
  readonly closes: string | undefined;
  readonly opens: string | undefined;
  readonly common: string | undefined;
  readonly transistor: { readonly terminal: string; readonly logic: 'sourcing' | 'sinking' } | undefined;
  readonly code: Code | null;
}

export interface Machine {
  readonly set: PlainSet;
  readonly rules: Rules;
  readonly chart: TerminalChart;
  readonly wiring: Wiring;
  readonly inputs: readonly DigitalInput[];
  /** Inputs by what they do; those of which that cannot be told stand under nothing. */
  readonly byFunction: ReadonlyMap<string | undefined, readonly DigitalInput[]>;
  /** Functions of inputs that choose a preset. */
  readonly presets: readonly string[];
  readonly analogs: readonly AnalogInput[];
  readonly outputs: readonly DriveOutput[];
  readonly safeInputs: readonly string[];
  readonly logic: 'sourcing' | 'sinking' | undefined;
  readonly conductors: Conductors;
  /** Devices at each terminal, by their names. */
  readonly devicesAt: ReadonlyMap<string, readonly string[]>;
}

const NO_CHART: TerminalChart = { strips: [], links: [], switches: [], arrangements: [] };

/** A model without a chart has no terminals, and only its keys command it. */
export function machineOf(set: PlainSet, wiring: Wiring): Machine {
  const { dictionary } = set;
  const chart = dictionary.terminals ?? NO_CHART;
  const terminals = terminalsOf(chart);
  const rules = new Rules(set);
  const wired = {
    ...{ chart, wiring },
    inputs: inputsOf(set, rules, terminals),
    analogs: terminals.flatMap((terminal) => analogOf(set, terminal)),
    outputs: outputsOf(set, terminals),
    safeInputs: terminals.filter(({ kind }) => kind === 'safe-input').map(({ id }) => id),
    logic: logicOf(chart, wiring),
  };
  const byFunction = new Map<string | undefined, readonly DigitalInput[]>();
  for (const input of wired.inputs)
    byFunction.set(input.does, [...(byFunction.get(input.does) ?? []), input]);
  const presets = [...byFunction.keys()].filter((does) => does?.startsWith('preset.') ?? false) as string[];
  const conductors = new Conductors(wired);
  return { ...wired, set, rules, byFunction, presets, conductors, devicesAt: devicesAt(wiring) };
}

function devicesAt({ wires }: Wiring): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, Set<string>>();
  for (const { from, to } of wires)
    for (const [one, other] of [
      [from, to],
      [to, from],
    ] as const)
      if (one.kind === 'terminal' && other.kind === 'device')
        found.set(one.terminal, (found.get(one.terminal) ?? new Set()).add(other.device));
  return new Map([...found].map(([terminal, names]) => [terminal, [...names]]));
}

/** The number in the meaning of the parameter that sets a terminal, such as 3 of `input.3.function`. */
function numberOf(dictionary: Dictionary, { setBy }: Terminal): string | undefined {
  const meaning = setBy === null ? undefined : findParameter(dictionary, setBy)?.meaning;
  return meaning ? /\d+/.exec(meaning)?.[0] : undefined;
}

function inputsOf(set: PlainSet, rules: Rules, terminals: readonly Terminal[]): readonly DigitalInput[] {
  const warmContact = set.choice(meaningOf('protect.sensor')) === 'contact';
  const taken = warmContact ? rules.answer('sensor.takes') : undefined;
  return terminals.flatMap((terminal) => {
    const number = numberOf(set.dictionary, terminal);
    if (terminal.kind !== 'digital-input' || number === undefined) return [];
    const { id, setBy: code } = terminal;
    if (taken === `input-${number}`) return [{ terminal: id, number, does: 'motor.warm', opens: true, code }];
    if (set.choice(meaningOf(`input.${number}.owner`)) === 'program' && rules.answer('program.owned'))
      return [{ terminal: id, number, does: 'program', opens: false, code }];
    const does = set.choice(meaningOf(`input.${number}.function`));
    const opens = set.choice(meaningOf(`input.${number}.sense`)) === 'open';
    return [{ terminal: id, number, does, opens, code }];
  });
}

function analogOf(set: PlainSet, terminal: Terminal): readonly AnalogInput[] {
  const number = numberOf(set.dictionary, terminal);
  if (terminal.kind !== 'analog-input' || number === undefined) return [];
  const curve = set.get(meaningOf(`analog.${number}.curve`));
  return [
    {
      ...{ terminal: terminal.id, number, code: terminal.setBy },
      signal: set.choice(meaningOf(`analog.${number}.signal`)),
      curve: curve.kind === 'curve' ? curve : undefined,
      loss: set.choice(meaningOf(`analog.${number}.loss`)) ?? 'ignore',
    },
  ];
}

function outputsOf(set: PlainSet, terminals: readonly Terminal[]): readonly DriveOutput[] {
  const made = new Map<string, DriveOutput>();
  for (const terminal of terminals) {
    const number = numberOf(set.dictionary, terminal);
    if (number === undefined || (terminal.kind !== 'relay' && terminal.kind !== 'digital-output')) continue;
    if (made.has(number) || set.choice(meaningOf(`output.${number}.owner`)) === 'program') continue;
    const of = (side: 'closes' | 'opens' | 'common') =>
      terminals.find(({ contact }) => contact?.relay === terminal.contact?.relay && contact?.side === side)
        ?.id;
    const relay = terminal.contact !== null;
    made.set(number, {
      ...{ number, code: terminal.setBy },
      does: set.choice(meaningOf(`output.${number}.function`)),
      inverted: set.choice(meaningOf(`output.${number}.sense`)) === 'false',
      closes: relay ? of('closes') : undefined,
      opens: relay ? of('opens') : undefined,
      common: relay ? of('common') : undefined,
      transistor:
        terminal.kind === 'digital-output' && terminal.logic
          ? { terminal: terminal.id, logic: terminal.logic }
          : undefined,
    });
  }
  return [...made.values()];
}

/** By the arrangement that was chosen, by the board switch that makes one, or as delivered. */
function logicOf({ arrangements, switches }: TerminalChart, wiring: Wiring): Machine['logic'] {
  const made = switches.flatMap(({ id, places }) => {
    const standing = wiring.switches[id];
    return places.find(({ name }) => name === standing)?.makes ?? [];
  });
  const name = wiring.arrangement === '' ? made[0] : wiring.arrangement;
  return arrangements.find((each) => (name === undefined ? each.factory : each.name === name))?.logic;
}
