// What the wiring lets one expect at each input, and what the drive should do by the inputs that are seen. The drive remembers
// things that no register tells (a button that started it, a reset that is asked for): where they decide, every answer that
// they can lead to is told, and only what none of them leads to is odd.

import type { Dictionary } from '../dictionary/index.ts';
import {
  AT_REST,
  EDGES,
  outcomeBy,
  SIGNAL_ENDS,
  type Machine,
  type Outcome,
  type Signal,
  type State,
} from '../behaviour/index.ts';
import type { FieldDevice } from '../wiring/index.ts';

/** What is seen of a unit; nothing where a register does not tell it. */
export interface Seen {
  /** By number. */
  readonly inputs: ReadonlyMap<string, boolean>;
  /** Share of its signal at each analog input, by number. */
  readonly analogs: ReadonlyMap<string, number>;
  readonly runs: boolean | null;
  readonly fault: number | null;
  /** Its frequency sinks: a stop that was commanded takes its time. */
  readonly slows?: boolean;
}

export interface ExpectedInput {
  readonly number: string;
  readonly terminal: string;
  /** Names of the field devices that can close it. */
  readonly devices: readonly string[];
  /** On with everything at rest. */
  readonly rests: boolean;
  /** What it can be at all by its wiring, as long as nothing is broken. */
  readonly can: 'both' | 'on' | 'off';
  readonly seen: boolean | null;
  /**
   * `never`: its wiring does not let it be what is seen. `worked`: something that rests in production is worked, or its wire is
   * open. Nothing for what can well be.
   */
  readonly odd: 'never' | 'worked' | null;
}

export interface Expectation {
  readonly inputs: readonly ExpectedInput[];
  /** What it may do by the inputs that are seen, the likeliest first; empty where they are not seen. */
  readonly outcomes: readonly Outcome[];
  /** Whether it does one of these; nothing where that cannot be told. */
  readonly agrees: boolean | null;
}

/** Kinds that rest while a machine works as it should. */
const RESTS = ['sensor', 'safety-relay'];
/** With more devices than this on an input nobody asks for pairs of them. */
const MOST_PAIRED = 12;

export function expectationOf(
  machine: Machine,
  { faults }: Pick<Dictionary, 'faults'>,
  seen: Seen,
): Expectation {
  const inputs = machine.inputs.map((input) => expectedInput(machine, input, seen));
  if (machine.inputs.some(({ number }) => !seen.inputs.has(number)))
    return { inputs, outcomes: [], agrees: null };
  const states = memories(machine, seen, faults);
  const closed = states.map((state) => outcomeAt(machine, state, seen, machine.safeInputs));
  // Where a safety relay could have opened them, no register says whether it has.
  const open = canOpenSafe(machine) ? states.map((state) => outcomeAt(machine, state, seen, [])) : [];
  const outcomes = distinct([...closed, ...open]);
  const told = seen.runs !== null && outcomes.every(({ kind }) => kind !== 'untold');
  const agrees = told
    ? seen.slows === true || outcomes.some(({ kind }) => (kind === 'runs') === seen.runs)
    : null;
  // What agrees with what is seen is told first.
  const sorted = [...outcomes].sort(
    (a, b) => Number((b.kind === 'runs') === seen.runs) - Number((a.kind === 'runs') === seen.runs),
  );
  return { inputs, outcomes: sorted, agrees };
}

function expectedInput(
  machine: Machine,
  { number, terminal }: Machine['inputs'][number],
  seen: Seen,
): ExpectedInput {
  const { rests, can, movers } = reach(machine, terminal);
  const now = seen.inputs.get(number) ?? null;
  const never = now !== null && can !== 'both' && now !== (can === 'on');
  const resting = movers.length > 0 && movers.every(restsInProduction);
  const odd = never ? 'never' : now !== null && resting && now !== rests ? 'worked' : null;
  const at = machine.devicesAt.get(terminal) ?? [];
  return {
    number,
    terminal,
    devices: [...new Set([...at, ...movers.map(({ name }) => name)])],
    rests,
    can,
    seen: now,
    odd,
  };
}

const restsInProduction = (device: FieldDevice): boolean =>
  RESTS.includes(device.kind) || (device.kind === 'contact' && device.momentary);

/** How an input stands at rest, and which devices can change that, alone or two together. */
function reach(machine: Machine, terminal: string) {
  const isClosed = (devices: State['devices'], outputs: readonly string[] = []) =>
    machine.conductors.look({ ...AT_REST, supply: true, devices, outputs })?.closed.has(terminal) ?? false;
  const rests = isClosed({});
  const { devices } = machine.wiring;
  const moves = devices.flatMap((device) => placesOf(device).map((to) => ({ device, to })));
  const movers = new Set<FieldDevice>();
  for (const { device, to } of moves) if (isClosed({ [device.name]: to }) !== rests) movers.add(device);
  if (movers.size === 0 && devices.length <= MOST_PAIRED)
    for (const one of moves)
      for (const other of moves)
        if (
          one.device !== other.device &&
          isClosed({ [one.device.name]: one.to, [other.device.name]: other.to }) !== rests
        )
          movers.add(one.device).add(other.device);
  const byDrive =
    isClosed(
      {},
      machine.outputs.map(({ number }) => number),
    ) !== rests;
  const changes = movers.size > 0 || byDrive;
  return {
    rests,
    can: changes ? ('both' as const) : rests ? ('on' as const) : ('off' as const),
    movers: [...movers],
  };
}

function placesOf(device: FieldDevice): readonly number[] {
  if (device.kind === 'selector') return device.places.map((_, at) => at).slice(1);
  return ['contact', 'controller', 'sensor', 'safety-relay'].includes(device.kind) ? [1] : [];
}

/** Everything that the drive may remember while it is seen like this. */
function memories(machine: Machine, { inputs, fault }: Seen, faults: Dictionary['faults']): readonly State[] {
  const on = machine.inputs.filter(({ number, opens }) => (inputs.get(number) ?? false) !== opens);
  const held = EDGES.filter((does) => on.some((each) => each.does === does));
  const known =
    fault === null || fault === 0 ? null : (faults.find(({ number }) => number === fault)?.kind ?? 'other');
  const plain: State = { ...AT_REST, supply: true, on: held, place: 'first' };
  if (known !== null) return [{ ...plain, fault: faultOf(known) }];
  const hands = machine.rules.answer('hand.source') === undefined ? [false] : [false, true];
  const latches = machine.byFunction.has('stop')
    ? ([null, 'forward', 'reverse'] as const)
    : ([null] as const);
  const states = hands.flatMap((hand) =>
    latches.flatMap((latch) =>
      [false, true].flatMap((keyed) =>
        [false, true].flatMap((waits) =>
          MOTIONS.map(([motion, jogging]): State => {
            const place = hand && machine.rules.answer('hand.source') === 'keypad' ? 'hand' : plain.place;
            return { ...plain, hand, place, latch, keyed, waits, motion, jogging, runs: motion !== 'rest' };
          }),
        ),
      ),
    ),
  );
  return states;
}

/** How the shaft may turn while somebody looks, and whether by jogging. */
const MOTIONS = [
  ['rest', false],
  ['forward', false],
  ['reverse', false],
  ['forward', true],
  ['reverse', true],
] as const;

/** The fault as the engine names it; what it does not know holds the drive all the same. */
function faultOf(kind: string): State['fault'] {
  if (kind === 'motorHot') return 'motor-warm';
  return (
    [
      'overcurrent',
      'overvoltage',
      'undervoltage',
      'motorOverload',
      'unitHot',
      'earth',
      'external',
      'dry',
      'signalLost',
      'sto',
    ].includes(kind)
      ? kind
      : 'overcurrent'
  ) as State['fault'];
}

function canOpenSafe({ safeInputs, wiring, conductors }: Machine): boolean {
  const isOpen = (devices: State['devices']) =>
    safeInputs.some(
      (each) => conductors.look({ ...AT_REST, supply: true, devices })?.safe.has(each) === false,
    );
  return (
    isOpen({}) ||
    wiring.devices.some((device) => placesOf(device).some((to) => isOpen({ [device.name]: to })))
  );
}

function outcomeAt(machine: Machine, state: State, seen: Seen, safe: readonly string[]): Outcome {
  const closed = new Set(
    machine.inputs.filter(({ number }) => seen.inputs.get(number)).map(({ terminal }) => terminal),
  );
  const signals = new Map(
    machine.analogs.flatMap(({ number, terminal, signal = '' }): [string, Signal][] => {
      const share = seen.analogs.get(number);
      const [low, high] = SIGNAL_ENDS[signal] ?? [0, 0];
      return share === undefined
        ? []
        : [[terminal, { kind: signal, value: low + (high - low) * share, device: '' }]];
    }),
  );
  return outcomeBy(machine, state, { closed, safe: new Set(safe), signals, pulled: [] });
}

/** Each only once, in their order. */
function distinct(outcomes: readonly Outcome[]): readonly Outcome[] {
  const found = new Map<string, Outcome>();
  for (const each of outcomes) {
    const key = [each.kind, each.direction, each.setPoint?.hertz ?? each.setPoint?.from.kind].join(' ');
    if (!found.has(key)) found.set(key, each);
  }
  return [...found.values()];
}
