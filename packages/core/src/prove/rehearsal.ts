// A step of a proof run rehearsed: what a line would read, ten times a second, while somebody goes through it at a drive that does
// what its engine says. The judge is held against it, and the demo plant shows one.

import { replayed, SIGNAL_ENDS, type Event, type Machine, type Stepped } from '../behaviour/index.ts';
import { predictedCourse, type RampSetting } from '../signals/index.ts';
import type { Observed } from './judge.ts';
import type { ProofStep } from './proof-step.ts';
import { rampSettingOf } from './ramp-setting.ts';
import { VALUES_STEP } from './steps.ts';

const READ_MS = 100;
/** A hand stays so long at what it has done. */
const STAYS_MS = 2500;

/** The deeds of a step, by its name. */
export const deedsOfStep = ({ id }: ProofStep): readonly Event[] => [
  { kind: 'supply', on: true },
  ...[
    ...(id === VALUES_STEP ? 'supply=0 supply=1' : id).matchAll(/(\w[^ =]*)=(wire \d+|at \S+|\S+)|wait/g),
  ].map(([all, what = '', to = '']): Event => {
    if (all === 'wait') return { kind: 'settle' };
    if (what === 'supply') return { kind: 'supply', on: to === '1' };
    if (what === 'key') return { kind: 'key', key: to as (Event & { kind: 'key' })['key'] };
    if (what === 'break' || what === 'mend') return { kind: what, what: to };
    return { kind: 'device', name: what, to: Number(to) };
  }),
];

export type Rehearsed = Observed | { readonly at: number; readonly silent: true };

/** `silent` where its supply is away. */
export function rehearsal(
  machine: Machine,
  step: ProofStep,
  /** Other ramps than those of its set. */
  own?: RampSetting,
): readonly Rehearsed[] {
  const events = deedsOfStep(step);
  const steps = replayed(machine, events);
  const told: Rehearsed[] = [];
  let hertz = 0;
  let at = 0;
  steps.forEach((stepped, index) => {
    const { outcome, state } = stepped;
    const ramps =
      own ?? rampSettingOf(machine.set, outcome.ramps ?? steps[index - 1]?.outcome.ramps ?? 'first');
    const target = outcome.kind === 'runs' ? (outcome.setPoint?.hertz ?? hertz) : 0;
    const coasts = outcome.stops === 'coast' || outcome.stops === 'torque-off';
    const way = ramps ? (Math.max(hertz, target) / ramps.top) * Math.max(ramps.up ?? 0, ramps.down ?? 0) : 0;
    const long = STAYS_MS + 1000 * way;
    const until = at + (isBrief(machine, events[index], state) ? 500 : long);
    const times = Array.from({ length: Math.ceil((until - at) / READ_MS) }, (_, each) => at + each * READ_MS);
    const course =
      ramps && !(outcome.kind !== 'runs' && coasts)
        ? predictedCourse(
            times.map((time) => ({ at: time / 1000, value: target })),
            hertz,
            ramps,
          ).map(({ value }) => value)
        : times.map(() => target);
    times.forEach((time, each) => {
      const now = course[each] ?? target;
      told.push(state.supply ? observed(machine, stepped, time, now) : { at: time, silent: true });
    });
    hertz = state.supply ? (course.at(-1) ?? hertz) : 0;
    at = until;
  });
  return told;
}

const isBrief = ({ wiring }: Machine, event: Event | undefined, state: Stepped['state']): boolean =>
  state.supply &&
  event?.kind === 'device' &&
  event.to === 1 &&
  wiring.devices.some((each) => each.name === event.name && each.kind === 'contact' && each.momentary);

function observed(machine: Machine, { state, outcome }: Stepped, at: number, hertz: number): Observed {
  const circuit = machine.conductors.look(state);
  return {
    ...{ at, hertz, loop: null },
    inputs: Object.fromEntries(
      machine.inputs.map(({ number, terminal }) => [number, circuit?.closed.has(terminal) ?? false]),
    ),
    analogs: Object.fromEntries(
      machine.analogs.flatMap(({ number, terminal, signal = '' }): [string, number][] => {
        const value = circuit?.signals.get(terminal)?.value;
        const [low, high] = SIGNAL_ENDS[signal] ?? [0, 1];
        return value === undefined ? [] : [[number, (value - low) / (high - low)]];
      }),
    ),
    runs: outcome.kind === 'runs' || (hertz > 0.5 && outcome.stops !== 'coast'),
    faulty: state.fault !== null,
    fault: state.fault,
  };
}
