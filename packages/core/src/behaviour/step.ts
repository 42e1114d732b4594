// One event and what the drive makes of it. Pure: the same machine, state and event give the same answer. Contacts that the
// drive itself switches are settled by going round until nothing changes.
//
// What it does not promise: times, stretched ramps, dynamics of a loop, and what a network or a user program asks for.

import type { DeviceFacts } from '../wiring/index.ts';
import type { Circuit } from './circuit.ts';
import type { Machine } from './machine.ts';
import type { Outcome } from './outcome.ts';
import { AT_REST, type Event, type State } from './state.ts';
import { Turn } from './turn.ts';

/** Rounds after which contacts that switch each other count as never coming to rest. */
export const MOST_ROUNDS = 8;
/** Between the places of a selector that breaks before it makes. */
export const BETWEEN = -1;

export interface Stepped {
  readonly state: State;
  readonly outcome: Outcome;
}

/** What holds before anything has happened: the supply is off. */
export const begin = (machine: Machine, devices: State['devices'] = {}): Stepped =>
  settle(machine, { ...AT_REST, devices }, undefined);

export function step(machine: Machine, state: State, event: Event): Stepped {
  if (event.kind === 'device') {
    const device = machine.wiring.devices.find(({ name }) => name === event.name);
    if (device && passesGap(device, state.devices[event.name] ?? 0, event.to)) {
      const between = settle(machine, withDevice(state, event.name, BETWEEN), event);
      return settle(machine, withDevice(between.state, event.name, event.to), event);
    }
  }
  // A supply that is there already does not come.
  const nothing = event.kind === 'supply' && event.on === state.supply;
  return settle(machine, applied(state, event), nothing ? undefined : event);
}

export const passesGap = (device: DeviceFacts, from: number, to: number): boolean =>
  device.kind === 'selector' && device.between === 'open' && from !== to;

const withDevice = (state: State, name: string, to: number): State => {
  const others = Object.entries(state.devices).filter(([each]) => each !== name);
  return { ...state, devices: Object.fromEntries(to === 0 ? others : [...others, [name, to]]) };
};

/** What the event changes outside the drive. */
export function applied(state: State, event: Event): State {
  switch (event.kind) {
    case 'device':
      return withDevice(state, event.name, event.to);
    case 'break':
      return { ...state, broken: [...new Set([...state.broken, event.what])].sort() };
    case 'mend':
      return { ...state, broken: state.broken.filter((each) => each !== event.what) };
    case 'supply':
      return { ...state, supply: event.on };
    default:
      return state;
  }
}

/** What the drive does by a circuit that is told instead of looked up, such as by the inputs that a unit shows. */
export const outcomeBy = (machine: Machine, state: State, circuit: Circuit): Outcome =>
  new Turn(machine, state, circuit, undefined).take().outcome;

function settle(machine: Machine, from: State, event: Event | undefined): Stepped {
  let state = from;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const circuit = machine.conductors.look(state);
    if (!circuit) break;
    const turn = new Turn(
      machine,
      { ...state, pulled: circuit.pulled },
      circuit,
      round === 0 ? event : undefined,
    );
    const stepped = turn.take();
    const same = stepped.state.outputs.join() === state.outputs.join();
    state = stepped.state;
    if (same) return stepped;
  }
  return { state, outcome: OSCILLATES };
}

export const OSCILLATES: Outcome = {
  ...{ kind: 'oscillates', direction: null, setPoint: null, ramps: null, stops: null, outputs: {} },
  ...{ needs: [], reasons: [], ignored: [], missing: [] },
};
