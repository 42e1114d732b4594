// The steps of a proof run, from a set with its wiring: each signal path contact by contact, every outcome that hands can bring
// about, ramps and stopping, what clears a fault, the supply back with the run contact closed, and what must still be there
// after it.

import {
  reachOf,
  replayed,
  sayEvent,
  sayHeadline,
  wayFrom,
  type Event,
  type Machine,
  type ReachLimits,
  type Speaker,
  type Stepped,
  type TermOf,
} from '../behaviour/index.ts';
import type { Code } from '../dictionary/index.ts';
import { showEnd } from '../wiring/index.ts';
import {
  PROOF_PARTS,
  type ProofInput,
  type ProofPart,
  type ProofPlan,
  type ProofStep,
} from './proof-step.ts';
import { codesOf, inputsAt, stagesOf, tells } from './stages.ts';

/** About a second; every drive of the demo plant takes a twentieth of it. A machine with more states says so. */
const LIMITS: ReachLimits = { mostSteps: 150_000, mostOutcomes: 60 };
/** Pairs of devices that are tried for an input that neither moves alone. */
const MOST_PAIRS = 400;
const ON: Event = { kind: 'supply', on: true };
const SETTLE: Event = { kind: 'settle' };
/** Deeds after which a fault that hands have brought about must be gone. */
const MOST_RESET = 3;

export const VALUES_STEP = 'values';

interface Way {
  readonly part: ProofPart;
  readonly events: readonly Event[];
}

export function proofPlanOf(machine: Machine, term: TermOf, limits = LIMITS): ProofPlan {
  const speaker: Speaker = { machine, term };
  const { reached, states, unfinished, untold } = reachOf(machine, limits);
  const outcomes = reached.map(({ events, steps }): Way => ({ part: partOf(events, steps), events }));
  const fastest = runsOf(machine, outcomes);
  const ways = [
    ...pathsOf(machine),
    ...outcomes,
    ...outcomes.filter(({ part }) => part === 'faults').flatMap((way) => resetOf(machine, way)),
    ...outcomes.filter(({ part }) => part === 'stops').flatMap(backOf),
    ...fastest.flatMap((way) => rampedOf(machine, way)),
    ...fastest.slice(0, 1).flatMap((way) => [returnOf(way), ...inHandOf(machine, way)]),
  ].map(({ part, events }) => ({ part, events: letGo(machine, events) }));
  const steps = merged(ways).map((way) => stepOf(speaker, way));
  return {
    steps: inOrder([...steps, stillThere(speaker)]),
    inputs: inputsOf(machine),
    ...{ states, unfinished, untold },
  };
}

/** Each contact, place and output of a controller that reaches an input, alone or together with one other. */
function pathsOf(machine: Machine): readonly Way[] {
  const places = machine.wiring.devices.flatMap((device): Event[] => {
    const { name, kind } = device;
    if (kind === 'selector')
      return device.places.slice(1).map((_, at) => ({ kind: 'device', name, to: at + 1 }));
    return ['contact', 'controller', 'sensor', 'safety-relay'].includes(kind)
      ? [{ kind: 'device', name, to: 1 }]
      : [];
  });
  const inputs = (events: readonly Event[]) =>
    JSON.stringify(inputsAt(machine, replayed(machine, events).at(-1) as Stepped));
  const rest = inputs([ON]);
  let pairs = MOST_PAIRS;
  return places.flatMap((event): Way[] => {
    if (rest !== inputs([ON, event])) return [{ part: 'paths', events: [ON, event] }];
    const other = places.find(
      (each) =>
        nameOf(each) !== nameOf(event) &&
        (pairs -= 1) >= 0 &&
        inputs([ON, each]) !== inputs([ON, each, event]),
    );
    return other ? [{ part: 'paths', events: [ON, other, event] }] : [];
  });
}

const toOf = (event: Event): number | undefined => (event.kind === 'device' ? event.to : undefined);
const nameOf = (event: Event): string => (event.kind === 'device' ? event.name : '');

function partOf(events: readonly Event[], steps: readonly Stepped[]): ProofPart {
  const last = steps.at(-1) as Stepped;
  if (events.some((event, at) => event.kind === 'supply' && at > 0) || events.length === 1) return 'supply';
  if (events.some((event) => event.kind === 'key' && event.key !== 'reset')) return 'hand';
  if (last.state.fault !== null) return 'faults';
  if (last.outcome.setPoint?.from.kind === 'loop' && last.outcome.kind === 'runs') return 'loop';
  return last.outcome.kind === 'runs' ? 'runs' : 'stops';
}

/** What hands have to do until the fault is gone. */
function resetOf(machine: Machine, { events }: Way): readonly Way[] {
  const at = replayed(machine, events).at(-1) as Stepped;
  const undo = events.flatMap((event): Event[] =>
    event.kind === 'device'
      ? [{ ...event, to: 0 }]
      : event.kind === 'break'
        ? [{ ...event, kind: 'mend' }]
        : [],
  );
  const resets = (machine.byFunction.get('fault-reset') ?? []).flatMap(({ terminal }) =>
    (machine.devicesAt.get(terminal) ?? []).map((name): readonly Event[] => [
      { kind: 'device', name, to: 1 },
      { kind: 'device', name, to: 0 },
    ]),
  );
  const way = wayFrom(
    machine,
    at,
    [...undo.map((event) => [event]), ...resets, [{ kind: 'key', key: 'reset' }]],
    ({ state }) => state.fault === null,
    MOST_RESET,
  );
  return way && way.length > 0 ? [{ part: 'faults', events: [...events, ...way] }] : [];
}

/** What has stopped it goes again, while what made it run still stands: whether it starts by itself. */
const backOf = ({ part, events }: Way): readonly Way[] => {
  const last = events.at(-1);
  const isAway = last?.kind === 'device' && last.to !== 0 && events.length > 2;
  return isAway ? [{ part, events: [...events, { ...last, to: 0 }, SETTLE] }] : [];
};

/** Hand is chosen while contacts ask for a run, then automatic again. */
const inHandOf = ({ rules }: Machine, { events: [on = ON, ...rest] }: Way): readonly Way[] =>
  rules.answer('hand.source') === undefined
    ? []
    : [
        {
          part: 'hand',
          events: [on, { kind: 'key', key: 'hand' }, ...rest, { kind: 'key', key: 'automatic' }, SETTLE],
        },
      ];

/** A button that need not be held is let go at once. */
function letGo(machine: Machine, events: readonly Event[]): readonly Event[] {
  const buttons = machine.wiring.devices.flatMap((device) =>
    device.kind === 'contact' && device.momentary ? [device.name] : [],
  );
  const made: Event[] = [];
  events.forEach((event, at) => {
    made.push(event);
    const next = events[at + 1];
    if (event.kind !== 'device' || event.to === 0 || !buttons.includes(event.name)) return;
    if (next?.kind === 'device' && next.name === event.name) return;
    const away: Event = { ...event, to: 0 };
    const [pressed, released] = [made, [...made, away]].map((each) => replayed(machine, each).at(-1));
    if (tells(pressed) === tells(released)) made.push(away);
  });
  return made;
}

/** Runs that nobody asks for in production. */
const ODD_RUNS = ['fire', 'jog', 'minimum'];

/** The fastest run on each of the ramps, brought about by contacts alone; what production asks for before all else. */
function runsOf(machine: Machine, outcomes: readonly Way[]): readonly Way[] {
  const fastest = new Map<string, { way: Way; rank: number }>();
  for (const way of outcomes) {
    if (way.part !== 'runs' && way.part !== 'loop') continue;
    const { outcome } = replayed(machine, way.events).at(-1) as Stepped;
    const hertz = outcome.setPoint?.hertz ?? 0;
    const from = outcome.setPoint?.from.kind ?? '';
    const rank = from === 'loop' ? Infinity : ODD_RUNS.includes(from) ? hertz / ODD : hertz;
    const known = fastest.get(outcome.ramps ?? '');
    if (rank > 0 && (!known || rank > known.rank)) fastest.set(outcome.ramps ?? '', { way, rank });
  }
  return [...fastest.values()].sort((a, b) => b.rank - a.rank).map(({ way }) => way);
}
const ODD = 1e6;

/** Up from rest with everything ready beforehand, and down again by what started it. */
function rampedOf(machine: Machine, { events }: Way): readonly Way[] {
  const starts = replayed(machine, events).findIndex(({ outcome }) => outcome.kind === 'runs');
  const start = events[starts];
  if (start?.kind !== 'device') return [];
  const ready = events.filter((_, at) => at !== starts);
  const up = [...ready, start, SETTLE];
  const steps = replayed(machine, up);
  const begun = steps.findIndex(({ outcome }) => outcome.kind === 'runs');
  // What makes it ready may be what starts it: then the way is taken as it was found.
  const first = begun === up.length - 2 ? up : [...events, SETTLE];
  const at = replayed(machine, first).at(-1) as Stepped;
  const hands = machine.wiring.devices.flatMap(({ name, kind }): readonly Event[][] =>
    kind === 'contact' || kind === 'selector' || kind === 'controller'
      ? [[{ kind: 'device', name, to: 0 }], [{ kind: 'device', name, to: 1 }]]
      : [],
  );
  const down =
    wayFrom(machine, at, [[{ ...start, to: 0 }]], (now) => stopped(now), 1) ??
    wayFrom(machine, at, hands, (now) => stopped(now), 1);
  return [{ part: 'ramps', events: [...first, ...(down ?? []), ...(down ? [SETTLE] : [])] }];
}

const stopped = ({ outcome, state }: Stepped): boolean => outcome.kind !== 'runs' && state.fault === null;

/** The supply goes while it runs and comes back with everything as it stands. */
const returnOf = ({ events }: Way): Way => ({
  part: 'supply',
  events: [...events, { kind: 'supply', on: false }, ON, SETTLE],
});

/** The same deeds are one step; and what another step of its part begins with is seen there. */
function merged(ways: readonly Way[]): readonly Way[] {
  const found = new Map<string, Way>();
  for (const way of ways) if (!found.has(idOf(way.events))) found.set(idOf(way.events), way);
  const all = [...found];
  return all.flatMap(([id, way]) => {
    const isBegun = all.some(
      ([other, { part, events }]) =>
        part === way.part &&
        other.startsWith(`${id} `) &&
        // A wire that has to come off may stay on: what was seen before that counts alone.
        !events.some(({ kind }) => kind === 'break'),
    );
    return way.part !== 'paths' && isBegun ? [] : [way];
  });
}

/** `S1=1 S2=2 supply=0`. */
export const idOf = (events: readonly Event[]): string =>
  events
    .slice(1)
    .map((event) => {
      switch (event.kind) {
        case 'device':
          return `${event.name}=${event.to}`;
        case 'supply':
          return `supply=${event.on ? 1 : 0}`;
        case 'key':
          return `key=${event.key}`;
        case 'settle':
          return 'wait';
        case 'fault':
          return `fault=${event.of}`;
        default:
          return `${event.kind}=${event.what}`;
      }
    })
    .join(' ') || 'rest';

function stepOf(speaker: Speaker, { part, events }: Way): ProofStep {
  const { machine } = speaker;
  const steps = replayed(machine, events);
  const last = steps.at(-1) as Stepped;
  const terminals = machine.inputs.flatMap(({ number, terminal }) =>
    steps.some((at) => inputsAt(machine, at)[number] !== inputsAt(machine, steps[0] as Stepped)[number])
      ? [terminal]
      : [],
  );
  return {
    ...{ id: idOf(events), part, terminals },
    title: titleOf(speaker, part, events, last, terminals),
    stages: stagesOf(speaker, steps, events),
    eyes: eyesOf(steps),
    codes: [...new Set([...steps.flatMap(codesOf), ...rampCodes(machine, part)])],
  };
}

function titleOf(
  speaker: Speaker,
  part: ProofPart,
  events: readonly Event[],
  { outcome, state }: Stepped,
  terminals: readonly string[],
): string {
  const headline = sayHeadline(outcome, state.fault);
  if (events.length === 1) return `Nothing worked: ${lower(headline)}`;
  const buttons = speaker.machine.wiring.devices.flatMap((device) =>
    device.kind === 'contact' && device.momentary ? [device.name] : [],
  );
  const deeds = events
    .slice(1)
    .filter((event) => event.kind !== 'settle' && !(buttons.includes(nameOf(event)) && toOf(event) === 0));
  if (part === 'ramps')
    return `Up and down again: ${deeds
      .slice(0, deeds.length > 1 ? -1 : 1)
      .map((each) => sayEvent(each, speaker))
      .join(', ')}`;
  const done = deeds.map((each) => sayEvent(each, speaker)).join(', ');
  if (part !== 'paths') return `${done}: ${lower(headline)}`;
  const also = outcome.kind === 'stopped' ? '' : `, ${lower(headline)}`;
  return `${done}: terminal ${terminals.join(' and ')}${also}`;
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** Which way a shaft turns stands in no register of most models. */
function eyesOf(steps: readonly Stepped[]): readonly string[] {
  const ways = steps.flatMap(({ outcome }) =>
    outcome.kind === 'runs' && (outcome.setPoint?.hertz ?? 1) > 0 && outcome.direction
      ? [outcome.direction]
      : [],
  );
  return [...new Set(ways)].map(
    (way) => `The shaft turns ${way === 'forward' ? 'forward' : 'in reverse'}: look at it`,
  );
}

function rampCodes({ set }: Machine, part: ProofPart): readonly Code[] {
  if (part !== 'ramps') return [];
  return [...set.dictionary.parameters].flatMap(({ code, meaning }) =>
    meaning?.startsWith('ramp.') || meaning?.startsWith('stop.') || meaning === 'limit.current' ? [code] : [],
  );
}

/** The last one: whatever was proved is worth nothing if it is gone tomorrow. */
function stillThere(speaker: Speaker): ProofStep {
  const events: readonly Event[] = [ON, { kind: 'supply', on: false }, ON];
  const steps = replayed(speaker.machine, events);
  return {
    ...{ id: VALUES_STEP, part: 'values', eyes: [], codes: [], terminals: [] },
    title: 'Every setting is still there after the supply was away',
    stages: stagesOf(speaker, steps, events),
  };
}

const inOrder = (steps: readonly ProofStep[]): readonly ProofStep[] =>
  PROOF_PARTS.flatMap((part) => steps.filter((each) => each.part === part));

function inputsOf({ inputs, wiring }: Machine): readonly ProofInput[] {
  return inputs.map(({ number, terminal }) => ({
    ...{ number, terminal },
    wires: wiring.wires.flatMap(({ number: printed, from, to }) => {
      const other =
        from.kind === 'terminal' && from.terminal === terminal
          ? to
          : to.kind === 'terminal' && to.terminal === terminal
            ? from
            : undefined;
      return other ? [`wire ${printed === '' ? 'without a number' : printed} from ${showEnd(other)}`] : [];
    }),
  }));
}
