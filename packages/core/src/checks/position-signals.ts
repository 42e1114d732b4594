// The analog inputs of a position as one way each: from what its transmitter measures to what its drive makes of it, by its own
// wiring and set. For whoever wants to know what a meter should read.

import { lostBelow, type AnalogInput } from '../behaviour/index.ts';
import { findMeaning, type Code } from '../dictionary/index.ts';
import { sayHow, type Plain } from '../meanings/index.ts';
import { SIGNAL_RANGES, type AnalogSignal, type SignalScaling } from '../signals/index.ts';
import { meaningOf } from '../values/index.ts';
import type { Ground } from './ground.ts';
import { loopEnds } from './loop-ends.ts';
import { Reach } from './reach.ts';

export interface PositionSignal {
  readonly number: string;
  readonly terminal: string;
  readonly uses: readonly ('speed' | 'trim' | 'loop')[];
  /** What sends it; nothing where nothing is wired to it, or no wiring is kept. */
  readonly sender: string | null;
  readonly scaling: SignalScaling;
  readonly codes: readonly Code[];
  /** How the curve came about, in words: `92.0 % with bias 4.0 % …`. */
  readonly how: string;
  /** What the drive does when the signal is lost. */
  readonly loss: string;
  readonly setPoints: readonly { readonly name: string; readonly percent: number }[];
}

const WHOLE = { low: 0, high: 100, unit: '%' };

export function signalsOf(ground: Ground): readonly PositionSignal[] {
  const reach = new Reach(ground);
  return ground.machine.analogs.flatMap((input) => signalOf(ground, reach, input) ?? []);
}

function signalOf(ground: Ground, reach: Reach, input: AnalogInput): PositionSignal | undefined {
  const { machine, set } = ground;
  const { number, terminal, signal } = input;
  if (!isSignal(signal)) return undefined;
  const plain = (name: string): Plain => set.get(meaningOf(name));
  const value = (name: string): number | undefined => {
    const told = plain(name);
    return told.kind === 'number' ? told.value : undefined;
  };
  const sender = reach
    .devicesAt(terminal)
    .map(({ device }) => device)
    .find(({ kind }) => kind === 'transmitter' || kind === 'potentiometer');
  const uses = reach.usesOf(number);
  const curve = plain(`analog.${number}.curve`);
  const [minimum, maximum] = [value('frequency.minimum'), value('frequency.maximum')];
  const shown = findMeaning(set.dictionary, meaningOf(`monitor.analog${number}`))?.form;
  const step =
    shown?.kind === 'number' && shown.unit === '%'
      ? shown.resolution.step / 10 ** shown.resolution.places
      : undefined;
  const scaling: SignalScaling = {
    sent: sender?.kind === 'transmitter' ? sender.signal : sender ? '0-10-v' : signal,
    read: signal,
    range: sender?.kind === 'transmitter' ? sender.range : WHOLE,
    shuntOhm: reach.burdenOf(terminal),
    rawPerPercent: step === undefined ? 10 : 1 / step,
    curve: uses.includes('loop') || curve.kind !== 'curve' ? null : curve.points,
    limits: minimum === undefined || maximum === undefined ? null : { minimum, maximum },
    loop: uses.includes('loop') ? loopEnds(ground, number) : null,
    lostBelow: lostBelow(machine, input) ?? null,
  };
  const codes = [input.code, ...(curve.kind === 'curve' ? curve.codes : [])];
  return {
    ...{ number, terminal, uses, scaling, sender: sender?.name ?? null, loss: input.loss },
    codes: [...new Set(codes.flatMap((code) => code ?? []))],
    how: sayHow(curve, set.bridge.vocabulary.termOf) ?? '',
    setPoints: uses.includes('loop')
      ? setPointNames(reach).flatMap((name) => {
          const percent = value(name);
          return percent === undefined ? [] : [{ name: set.bridge.vocabulary.termOf(name), percent }];
        })
      : [],
  };
}

/** The second one counts where an input chooses it. */
const setPointNames = (reach: Reach): readonly string[] => [
  'loop.setpoint',
  ...(reach.inputs('loop.second').length > 0 ? ['loop.setpoint2'] : []),
  ...['loop.warnLow', 'loop.warnHigh'],
];

const isSignal = (signal: string | undefined): signal is AnalogSignal =>
  signal !== undefined && Object.hasOwn(SIGNAL_RANGES, signal);
