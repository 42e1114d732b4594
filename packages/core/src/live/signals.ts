// What of a unit can be watched, by meaning: the same on every model, whatever its maker calls it and wherever it lies.

import type { Code, Dictionary, Parameter } from '../dictionary/index.ts';

/** In the order in which somebody looks at them. */
export const LIVE_MEANINGS = [
  'frequency',
  'setpoint',
  'speed',
  'current',
  'torque',
  'power',
  'voltage',
  'busVoltage',
  'motorLoad',
  'unitTemperature',
  'motorTemperature',
  'position',
  'follow',
  'loopActual',
  'loopSetpoint',
  'loopError',
  'analog1',
  'analog2',
  'analogOutput',
] as const;
export type LiveMeaning = (typeof LIVE_MEANINGS)[number];

/** No view, but a setting that moves while a loop is tuned: in the unit of the loop, or in percent of the transmitter. */
const LOOP_SETPOINTS = ['loop.setpointUnit', 'loop.setpoint'];

/** A value that is watched; its parameter says how it is counted. */
export interface LiveSignal {
  readonly meaning: LiveMeaning;
  readonly parameter: Parameter;
}

/** The bit in which an input or output shows itself. */
export interface TerminalBit {
  readonly code: Code;
  readonly bit: number;
}

export interface Watchable {
  readonly signals: readonly LiveSignal[];
  /** By number. */
  readonly inputs: ReadonlyMap<string, TerminalBit>;
  readonly outputs: ReadonlyMap<string, TerminalBit>;
  readonly fault: Parameter | null;
  /** The newest first. */
  readonly history: readonly Parameter[];
}

/** Of the parameters that a line can read; nothing of them where the model has no line. */
export function watchableOf(dictionary: Dictionary): Watchable {
  const read = dictionary.parameters.filter(({ register }) => register !== null);
  const of = (name: string) => {
    const meanings = name === 'loopSetpoint' ? LOOP_SETPOINTS : [`monitor.${name}`];
    return meanings.flatMap((each) => read.find(({ meaning }) => meaning === each) ?? [])[0];
  };
  const bits = (what: 'input' | 'output') => new Map(read.flatMap((each) => terminalBits(each, what)));
  return {
    signals: LIVE_MEANINGS.flatMap((meaning) => {
      const parameter = of(meaning);
      return parameter?.form.kind === 'number' ? [{ meaning, parameter }] : [];
    }),
    inputs: bits('input'),
    outputs: bits('output'),
    fault: of('fault') ?? null,
    history: read
      .filter(({ meaning }) => meaning?.startsWith('monitor.faultHistory.'))
      .sort((a, b) => (a.meaning ?? '').localeCompare(b.meaning ?? '', 'en', { numeric: true })),
  };
}

function terminalBits({ code, form }: Parameter, what: 'input' | 'output'): [string, TerminalBit][] {
  if (form.kind !== 'bits') return [];
  return form.bits.flatMap(({ bit, says = [] }) =>
    says.flatMap(({ meaning }): [string, TerminalBit][] => {
      const number = new RegExp(`^monitor\\.${what}\\.(\\d+)$`).exec(meaning)?.[1];
      return number === undefined ? [] : [[number, { code, bit }]];
    }),
  );
}
