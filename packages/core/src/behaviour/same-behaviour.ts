// Whether two drives do the same with the same devices: a walk over the pairs of states that events can reach, the cheapest way
// first. Where their outcomes differ the walk does not go on, and the way there is the shortest that shows it. It is a proof
// for what was looked at, and it says what was not.

import { meaningOf } from '../values/index.ts';
import type { FieldDevice } from '../wiring/index.ts';
import type { Machine } from './machine.ts';
import type { Outcome } from './outcome.ts';
import type { Event, State } from './state.ts';
import { begin, step, type Stepped } from './step.ts';

export interface WalkOptions {
  /** Pairs of states that are looked at before it gives up. */
  readonly mostPairs: number;
  /** Differences that are told, each of another kind. */
  readonly mostDifferences: number;
  /** The first difference ends it. */
  readonly onlyFirst?: boolean;
  /** Keys of the keypad take part: between two sets of one model. */
  readonly keys: boolean;
}

/** In what two outcomes differ, the gravest first. */
export type Aspect =
  'starts' | 'does-not-start' | 'direction' | 'untold' | 'state' | 'speed' | 'stops' | 'ramps' | 'outputs';

export interface Difference {
  readonly aspect: Aspect;
  readonly events: readonly Event[];
  readonly a: Stepped;
  readonly b: Stepped;
  /** How often the walk met it. */
  readonly count: number;
}

export interface Sameness {
  readonly same: boolean;
  /** Pairs of states, and kinds of events, that were looked at. */
  readonly pairs: number;
  readonly events: number;
  /** It gave up with pairs that were not looked at. */
  readonly unfinished: boolean;
  /** Steps that cannot be told of either. */
  readonly untold: number;
  readonly differences: readonly Difference[];
}

interface Priced {
  readonly events: readonly Event[];
  readonly cost: number;
}

interface Waiting {
  readonly a: State;
  readonly b: State;
  readonly way: readonly Event[];
}

/** Half of a tenth of a hertz, where a model tells no step of its own. */
const USUAL_STEP = 0.1;
const RANK: readonly Aspect[] = [
  ...(['starts', 'does-not-start', 'direction', 'untold', 'state'] as const),
  ...(['speed', 'stops', 'outputs', 'ramps'] as const),
];

export function sameBehaviour(a: Machine, b: Machine, options: WalkOptions): Sameness {
  const priced = eventsOf(a, b, options.keys);
  const near = Math.max(stepOf(a), stepOf(b)) / 2;
  const seen = new Set<string>();
  const found = new Map<string, Difference>();
  // By cost: the cheapest way to a difference is found first.
  const queues: Waiting[][] = [];
  const put = (cost: number, waiting: Waiting) => (queues[cost] ??= []).push(waiting);
  put(0, { a: begin(a).state, b: begin(b).state, way: [] });
  let pairs = 0;
  let untold = 0;
  const end = (unfinished: boolean): Sameness => ({
    same: found.size === 0 && untold === 0 && !unfinished,
    ...{ pairs, events: priced.length, unfinished, untold, differences: told(found, options) },
  });
  for (let cost = 0; cost < queues.length; cost += 1) {
    for (const at of queues[cost] ?? []) {
      const key = `${JSON.stringify(at.a)} ${JSON.stringify(at.b)}`;
      if (seen.has(key)) continue;
      if (pairs >= options.mostPairs) return end(true);
      seen.add(key);
      pairs += 1;
      for (const { events, cost: price } of priced) {
        if (changesNothing(events, at.a)) continue;
        const [after, other] = [run(a, at.a, events), run(b, at.b, events)];
        const way = [...at.way, ...events];
        const aspect = aspectOf(after, other, near, sameOutputs(a, b));
        // What cannot be told of either is neither the same nor a difference, and leads no further.
        if (aspect === undefined && after.outcome.kind === 'untold') untold += 1;
        else if (aspect === undefined) put(cost + price, { a: after.state, b: other.state, way });
        else note(found, { aspect, events: way, a: after, b: other, count: 1 });
        if (options.onlyFirst && found.size > 0) return end(false);
      }
    }
  }
  return end(false);
}

/** In which order two outcomes are compared, by what they tell: what comes later may still differ when one is mended. */
const COMPARED: Readonly<Record<Aspect, number>> = {
  // All four say that another thing happens: one in the place of another mends nothing.
  ...{ untold: 0, starts: 0, 'does-not-start': 0, state: 0 },
  ...{ direction: 1, speed: 2, stops: 3, ramps: 4, outputs: 5 },
};

/** Whether `mended` shows the difference no more, and does as `a` wherever `b` did so on the way there. */
export function isMended({ events, aspect }: Difference, a: Machine, b: Machine, mended: Machine): boolean {
  const near = Math.max(stepOf(a), stepOf(b)) / 2;
  const outputs = sameOutputs(a, b);
  let [first, other, fresh] = [begin(a), begin(b), begin(mended)];
  return events.every((event, at) => {
    first = step(a, first.state, event);
    other = step(b, other.state, event);
    fresh = step(mended, fresh.state, event);
    const still = aspectOf(first, fresh, near, outputs);
    if (still === undefined) return true;
    if (at === events.length - 1) return COMPARED[still] > COMPARED[aspect];
    return aspectOf(first, other, near, outputs) !== undefined;
  });
}

/** A device that is put where it stands, a supply that is there. */
function changesNothing([event, ...more]: readonly Event[], { devices, supply }: State): boolean {
  if (more.length > 0) return false;
  if (event?.kind === 'device') return (devices[event.name] ?? 0) === event.to;
  return event?.kind === 'supply' && event.on === supply;
}

function run(machine: Machine, state: State, events: readonly Event[]): Stepped {
  let stepped: Stepped | undefined;
  for (const event of events) stepped = step(machine, stepped?.state ?? state, event);
  return stepped ?? begin(machine);
}

/** Step of the speeds of a model, in Hz. */
function stepOf({ set }: Machine): number {
  const maximum = set.get(meaningOf('frequency.maximum'));
  return maximum.kind === 'number' && maximum.step > 0 ? maximum.step : USUAL_STEP;
}

/** Outputs are compared by their numbers between two sets of one model; another model has others. */
const sameOutputs = (a: Machine, b: Machine): boolean => a.set.dictionary.model === b.set.dictionary.model;

function aspectOf(
  { outcome: a, state }: Stepped,
  { outcome: b }: Stepped,
  near: number,
  outputs: boolean,
): Aspect | undefined {
  const turns = state.motion !== 'rest';
  if (a.kind === 'untold' || b.kind === 'untold') return a.kind === b.kind ? undefined : 'untold';
  if (a.kind !== b.kind) {
    if (b.kind === 'runs') return 'starts';
    return a.kind === 'runs' ? 'does-not-start' : 'state';
  }
  if (a.kind === 'fault' || a.kind === 'runs' || a.kind === 'stopped') {
    if (a.direction !== b.direction) return 'direction';
    if (!sameSpeed(a, b, near)) return 'speed';
    // How it would stop says nothing of a shaft that rests.
    if (turns && a.stops !== b.stops) return 'stops';
    if (a.ramps !== b.ramps) return 'ramps';
  }
  return outputs && JSON.stringify(a.outputs) !== JSON.stringify(b.outputs) ? 'outputs' : undefined;
}

function sameSpeed({ setPoint: a }: Outcome, { setPoint: b }: Outcome, near: number): boolean {
  if (!a || !b) return a === b;
  if (a.hertz === null || b.hertz === null) return a.hertz === b.hertz && a.from.kind === b.from.kind;
  return Math.abs(a.hertz - b.hertz) <= near + 1e-9;
}

/** One of a kind: the same aspect with the same two outcomes. */
function note(found: Map<string, Difference>, fresh: Difference): void {
  const key = JSON.stringify([
    fresh.aspect,
    tellingOf(fresh.aspect, fresh.a),
    tellingOf(fresh.aspect, fresh.b),
  ]);
  const known = found.get(key);
  found.set(key, known ? { ...known, count: known.count + 1 } : fresh);
}

/** What of an outcome makes a difference one of its kind. */
function tellingOf(aspect: Aspect, { outcome }: Stepped): unknown {
  switch (aspect) {
    case 'stops':
      return outcome.stops;
    case 'ramps':
      return outcome.ramps;
    case 'outputs':
      return outcome.outputs;
    case 'speed':
      return outcome.setPoint?.from;
    default:
      return [outcome.kind, outcome.direction];
  }
}

const told = (
  found: ReadonlyMap<string, Difference>,
  { mostDifferences }: WalkOptions,
): readonly Difference[] =>
  [...found.values()]
    .sort((x, y) => RANK.indexOf(x.aspect) - RANK.indexOf(y.aspect) || x.events.length - y.events.length)
    .slice(0, mostDifferences);

/** A contact, a place, a value, a key or a wait costs 1, the supply or a safety channel 3, a broken wire 4, a fault 5. */
function eventsOf(a: Machine, b: Machine, keys: boolean): readonly Priced[] {
  const devices = a.wiring.devices.filter(({ name }) => b.wiring.devices.some((each) => each.name === name));
  const one = (event: Event): Priced => ({ events: [event], cost: 1 });
  return [
    { events: [{ kind: 'supply', on: true }], cost: 1 },
    ...devices.flatMap((device) =>
      positionsOf(device).map((to) => one({ kind: 'device', name: device.name, to })),
    ),
    one({ kind: 'settle' }),
    ...(keys
      ? (['run', 'stop', 'reset', 'hand', 'automatic'] as const).map((key) => one({ kind: 'key', key }))
      : [one({ kind: 'key', key: 'reset' })]),
    {
      events: [
        { kind: 'supply', on: false },
        { kind: 'supply', on: true },
      ],
      cost: 3,
    },
    ...safeLinks(a, b).map((what): Priced => ({
      events: [
        { kind: 'break', what },
        { kind: 'mend', what },
      ],
      cost: 3,
    })),
    { events: [{ kind: 'fault', of: 'overcurrent' }], cost: 5 },
    { events: [{ kind: 'fault', of: 'earth' }], cost: 5 },
  ];
}

/** Links of safe inputs that both have at the same place of their list. */
function safeLinks(a: Machine, b: Machine): readonly string[] {
  const of = ({ wiring, safeInputs }: Machine) =>
    wiring.links.flatMap(({ between }, at) =>
      between.some((end) => safeInputs.includes(end)) ? [`link ${at}`] : [],
    );
  const other = of(b);
  return of(a).filter((each) => other.includes(each));
}

const SHARES = [0, 0.5, 1];

function positionsOf(device: FieldDevice): readonly number[] {
  switch (device.kind) {
    case 'selector':
      return device.places.map((_, at) => at);
    case 'potentiometer':
    case 'transmitter':
      return SHARES;
    case 'load':
    case 'brake':
    case 'relay':
    case 'supply':
      return [];
    default:
      return [0, 1];
  }
}
