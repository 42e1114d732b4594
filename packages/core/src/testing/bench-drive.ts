// A drive on the bench for tests: settings as a person sets them, events as a person would say them.

import { findParameter, type Code, type Dictionary, type Outfit } from '../dictionary/index.ts';
import {
  begin,
  machineOf,
  step,
  type Event,
  type Machine,
  type Outcome,
  type State,
} from '../behaviour/index.ts';
import { defaultSet } from '../sets/index.ts';
import { writePlain, type Plain } from '../meanings/index.ts';
import { meaningOf, parseRaw, type Meaning, type Reading } from '../values/index.ts';
import { benchWiring, type Bench } from './bench-wiring.ts';
import { bridge } from './shipped-bridge.ts';
import { allModels } from './shipped-model.ts';

export const modelNamed = (id: string): Dictionary => {
  const found = allModels.find(({ model }) => model.id === id)?.model;
  if (!found) throw new Error(`no model ${id}`);
  return found;
};

export const outfitOf = ({ ratings, regions }: Dictionary): Outfit => ({
  rating: ratings[0]?.id ?? '',
  region: regions.find(({ id }) => id.startsWith('50') || id === '400-v')?.id ?? regions[0]?.id ?? '',
});

/** The defaults with other values, by code and as the keypad shows them. */
export function readingsOf(
  model: Dictionary,
  values: Readonly<Record<string, string>>,
): ReadonlyMap<Code, Reading> {
  const readings = new Map<Code, Reading>(defaultSet(model, outfitOf(model))?.readings);
  for (const [code, text] of Object.entries(values)) {
    const parameter = findParameter(model, code);
    const raw = parameter && parseRaw(parameter.form, text);
    if (!parameter || !raw?.ok) throw new Error(`${model.id}: ${code} does not take ${text}`);
    readings.set(parameter.code, raw.value);
  }
  return readings;
}

export function benchMachine(
  id: string,
  values: Readonly<Record<string, string>>,
  bench: Bench = {},
  model = modelNamed(id),
): Machine {
  return machineOf(bridge.read(model, outfitOf(model), readingsOf(model, values)), benchWiring(model, bench));
}

/** `S1 on`, `S1 off`, `B1 0.5`, `supply off`, `key run`, `fault earth`, `break wire 3`, `settle`. */
export function eventOf(text: string): Event {
  const [what = '', how = '', more = ''] = text.trim().split(/ +/);
  if (what === 'settle') return { kind: 'settle' };
  if (what === 'supply') return { kind: 'supply', on: how === 'on' };
  if (what === 'key') return { kind: 'key', key: how as (Event & { kind: 'key' })['key'] };
  if (what === 'fault') return { kind: 'fault', of: how as (Event & { kind: 'fault' })['of'] };
  if (what === 'break' || what === 'mend') return { kind: what, what: `${how} ${more}` };
  return { kind: 'device', name: what, to: how === 'on' ? 1 : how === 'off' ? 0 : Number(how) };
}

/** The outcome after a sequence of events, separated by semicolons. The supply comes on by itself unless it is among them. */
export function outcomeOf(machine: Machine, sequence: string): Outcome {
  const events = sequence.split(';').filter((each) => each.trim() !== '');
  const given = sequence.includes('supply on') ? events : ['supply on', ...events];
  let { state, outcome }: { state: State; outcome: Outcome } = begin(machine);
  for (const text of given) ({ state, outcome } = step(machine, state, eventOf(text)));
  return outcome;
}

/** `runs forward at 18 Hz by preset 2`, `stopped by ramp`, `untold`. */
export function inShort({ kind, direction, setPoint, stops, ramps }: Outcome): string {
  if (kind !== 'runs' || !setPoint)
    return kind === 'no-supply' || kind === 'untold' ? kind : `${kind} by ${stops}`;
  const { from, hertz, limited } = setPoint;
  const source = from.kind === 'preset' || from.kind === 'analog' ? `${from.kind} ${from.number}` : from.kind;
  const second = ramps === 'second' ? ', second ramps' : '';
  return `runs ${direction} at ${hertz ?? '?'} Hz by ${source}${limited ? `, ${limited}` : ''}${second}`;
}

/** A drive with settings by meaning, in plain units or as options; commanded by input 1, all else without a function. */
export function plainReadings(
  model: Dictionary,
  wanted: Readonly<Record<string, string | number>>,
): ReadonlyMap<Code, Reading> {
  const inputs = bridge.carriersOf(model).of;
  const free = [...inputs.keys()].filter((each) => /^input\.\d\.function$/.test(each));
  const all: Record<string, string | number> = {
    ...Object.fromEntries(free.map((each) => [each, 'none'])),
    ...Object.fromEntries(
      [...inputs.keys()].filter((each) => /^input\.\d\.sense$/.test(each)).map((each) => [each, 'closed']),
    ),
    'input.1.function':
      model.behaviour.priority?.kind === 'words' && model.behaviour.priority.words.includes('enable')
        ? 'enable'
        : 'run.forward',
    'command.source': 'source.terminals',
    ...has(inputs, 'speed.source', 'source.presets'),
    ...has(inputs, 'command.powerUp', 'automatic'),
    ...has(inputs, 'command.startLock', 'start'),
    ...has(inputs, 'command.resetLock', 'start'),
    ...has(inputs, 'command.wiring', 'separate'),
    ...has(inputs, 'axis.mode', 'profile-speed'),
    ...has(inputs, 'frequency.minimum', 0),
    ...has(inputs, 'preset.1', 10),
    ...has(inputs, 'preset.2', 20),
    ...has(inputs, 'preset.contact.1', 10),
    ...has(inputs, 'preset.contact.2', 20),
    ...has(inputs, 'stop.mode', 'ramp'),
    ...wanted,
  };
  const plain = new Map<Meaning, Plain>(
    Object.entries(all).map(([name, value]) => [meaningOf(name), plainOf(name, value)]),
  );
  const { readings, met } = writePlain(bridge, model, outfitOf(model), plain);
  for (const name of Object.keys(wanted)) {
    const how = met.get(meaningOf(name));
    if (how?.kind !== 'exactly' && how?.kind !== 'rounded')
      throw new Error(`${model.id} does not take ${name} = ${String(wanted[name])}: ${JSON.stringify(how)}`);
  }
  return readings;
}

const has = (inputs: ReadonlyMap<string, unknown>, name: string, value: string | number) =>
  inputs.has(name) ? { [name]: value } : {};

function plainOf(name: string, value: string | number): Plain {
  const how = { codes: [], how: null };
  if (typeof value === 'number')
    return {
      kind: 'number',
      value,
      unit: bridge.vocabulary.of(meaningOf(name))?.unit ?? '',
      step: 0,
      ...how,
    };
  const ends = /^(-?[\d.]+)\.\.(-?[\d.]+)$/.exec(value);
  if (!ends) return { kind: 'choice', option: value, ...how };
  const [low, high] = [Number(ends[1]), Number(ends[2])];
  const points = [
    { signal: 0, value: low },
    { signal: 1, value: high },
  ];
  return { kind: 'curve', points, unit: 'Hz', step: 0, ...how };
}

export function plainMachine(
  model: Dictionary,
  wanted: Readonly<Record<string, string | number>>,
  bench: Bench = {},
): Machine {
  const set = bridge.read(model, outfitOf(model), plainReadings(model, wanted));
  return machineOf(set, benchWiring(model, bench));
}
