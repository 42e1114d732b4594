// Which speed is asked for: its source, its number where the set gives one, and what limits it.

import type { Code } from '../dictionary/index.ts';
import { curveAt, tidy, type PlainCurve, type PlainNumber } from '../meanings/index.ts';
import { meaningOf } from '../values/index.ts';
import { SIGNAL_ENDS, type Circuit } from './circuit.ts';
import type { AnalogInput, Machine } from './machine.ts';
import type { Missing, SetPoint, SpeedFrom } from './outcome.ts';
import type { State } from './state.ts';

/** A set-point before the direction is known: below zero it may reverse. */
export interface Asked {
  readonly from: SpeedFrom;
  readonly hertz: number | null;
  readonly codes: readonly Code[];
}

export interface Speeds {
  readonly machine: Machine;
  readonly circuit: Circuit;
  readonly state: State;
  /** Whether an input that does this is on. */
  readonly has: (does: string) => boolean;
  readonly missing: Missing[];
}

const PERCENT = 100;

function numberAt({ machine, missing }: Speeds, name: string): PlainNumber | undefined {
  const plain = machine.set.get(meaningOf(name));
  if (plain.kind === 'number') return plain;
  if (plain.kind === 'nothing' && plain.why.code !== 'no-such-thing')
    missing.push({ kind: 'value', what: name });
  return undefined;
}

const fixed = (speeds: Speeds, from: SpeedFrom, name: string): Asked => {
  const plain = numberAt(speeds, name);
  return { from, hertz: plain?.value ?? null, codes: plain?.codes ?? [] };
};

/** `source` is the option of the speed source that counts. */
export function askedSpeed(speeds: Speeds, chosen: string): Asked {
  const { machine } = speeds;
  const source = withoutLoop(speeds, chosen);
  if (loopRuns(speeds, source)) return { from: { kind: 'loop' }, hertz: null, codes: [] };
  const preset = presetOn(speeds);
  const acts = machine.rules.answer('preset.acts');
  if (preset !== undefined && (acts === 'any-on' || source === 'source.presets'))
    return presetSpeed(speeds, preset);
  const number = /^source\.analog\.(\d+)$/.exec(source)?.[1];
  if (number !== undefined) return analogSpeed(speeds, number);
  switch (source) {
    case 'source.presets':
      return withoutPreset(speeds);
    case 'source.keypad':
      return fixed(speeds, { kind: 'keypad' }, 'speed.keypad');
    case 'source.raise-lower':
      return raisedSpeed(speeds);
    case 'source.loop':
      // The loop is off: a source that is not there.
      return { from: { kind: 'none' }, hertz: 0, codes: [] };
    case 'source.program':
      return { from: { kind: 'program' }, hertz: null, codes: [] };
    default:
      return { from: { kind: 'network' }, hertz: null, codes: [] };
  }
}

export function loopRuns({ machine, has }: Speeds, source: string): boolean {
  const { set, rules } = machine;
  if ((set.choice(meaningOf('loop.mode')) ?? 'off') === 'off' || has('loop.off')) return false;
  if (rules.answer('loop.engages') === 'mode-and-source' && source !== 'source.loop') return false;
  return !(rules.list('loop.yields-to').includes('presets') && machine.presets.some(has));
}

/** Put off by an input, the loop leaves the speed to the source that the model names. */
function withoutLoop({ machine, has, missing }: Speeds, source: string): string {
  const loop = machine.set.choice(meaningOf('loop.mode')) ?? 'off';
  const engaged = machine.rules.answer('loop.engages') === 'mode' || source === 'source.loop';
  if (loop === 'off' || !engaged || !has('loop.off')) return source;
  const rule = machine.rules.answer('loop.off-source');
  if (rule === undefined) missing.push({ kind: 'rule', rule: 'loop.off-source' });
  return (rule === 'second' ? machine.set.choice(meaningOf('speed.source2')) : undefined) ?? source;
}

/** Number of the preset that the inputs choose; nothing while none of them is on. */
function presetOn({ machine, has }: Speeds): number | undefined {
  const select = machine.rules.answer('preset.select');
  const numbers = (pattern: RegExp) =>
    machine.presets.flatMap((each) => {
      const found = pattern.exec(each)?.[1];
      return found === undefined || !has(each) ? [] : [Number(found)];
    });
  if (select === 'each') {
    const chosen = numbers(/^preset\.(\d+)$/);
    return chosen.length > 0 ? Math.max(...chosen) : undefined;
  }
  const bits = select === 'bits' ? numbers(/^preset\.bit\.(\d+)$/).filter((bit) => bit < PRESET_BITS) : [];
  return bits.length > 0 ? bits.reduce((sum, bit) => sum + 2 ** bit, 0) + 1 : undefined;
}
/** No model has more than eight presets; a fourth bit is ignored. */
const PRESET_BITS = 3;

function presetSpeed(speeds: Speeds, number: number): Asked {
  const each = speeds.machine.rules.answer('preset.select') === 'each';
  return fixed(speeds, { kind: 'preset', number }, each ? `preset.contact.${number}` : `preset.${number}`);
}

function withoutPreset(speeds: Speeds): Asked {
  const { machine, missing } = speeds;
  switch (machine.rules.answer('preset.none')) {
    case 'preset-1':
      return presetSpeed(speeds, 1);
    case 'minimum':
      return fixed(speeds, { kind: 'minimum' }, 'frequency.minimum');
    default:
      missing.push({ kind: 'rule', rule: 'preset.none' });
      return { from: { kind: 'none' }, hertz: null, codes: [] };
  }
}

function raisedSpeed(speeds: Speeds): Asked {
  const { raised } = speeds.state;
  const from: SpeedFrom = { kind: 'raised', raised };
  if (raised === 'up' || raised === 'down') return { from, hertz: null, codes: [] };
  return fixed(speeds, from, raised === 'maximum' ? 'frequency.maximum' : 'frequency.minimum');
}

/** Share of the signal that arrives, by the kind that the set wants; nothing where another kind is sent. */
export function shareAt({ machine, circuit, missing }: Speeds, input: AnalogInput): number | undefined {
  const [low, high] = SIGNAL_ENDS[input.signal ?? ''] ?? [0, 0];
  const signal = circuit.signals.get(input.terminal);
  if (high === low) {
    missing.push({ kind: 'value', what: `analog.${input.number}.signal` });
    return undefined;
  }
  const isCurrent = (kind: string) => kind.endsWith('-ma');
  if (signal && isCurrent(signal.kind) !== isCurrent(input.signal ?? '')) {
    const wanted = input.signal ?? '';
    missing.push({ kind: 'signal', terminal: input.terminal, sent: signal.kind, wanted });
    return undefined;
  }
  const share = ((signal?.value ?? 0) - low) / (high - low);
  return tidy(
    machine.rules.answer('analog.beyond') === 'extrapolate' ? share : Math.max(0, Math.min(1, share)),
  );
}

/** In mA or V: below it the model takes a live-zero signal for lost; nothing where it is none, or the model does not say. */
export function lostBelow({ rules }: Machine, { signal }: Pick<AnalogInput, 'signal'>): number | undefined {
  if (signal !== '4-20-ma' && signal !== '2-10-v') return undefined;
  const [low] = SIGNAL_ENDS[signal] ?? [0];
  switch (rules.answer('loss.below')) {
    case '2-ma':
      return 2;
    case '3-ma':
      return 3;
    case 'half-of-low-end':
    case '1-v-or-2-ma':
      return low / 2;
    default:
      return undefined;
  }
}

export function isLost({ circuit, machine }: Speeds, input: AnalogInput): boolean {
  const threshold = lostBelow(machine, input);
  return threshold !== undefined && (circuit.signals.get(input.terminal)?.value ?? 0) < threshold;
}

/** Its loss keeps the last speed. */
export const holdsSpeed = ({ loss }: AnalogInput): boolean => !['ignore', 'fault', 'preset-1'].includes(loss);

function analogSpeed(speeds: Speeds, number: string): Asked {
  const { machine, state, missing } = speeds;
  const input = machine.analogs.find((each) => each.number === number);
  if (!input?.curve) {
    missing.push({ kind: 'value', what: `analog.${number}.curve` });
    return { from: { kind: 'analog', number, lost: null }, hertz: null, codes: [] };
  }
  const { codes } = input.curve;
  if (input.loss !== 'ignore' && (isLost(speeds, input) || state.lost.includes(number))) {
    if (input.loss === 'preset-1')
      return { ...presetSpeed(speeds, 1), from: { kind: 'analog', number, lost: 'preset-1' } };
    const minimum = numberAt(speeds, 'frequency.minimum')?.value ?? 0;
    return { from: { kind: 'analog', number, lost: 'hold' }, hertz: state.held[number] ?? minimum, codes };
  }
  if (countsAt(speeds, number)) return { from: { kind: 'analog', number, lost: null }, hertz: null, codes };
  const share = shareAt(speeds, input);
  const hertz = share === undefined ? null : speedOn(input.curve, share);
  return { from: { kind: 'analog', number, lost: null }, hertz, codes };
}

/** Pulses at an input that counts take the place of its signal; how many there are, contacts do not tell. */
function countsAt({ machine, missing }: Speeds, number: string): boolean {
  if (machine.inputs.every(({ does }) => does !== 'count')) return false;
  const feeds = machine.rules.answer('count.feeds');
  if (feeds === undefined) missing.push({ kind: 'rule', rule: 'count.feeds' });
  return feeds === `analog-${number}`;
}

/** Beyond its ends a curve goes on as it ended. */
function speedOn(curve: PlainCurve, share: number): number {
  if (share >= 0 && share <= 1) return tidy(curveAt(curve, share));
  const [edge, inside] = share < 0 ? [0, 0.001] : [1, 0.999];
  const slope = (curveAt(curve, edge) - curveAt(curve, inside)) / (edge - inside);
  return tidy(curveAt(curve, edge) + slope * (share - edge));
}

/** Names in the rules for a source. */
const RULE_SOURCE: Readonly<Record<string, string>> = {
  analog: 'analog',
  network: 'network',
  keypad: 'keypad',
  preset: 'presets',
  jog: 'jog',
  raised: 'raise-lower',
  loop: 'loop',
  program: 'program',
  minimum: 'presets',
};

/** Factor and trim, where the model lets them act on this source. */
export function weighted(speeds: Speeds, asked: Asked): Asked {
  const { machine } = speeds;
  const { rules, set } = machine;
  const source = RULE_SOURCE[asked.from.kind] ?? '';
  if (asked.hertz === null) return asked;
  let { hertz, codes } = asked;
  const factor = set.get(meaningOf('speed.factor'));
  if ((rules.list('factor.on') as readonly string[]).includes(source) && factor.kind === 'number') {
    hertz *= factor.value / PERCENT;
    if (factor.value !== PERCENT) codes = [...codes, ...factor.codes];
  }
  const number = /\d+/.exec(set.choice(meaningOf('trim.source')) ?? '')?.[0];
  if (number !== undefined && (rules.list('trim.on') as readonly string[]).includes(source)) {
    const input = machine.analogs.find((each) => each.number === number);
    const share = input ? shareAt(speeds, input) : undefined;
    const weight = numberAt(speeds, 'trim.weight');
    if (share === undefined || !weight) return { ...asked, hertz: null };
    hertz += share * weight.value;
    codes = [...codes, ...weight.codes];
  }
  return { ...asked, hertz: tidy(hertz), codes };
}

/** Lifted, cut, or held at the edge of a skip band. `hertz` is not below zero. */
export function limited(speeds: Speeds, { from, hertz, codes }: Asked): SetPoint {
  const { machine } = speeds;
  if (hertz === null) return { from, hertz, limited: null, codes };
  const [minimum, maximum] = [numberAt(speeds, 'frequency.minimum'), numberAt(speeds, 'frequency.maximum')];
  const lifts = from.kind !== 'jog' || machine.rules.answer('minimum.lifts') === 'all';
  if (lifts && minimum && hertz < minimum.value)
    return { from, hertz: minimum.value, limited: 'minimum', codes: [...codes, ...minimum.codes] };
  if (maximum && hertz > maximum.value)
    return { from, hertz: maximum.value, limited: 'maximum', codes: [...codes, ...maximum.codes] };
  for (const band of ['1', '2', '3']) {
    const [low, high] = ['from', 'to'].map((edge) => machine.set.get(meaningOf(`skip.${band}.${edge}`)));
    if (low?.kind !== 'number' || high?.kind !== 'number') continue;
    // The edge of a band is inside it.
    const nearer = machine.rules.answer('skip.holds') === 'nearest' && high.value - hertz < hertz - low.value;
    const edge = nearer ? high.value : low.value;
    if (hertz > low.value && hertz <= high.value)
      return { from, hertz: Math.max(0, edge), limited: 'skip', codes: [...codes, ...low.codes] };
  }
  return { from, hertz, limited: null, codes };
}
