// A sequence of events, and what each place of the devices does: what the dry run shows.

import type { FieldDevice } from '../wiring/index.ts';
import type { Machine } from './machine.ts';
import type { Event, State } from './state.ts';
import { begin, step, type Stepped } from './step.ts';

/** The state before anything, then the one after each event. */
export function trace(machine: Machine, events: readonly Event[]): readonly Stepped[] {
  const steps = [begin(machine)];
  for (const event of events) steps.push(step(machine, (steps.at(-1) as Stepped).state, event));
  return steps;
}

/** Devices that stay as somebody has put them, with the positions that they can take. */
export function standingDevices({
  wiring,
}: Machine): readonly { readonly device: FieldDevice; readonly places: number }[] {
  return wiring.devices.flatMap((device): readonly { device: FieldDevice; places: number }[] => {
    if (device.kind === 'selector') return [{ device, places: device.places.length }];
    const two = (device.kind === 'contact' && !device.momentary) || device.kind === 'controller';
    return two ? [{ device, places: 2 }] : [];
  });
}

export interface Combination {
  /** By name, in the order of the devices. */
  readonly devices: State['devices'];
  readonly stepped: Stepped;
}

/** More rows than this nobody reads; devices beyond it are left as they stand. */
export const MOST_COMBINATIONS = 64;

/**
 * What every combination of the standing devices does, each brought about one after the other from how the machine stands
 * now, and settled. A drive that remembers its way answers for that way.
 */
export function combinations(machine: Machine, from: State): readonly Combination[] {
  const devices = standingDevices(machine);
  const taken: (typeof devices)[number][] = [];
  for (const each of devices)
    if (taken.reduce((product, { places }) => product * places, each.places) <= MOST_COMBINATIONS)
      taken.push(each);
  const rows = taken.reduce<readonly State['devices'][]>(
    (made, { device, places }) =>
      made.flatMap((row) => Array.from({ length: places }, (_, to) => ({ ...row, [device.name]: to }))),
    [{}],
  );
  return rows.map((row) => {
    let stepped: Stepped = { state: from, outcome: begin(machine).outcome };
    for (const [name, to] of Object.entries(row))
      stepped = step(machine, stepped.state, { kind: 'device', name, to });
    return { devices: row, stepped: step(machine, stepped.state, { kind: 'settle' }) };
  });
}
