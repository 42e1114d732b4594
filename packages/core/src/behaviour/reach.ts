// Everything that one drive can be brought to do by its contacts, signals, supply and keys: a walk over its states, the cheapest
// way first, that keeps the first way to each outcome that tells itself apart from those before. What hands cannot bring about
// at a machine (a fault of its power part, a conductor cut) is left out, but for the wire of a signal that is watched.

import { meaningOf } from '../values/index.ts';
import { Compiled, type At, type Bare, type CompiledStep } from './compiled.ts';
import type { Machine } from './machine.ts';
import { Stands } from './stands.ts';
import type { Event, State } from './state.ts';
import { begin, step, type Stepped } from './step.ts';
import { deedsOf, devicesWalked, type Deed } from './walk-events.ts';

export interface ReachLimits {
  /** Steps that are taken before it gives up. */
  readonly mostSteps: number;
  readonly mostOutcomes: number;
}

export interface Reached {
  readonly events: readonly Event[];
  /** After each event. */
  readonly steps: readonly Stepped[];
}

export interface Reach {
  readonly reached: readonly Reached[];
  readonly states: number;
  /** It gave up with states that were not looked at. */
  readonly unfinished: boolean;
  /** Ways that end where it cannot be told what the drive does. */
  readonly untold: number;
}

interface Node {
  readonly at: At;
  readonly before: Node | null;
  readonly events: readonly Event[];
}

const ON: Event = { kind: 'supply', on: true };

/** Where the circuit has to be looked at as a whole, so many times fewer steps are taken. */
const SLOW = 20;

export function reachOf(machine: Machine, { mostSteps, mostOutcomes }: ReachLimits): Reach {
  const stands = new Stands(devicesWalked(machine, machine));
  const compiled = new Compiled(machine, stands);
  let left = compiled.isQuick ? mostSteps : mostSteps / SLOW;
  const deeds = handsOf(machine).map(({ events, cost }) => ({
    ...{ events, cost },
    actions: events.map((event) => compiled.action(event)),
  }));
  const seen = new Set<string>();
  const found = new Map<string, readonly Event[]>();
  let untold = 0;
  /** False where it cannot be told what the drive does there: such a way leads no further. */
  const note = (at: CompiledStep, way: () => readonly Event[]): boolean => {
    const outcome = compiled.outcomeOf(at);
    if (outcome.kind === 'untold' || outcome.kind === 'oscillates') {
      untold += 1;
      return false;
    }
    const told = tellingOf(outcome, compiled.driveOf(at), compiled.turns(at));
    if (told !== undefined && !found.has(told) && found.size < mostOutcomes) found.set(told, way());
    return true;
  };
  // Hands begin at a machine that stands there with its supply on.
  const first = compiled.step(compiled.begin(), compiled.action(ON));
  const queues: Node[][] = note(first, () => [ON]) ? [[{ at: first, before: null, events: [ON] }]] : [];
  const end = (unfinished: boolean): Reach => ({
    reached: [...found.values()].map((events) => ({ events, steps: replayed(machine, events) })),
    ...{ states: seen.size, unfinished, untold },
  });
  for (let cost = 0; cost < queues.length; cost += 1) {
    for (const node of queues[cost] ?? []) {
      const key = `${node.at.drive} ${node.at.stand}`;
      if (seen.has(key)) continue;
      if (left <= 0) return end(true);
      left -= deeds.length;
      seen.add(key);
      for (const { events, actions, cost: own } of deeds) {
        let at: At = node.at;
        let told = true;
        for (const [done, action] of actions.entries()) {
          if (!told) break;
          const next = compiled.step(at, action);
          told = note(next, () => [...wayTo(node), ...events.slice(0, done + 1)]);
          at = next;
        }
        if (told && !seen.has(`${at.drive} ${at.stand}`))
          (queues[cost + own] ??= []).push({ at, before: node, events });
      }
    }
    queues[cost] = [];
  }
  return end(false);
}

/** What sets an outcome apart; nothing for one that nobody would go and look at. */
function tellingOf(outcome: Bare, { fault, settled }: State, turns: boolean): string | undefined {
  const { kind, direction, setPoint, ramps, stops, needs } = outcome;
  if (kind === 'no-supply') return undefined;
  if (kind !== 'runs')
    return JSON.stringify([
      kind,
      fault,
      turns && !settled ? stops : needs.filter((need) => need !== 'start'),
    ]);
  const from = setPoint?.from;
  // A signal has speeds without number: its ends and its middle are looked at one way round, once it turns the other way, and
  // once what is held when it is lost.
  const isOnce = from?.kind === 'analog' && (direction === 'reverse' || from.lost === 'hold');
  const hertz = isOnce ? null : (setPoint?.hertz ?? null);
  if (from?.kind === 'analog' && direction === 'reverse' && (setPoint?.hertz ?? 0) <= 0) return undefined;
  return JSON.stringify([kind, direction, from, hertz, ramps]);
}

function wayTo(node: Node): readonly Event[] {
  const parts: (readonly Event[])[] = [];
  for (let at: Node | null = node; at; at = at.before) parts.push(at.events);
  return parts.reverse().flat();
}

export function replayed(machine: Machine, events: readonly Event[]): readonly Stepped[] {
  let stepped = begin(machine);
  return events.map((event) => (stepped = step(machine, stepped.state, event)));
}

/** What hands can do at the machine and at the keypad. */
export function handsOf(machine: Machine): readonly Deed[] {
  const keys =
    machine.rules.answer('hand.source') !== undefined ||
    (machine.set.choice(meaningOf('command.source'))?.includes('keypad') ?? false);
  const signals = machine.wiring.devices.flatMap(({ kind, name }) => (kind === 'transmitter' ? [name] : []));
  const isSignal = (what: string): boolean => {
    const ends = what.startsWith('wire ')
      ? (({ from, to }) => [from, to])(machine.wiring.wires[Number(what.slice(5))] ?? NO_WIRE)
      : [];
    return (
      machine.analogs.some(({ loss }) => loss !== 'ignore') &&
      ends.some((end) => end.kind === 'device' && signals.includes(end.device))
    );
  };
  return deedsOf(machine, machine, keys).filter(({ events: [first] }) =>
    first?.kind === 'fault' ? false : first?.kind === 'break' ? isSignal(first.what) : true,
  );
}
const NOWHERE = { kind: 'terminal', terminal: '' } as const;
const NO_WIRE = { from: NOWHERE, to: NOWHERE };

/** Deeds that bring a machine from a state to one that is wanted, the fewest; nothing where `most` of them do not. */
export function wayFrom(
  machine: Machine,
  from: Stepped,
  deeds: readonly (readonly Event[])[],
  wanted: (at: Stepped) => boolean,
  most: number,
): readonly Event[] | undefined {
  let ways: readonly { readonly events: readonly Event[]; readonly at: Stepped }[] = [
    { events: [], at: from },
  ];
  for (let many = 0; many <= most; many += 1) {
    const found = ways.find(({ at }) => wanted(at));
    if (found) return found.events;
    ways = ways.flatMap(({ events, at }) =>
      deeds.map((deed) => ({
        events: [...events, ...deed],
        at: deed.reduce((now, event) => step(machine, now.state, event), at),
      })),
    );
  }
  return undefined;
}
