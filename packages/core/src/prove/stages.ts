// Events as stages: what somebody does, and what the unit and its terminals must show then. Waiting belongs to the stage before.

import {
  codesOfReason,
  sayDetails,
  sayEvent,
  sayHeadline,
  SIGNAL_ENDS,
  step,
  stopText,
  type Event,
  type Machine,
  type Outcome,
  type Speaker,
  type Stepped,
} from '../behaviour/index.ts';
import type { Code } from '../dictionary/index.ts';
import type { Stage, StageRamp, StageSpeed } from './proof-step.ts';
import { rampSettingOf } from './ramp-setting.ts';

/** Seconds for hands to do what a stage says, beyond what its ramps take. */
const HANDS_S = 5;
/** A ramp that a limit stretches is waited for so much longer. */
const STRETCHED = 2;
/** Where the course of a signal's speed is looked at, in shares of the device's range. */
const SHARES = Array.from({ length: 21 }, (_, at) => at / 20);
/** Seconds for a control loop to bring its process in. */
const LOOP_S = 120;
/** Where no ramp is told. */
const UNTOLD_S = 120;

/** The first stage is how everything stands before hands begin: at rest, with the supply on. */
export function stagesOf(
  speaker: Speaker,
  steps: readonly Stepped[],
  events: readonly Event[],
): readonly Stage[] {
  const made: Stage[] = [];
  let before: Stepped | undefined;
  events.forEach((event, at) => {
    const stepped = steps[at] as Stepped;
    const settles = events[at + 1]?.kind === 'settle' || at === events.length - 1;
    if (event.kind === 'settle' && made.length > 0) {
      // What settling alone brings about, such as an automatic restart, is a stage of its own.
      if (tells(before) !== tells(stepped))
        made.push(stageOf(speaker, 'Wait', before, stepped, event, settles));
    } else
      made.push(
        stageOf(speaker, deedOf(event, stepped, made.length, speaker), before, stepped, event, settles),
      );
    before = stepped;
  });
  return joined(made);
}

/** What nobody can see happen, such as a key that changes nothing yet, is done together with what comes next. */
function joined(stages: readonly Stage[]): readonly Stage[] {
  const made: Stage[] = [];
  for (const stage of stages) {
    const [last, before] = [made.at(-1), made.at(-2)];
    if (last && before && !isSeen(before, last))
      made.splice(-1, 1, { ...stage, deed: `${last.deed}, then ${lower(stage.deed)}` });
    else made.push(stage);
  }
  return made;
}

/** Whether anything that a register tells changes from one stage to the next. */
export const isSeen = (before: Stage, stage: Stage): boolean =>
  showing(before) !== showing(stage) ||
  (stage.speed !== null && JSON.stringify(before.speed) !== JSON.stringify(stage.speed));

const showing = ({ silent, inputs, runs, faulty }: Stage): string =>
  JSON.stringify([silent, inputs, runs, faulty]);
const lower = (text: string): string =>
  /^[A-Z][a-z]/.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text;

/** What sets two moments of a machine apart for who looks at it. */
export const tells = (at: Stepped | undefined): string =>
  at
    ? JSON.stringify([at.outcome.kind, at.outcome.direction, at.outcome.setPoint?.from, at.state.fault])
    : '';

const deedOf = (event: Event, { state }: Stepped, at: number, speaker: Speaker): string =>
  at === 0 && event.kind === 'supply' && event.on
    ? `Everything at rest, supply on${state.fault === null ? ', no fault' : ''}`
    : sayEvent(event, speaker);

function stageOf(
  speaker: Speaker,
  deed: string,
  before: Stepped | undefined,
  at: Stepped,
  event: Event,
  settles: boolean,
): Stage {
  const { machine } = speaker;
  const { state, outcome } = at;
  const inputs = inputsAt(machine, at);
  // What was there before the supply went is no change that anybody sees.
  const was = before?.state.supply === true ? inputsAt(machine, before) : undefined;
  const runs = outcome.kind === 'runs';
  const stops = !runs && before?.outcome.kind === 'runs' && state.supply ? outcome.stops : null;
  const speed = runs ? speedOf(machine, at, event) : null;
  const ramp = rampOf(machine, before, at);
  return {
    ...{
      deed,
      silent: !state.supply,
      inputs,
      runs,
      faulty: state.fault !== null,
      fault: state.fault,
      settles,
      speed,
      ramp,
      stops,
    },
    brief: isBrief(machine, event) && !settles,
    within: withinOf(machine, before, at),
    see: state.supply
      ? [
          ...movesSaid(machine, was, inputs),
          sayHeadline(outcome, state.fault),
          ...(stops ? [capital(`${stopText(stops)}`)] : detailsOf(outcome, speaker)),
        ]
      : ['Nothing answers any more'],
  };
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const isBrief = ({ wiring }: Machine, event: Event): boolean =>
  event.kind === 'device' &&
  event.to === 1 &&
  wiring.devices.some(
    (device) => device.name === event.name && device.kind === 'contact' && device.momentary,
  );

export function inputsAt(machine: Machine, { state }: Stepped): Readonly<Record<string, boolean>> {
  const closed = machine.conductors.look(state)?.closed ?? new Set<string>();
  return Object.fromEntries(machine.inputs.map(({ number, terminal }) => [number, closed.has(terminal)]));
}

/** `Terminal 11 goes on`. */
function movesSaid(
  machine: Machine,
  was: Readonly<Record<string, boolean>> | undefined,
  now: Readonly<Record<string, boolean>>,
): readonly string[] {
  return machine.inputs.flatMap(({ number, terminal }) => {
    const on = now[number] ?? false;
    if (was ? was[number] === on : !on) return [];
    return [was ? `Terminal ${terminal} goes ${on ? 'on' : 'off'}` : `Terminal ${terminal} is on`];
  });
}

/** Where the speed comes from and what limits it; how it stops is a step of its own. */
const detailsOf = (outcome: Outcome, speaker: Speaker): readonly string[] =>
  outcome.kind === 'runs'
    ? sayDetails(outcome, speaker)
        .slice(0, 1)
        .map((text) => text.replace(/\.$/, ''))
    : [];

function speedOf(machine: Machine, at: Stepped, event: Event): StageSpeed | null {
  const { setPoint } = at.outcome;
  if (setPoint?.from.kind === 'loop') return { kind: 'loop' };
  if (setPoint?.from.kind !== 'analog')
    return setPoint?.hertz === null || setPoint === null ? null : { kind: 'fixed', hertz: setPoint.hertz };
  const { number, lost } = setPoint.from;
  // The speed that was there when the signal went is not known beforehand.
  if (lost === 'hold') return null;
  if (lost !== null) return setPoint.hertz === null ? null : { kind: 'fixed', hertz: setPoint.hertz };
  const analog = machine.analogs.find((each) => each.number === number);
  const sender = analog && machine.conductors.look(at.state)?.signals.get(analog.terminal);
  const [low, high] = SIGNAL_ENDS[analog?.signal ?? ''] ?? [0, 0];
  if (!analog || !sender || sender.device === '' || high === low) return null;
  const shareAt = ({ state }: Stepped): number | undefined => {
    const value = machine.conductors.look(state)?.signals.get(analog.terminal)?.value;
    return value === undefined ? undefined : (value - low) / (high - low);
  };
  const points = SHARES.flatMap((to) => {
    const there = step(machine, at.state, { kind: 'device', name: sender.device, to });
    const share = shareAt(there);
    const hertz = there.outcome.setPoint?.hertz;
    if (share === undefined || typeof hertz !== 'number') return [];
    return [{ share, hertz: there.outcome.direction === at.outcome.direction ? hertz : 0 }];
  });
  const moved = event.kind === 'device' && event.name === sender.device;
  return { kind: 'signal', input: number, points, at: moved ? (shareAt(at) ?? null) : null };
}

/** A change from rest to a fixed speed, and one by a ramp down to rest. */
function rampOf(machine: Machine, before: Stepped | undefined, at: Stepped): StageRamp | null {
  const starts = at.outcome.kind === 'runs' && before !== undefined && before.outcome.kind !== 'runs';
  const stops =
    before?.outcome.kind === 'runs' && at.outcome.kind !== 'runs' && at.outcome.stops?.startsWith('ramp');
  const ramps = (starts ? at : before)?.outcome.ramps;
  if ((!starts && stops !== true) || !ramps || at.outcome.setPoint?.from.kind === 'loop') return null;
  const setting = rampSettingOf(machine.set, ramps);
  const way = starts ? 'up' : 'down';
  return setting && setting[way] !== null ? { way, setting } : null;
}

function withinOf(machine: Machine, before: Stepped | undefined, { outcome }: Stepped): number {
  if (outcome.setPoint?.from.kind === 'loop') return LOOP_S;
  const ramps = outcome.ramps ?? before?.outcome.ramps ?? 'first';
  const setting = rampSettingOf(machine.set, ramps);
  if (!setting) return UNTOLD_S;
  const most = Math.max(...[before, { outcome }].map((at) => at?.outcome.setPoint?.hertz ?? 0));
  const share = Math.max(1, most / setting.top);
  const ramp = share * Math.max(setting.up ?? 0, setting.down ?? 0) + setting.roundUp + setting.roundDown;
  return Math.ceil(HANDS_S + STRETCHED * ramp);
}

/** Settings on which the last of it rests, in the order of the reasons. */
export const codesOf = ({ outcome }: Stepped): readonly Code[] => [
  ...new Set([...outcome.reasons.flatMap(codesOfReason), ...(outcome.setPoint?.codes ?? [])]),
];
