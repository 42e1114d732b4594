// What a walk does at each pair of states, and what it costs: the cheapest way to a difference is the one that is told.

import { showEnd, type FieldDevice, type Wiring } from '../wiring/index.ts';
import { meaningOf } from '../values/index.ts';
import { conesOf, questionsOf, type Cone } from './cones.ts';
import type { Machine } from './machine.ts';
import type { Event } from './state.ts';
import { positionsIn } from './stands.ts';

/** Events that count as one action; what each of them leads to is compared. */
export interface Deed {
  readonly events: readonly Event[];
  readonly cost: number;
}

/** Devices of both, as the first has them, whose contacts or signals at least one of them looks at. */
export function devicesWalked(a: Machine, b: Machine): readonly FieldDevice[] {
  const cones = [coneOf(a), coneOf(b)];
  return a.wiring.devices.filter(
    ({ name }) => b.wiring.devices.some((each) => each.name === name) && cones.some((cone) => cone.has(name)),
  );
}

/** Devices that an answer depends on of which a turn may ask; all of them where answers have no cones. */
function coneOf(machine: Machine): ReadonlySet<string> {
  const devices = machine.wiring.devices.filter(({ kind }) => kind !== 'supply').map(({ name }) => name);
  const cones = conesOf(machine);
  if (!cones) return new Set(devices);
  const looked = questionsOf(machine).flatMap(([of, terminal], at) => {
    const input = machine.inputs.find((each) => each.terminal === terminal);
    const analog = machine.analogs.find((each) => each.terminal === terminal);
    const idle =
      of === 'closed'
        ? input?.does === 'none'
        : of === 'signals' && !usesSignal(machine, analog?.number ?? '');
    return idle ? [] : [cones[at] as Cone];
  });
  return new Set(devices.filter((name) => looked.some((cone) => cone.has(`device ${name}`))));
}

/** Whether anything asks for the signal at an analog input. */
function usesSignal({ set, rules, byFunction }: Machine, number: string): boolean {
  const choice = (name: string) => set.choice(meaningOf(name));
  // The second source counts where something can choose it.
  const second =
    byFunction.has('place.second') || byFunction.has('loop.off') || rules.answer('hand.source') === 'second';
  const loop = (choice('loop.mode') ?? 'off') !== 'off';
  const sources = [
    ...['speed.source', 'trim.source'],
    ...(second ? ['speed.source2'] : []),
    ...(loop ? ['loop.feedback'] : []),
  ];
  // A servo axis without a choice of sources takes its speed from the first.
  const axis = choice('speed.source') === undefined || choice('analog.1.use') === 'speed';
  const names = [`source.analog.${number}`, `analog-${number}`];
  return (number === '1' && axis) || sources.some((source) => names.includes(choice(source) ?? ''));
}

/** A contact, a place, a value, a key or a wait costs 1, the supply or a safety channel 3, a broken wire 4, a fault 5. */
export function deedsOf(a: Machine, b: Machine, keys: boolean): readonly Deed[] {
  const deed = (cost: number, ...events: Event[]): Deed => ({ events, cost });
  const breaks = conductorsOfBoth(a, b);
  return [
    deed(1, { kind: 'supply', on: true }),
    ...devicesWalked(a, b).flatMap((device) =>
      positionsIn(device).flatMap((to, _, { length }) =>
        length > 1 ? [deed(1, { kind: 'device', name: device.name, to })] : [],
      ),
    ),
    deed(1, { kind: 'settle' }),
    ...(keys
      ? (['run', 'stop', 'reset', 'hand', 'automatic'] as const).map((key) => deed(1, { kind: 'key', key }))
      : [deed(1, { kind: 'key', key: 'reset' })]),
    deed(3, { kind: 'supply', on: false }, { kind: 'supply', on: true }),
    ...breaks.map(({ what, safe }) => deed(safe ? 3 : 4, { kind: 'break', what }, { kind: 'mend', what })),
    deed(5, { kind: 'fault', of: 'overcurrent' }),
    deed(5, { kind: 'fault', of: 'earth' }),
  ];
}

interface Breakable {
  /** As events name it. */
  readonly what: string;
  /** It closes a safety channel. */
  readonly safe: boolean;
}

/**
 * Links and wires that are one thing for both. A wire that is the only one at its end of a device with a single contact is
 * left out: broken, it is that contact open.
 */
function conductorsOfBoth(a: Machine, b: Machine): readonly Breakable[] {
  const walked = new Set(devicesWalked(a, b).map(({ name }) => name));
  const isSafe = ({ safeInputs }: Machine, ends: readonly string[]) =>
    ends.some((end) => safeInputs.includes(end));
  const links = a.wiring.links.flatMap(({ between }, at) => {
    const same = b.wiring.links[at]?.between;
    if (!same) return [];
    const safe = isSafe(a, between) && isSafe(b, same);
    // Of other links it is known to be the same one where both ends are.
    return safe || same.join() === between.join() ? [{ what: `link ${at}`, safe }] : [];
  });
  const [one, other] = [a, b].map(({ wiring }) => wiresByEnd(wiring)) as [WiresByEnd, WiresByEnd];
  const oneWiring = JSON.stringify(a.wiring.wires) === JSON.stringify(b.wiring.wires);
  const wires = [...one].flatMap(([end, at]): string[] => {
    const device = a.wiring.devices.find(({ name }) => end.startsWith(`${name}:`) && walked.has(name));
    const alone = at.length === 1 && (other.get(end)?.length ?? 0) <= 1;
    if (!device || !other.has(end) || (alone && isSingle(device))) return [];
    return oneWiring ? at.map((each) => `wire ${each}`) : [`at ${end}`];
  });
  const cones = [a, b].map(conesOf);
  // What no answer depends on can be broken without anybody noticing.
  const counts = ({ what }: Breakable) =>
    cones.some((questions) => questions?.some((cone) => cone.has(what)) ?? true);
  return [...links, ...[...new Set(wires)].map((what) => ({ what, safe: false }))].filter(counts);
}

type WiresByEnd = ReadonlyMap<string, readonly number[]>;

/** Rows of the wires at each connection of a device, such as `S1:13`. */
function wiresByEnd({ wires }: Wiring): WiresByEnd {
  const found = new Map<string, number[]>();
  for (const [at, { from, to }] of wires.entries())
    for (const end of [from, to])
      if (end.kind === 'device') found.set(showEnd(end), [...(found.get(showEnd(end)) ?? []), at]);
  return found;
}

const isSingle = (device: FieldDevice): boolean => device.kind === 'contact' && device.contacts.length === 1;
