// Whether two drives do the same with the same devices: a walk over the pairs of states that events can reach, the cheapest way
// first. Where their outcomes differ the walk does not go on, and the way there is the shortest that shows it. It is a proof
// for what was looked at, and it says what was not.

import type { FieldDevice } from '../wiring/index.ts';
import { ASPECTS, Comparison, tellingOf, type Aspect } from './aspects.ts';
import { bareOf, Compiled, type Action, type Bare, type CompiledStep } from './compiled.ts';
import { cornersOf } from './corners.ts';
import type { Machine } from './machine.ts';
import type { Event } from './state.ts';
import { Stands } from './stands.ts';
import { begin, step, type Stepped } from './step.ts';
import { deedsOf, devicesWalked } from './walk-events.ts';

export type { Aspect } from './aspects.ts';

export interface WalkOptions {
  /** Pairs of states that are looked at before it gives up. */
  readonly mostPairs: number;
  /** Differences that are told, each of another kind. */
  readonly mostDifferences: number;
  /** The first difference ends it. */
  readonly onlyFirst?: boolean;
  /** Keys of the keypad take part: between two sets of one model. */
  readonly keys: boolean;
  /** Told now and then how many pairs were looked at. */
  readonly onProgress?: (pairs: number) => void;
}

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

/** Pairs between two reports. */
const REPORTED = 20_000;

export const sameBehaviour = (a: Machine, b: Machine, options: WalkOptions): Sameness =>
  new Walk(a, b, options).take();

/** A pair of states, and how it was come to. */
interface Node {
  readonly a: number;
  readonly b: number;
  readonly stand: number;
  readonly before: Node | null;
  readonly events: readonly Event[];
}

/** `key`: one of a kind has the same. */
interface Differs {
  readonly aspect: Aspect;
  readonly key: string;
}

interface Found {
  readonly aspect: Aspect;
  readonly node: Node;
  readonly events: readonly Event[];
  count: number;
}

interface ReadyAction {
  readonly a: Action;
  readonly b: Action;
}

/** A deed made ready for both. */
interface ReadyDeed {
  readonly events: readonly Event[];
  readonly actions: readonly ReadyAction[];
  readonly cost: number;
}

class Walk {
  private readonly options: WalkOptions;
  private readonly machines: { readonly a: Machine; readonly b: Machine };
  private readonly stands: Stands;
  private readonly a: Compiled;
  private readonly b: Compiled;
  private readonly comparison: Comparison;
  private readonly deeds: readonly ReadyDeed[];
  /** Contacts that can change places without anything changing: the first is worked before the second. */
  private readonly twins: readonly (readonly [number, number])[];
  private readonly signals: readonly (readonly [FieldDevice, readonly number[]])[];
  /** By cost: the cheapest way to a difference is found first. */
  private readonly queues: Node[][] = [];
  private readonly seen = new Seen();
  private readonly found = new Map<string, Found>();
  /** By both outcomes and whether the shaft turns. */
  private readonly aspects: (Differs | null | undefined)[][] = [];
  /** Kinds of analog speeds that were looked at in all corners. */
  private readonly cornered = new Set<string>();
  /** Pairs of outcomes whose kinds of speed were looked at. */
  private readonly corneredOutcomes: true[][] = [];
  private pairs = 0;
  private untold = 0;

  constructor(a: Machine, b: Machine, options: WalkOptions) {
    this.options = options;
    this.machines = { a, b };
    const devices = devicesWalked(a, b);
    this.stands = new Stands(devices);
    this.a = new Compiled(a, this.stands);
    this.b = new Compiled(b, this.stands);
    this.comparison = new Comparison(a, b);
    this.deeds = deedsOf(a, b, options.keys).map(({ events, cost }) => ({
      ...{ events, cost },
      actions: events.map((event) => ({ a: this.a.action(event), b: this.b.action(event) })),
    }));
    const broken = this.deeds.flatMap(({ events }) =>
      events.flatMap((event) => (event.kind === 'break' ? [event.what] : [])),
    );
    this.twins = devices.flatMap((device, other): (readonly [number, number])[] => {
      const isTwin = (one: number) =>
        devices[one]?.kind === 'contact' &&
        [this.a, this.b].every((side) => side.areTwins(one, other, broken));
      const one = device.kind === 'contact' ? devices.findLastIndex((_, at) => at < other && isTwin(at)) : -1;
      return one === -1 ? [] : [[one, other]];
    });
    this.signals = devices.flatMap((device) =>
      device.kind === 'transmitter' || device.kind === 'potentiometer'
        ? [[device, cornersOf(device, [a, b])] as const]
        : [],
    );
  }

  take(): Sameness {
    const { mostPairs, onlyFirst } = this.options;
    const [a, b] = [this.a.begin(), this.b.begin()];
    this.put(0, { a: a.drive, b: b.drive, stand: 0, before: null, events: [] });
    for (let cost = 0; cost < this.queues.length; cost += 1) {
      for (const node of this.queues[cost] ?? []) {
        if (!this.seen.add(node)) continue;
        if (this.pairs >= mostPairs) return this.end(true);
        this.pairs += 1;
        if (this.pairs % REPORTED === 0) this.options.onProgress?.(this.pairs);
        for (const deed of this.deeds) this.look(node, deed, cost);
        if (onlyFirst === true && this.found.size > 0) return this.end(false);
      }
      this.queues[cost] = [];
    }
    return this.end(false);
  }

  private put(cost: number, node: Node): void {
    if (!this.seen.has(node)) (this.queues[cost] ??= []).push(node);
  }

  private look(node: Node, { events, actions, cost }: ReadyDeed, spent: number): void {
    // Millions of times: nothing is made here that is not needed.
    const first = actions[0] as ReadyAction;
    if (actions.length === 1 && this.leadsNowhere(first.a, node)) return;
    let a = this.a.step({ drive: node.a, stand: node.stand }, first.a);
    let b = this.b.step({ drive: node.b, stand: node.stand }, first.b);
    let differs = this.compare(a, b);
    let done = 1;
    for (; !differs && done < actions.length; done += 1) {
      const action = actions[done] as ReadyAction;
      a = this.a.step(a, action.a);
      b = this.b.step(b, action.b);
      differs = this.compare(a, b);
    }
    if (differs) {
      this.note(differs, node, events.slice(0, done));
      return;
    }
    // What cannot be told of either is neither the same nor a difference, and leads no further.
    const outcome = this.a.outcomeOf(a);
    if (outcome.kind === 'untold') {
      this.untold += 1;
      return;
    }
    const next = { a: a.drive, b: b.drive, stand: a.stand, before: node, events };
    const cornered = (this.corneredOutcomes[a.outcome] ??= []);
    if (cornered[b.outcome] !== true) {
      cornered[b.outcome] = true;
      this.lookAtCorners(next, outcome, this.b.outcomeOf(b));
    }
    this.put(spent + cost, next);
  }

  /** A device that is put where it stands, or whose twin does the same; a supply that is there. */
  private leadsNowhere({ event, moves }: Action, { a: drive, stand }: Node): boolean {
    if (!moves) return event.kind === 'supply' && event.on === this.a.driveOf({ drive, stand }).supply;
    if (this.stands.placeIn(stand, moves.index) === moves.place) return true;
    if (this.twins.length === 0) return false;
    const next = this.stands.moved(stand, moves.index, moves.place);
    for (const [one, other] of this.twins)
      if (this.stands.placeIn(next, one) < this.stands.placeIn(next, other)) return true;
    return false;
  }

  private compare(a: CompiledStep, b: CompiledStep): Differs | null {
    const turns = this.a.turns(a);
    const known = (this.aspects[a.outcome] ??= []);
    const at = b.outcome * 2 + Number(turns);
    let found = known[at];
    if (found === undefined)
      known[at] = found = this.comparing(this.a.outcomeOf(a), this.b.outcomeOf(b), turns);
    return found;
  }

  private comparing(a: Bare, b: Bare, turns: boolean): Differs | null {
    const aspect = this.comparison.aspectOf(a, b, turns);
    if (!aspect) return null;
    return { aspect, key: JSON.stringify([aspect, tellingOf(aspect, a), tellingOf(aspect, b)]) };
  }

  private note({ aspect, key }: Differs, node: Node, events: readonly Event[]): void {
    const known = this.found.get(key);
    if (known) known.count += 1;
    else this.found.set(key, { aspect, node, events, count: 1 });
  }

  /** A speed by a signal is looked at once in all corners of both curves, where the walk meets it first. */
  private lookAtCorners(node: Node, { setPoint: a }: Bare, { setPoint: b }: Bare): void {
    if (a?.from.kind !== 'analog' && b?.from.kind !== 'analog') return;
    const kind = JSON.stringify([a?.from, b?.from]);
    if (this.cornered.has(kind)) return;
    this.cornered.add(kind);
    const at = { a: { drive: node.a, stand: node.stand }, b: { drive: node.b, stand: node.stand } };
    const [left, right] = [this.a.stateOf(at.a), this.b.stateOf(at.b)];
    for (const [{ name }, shares] of this.signals)
      for (const to of shares) {
        const event: Event = { kind: 'device', name, to };
        const [one, other] = [step(this.machines.a, left, event), step(this.machines.b, right, event)];
        const differs = this.comparing(
          bareOf(one.outcome),
          bareOf(other.outcome),
          one.state.motion !== 'rest',
        );
        if (differs) this.note(differs, node, [event]);
      }
  }

  private end(unfinished: boolean): Sameness {
    const { found, pairs, untold } = this;
    const told = [...found.values()]
      .map((each) => ({ ...each, events: [...wayTo(each.node), ...each.events] }))
      .sort(
        (x, y) => ASPECTS.indexOf(x.aspect) - ASPECTS.indexOf(y.aspect) || x.events.length - y.events.length,
      )
      .slice(0, this.options.mostDifferences);
    return {
      same: found.size === 0 && untold === 0 && !unfinished,
      ...{ pairs, events: this.deeds.length, unfinished, untold },
      differences: told.map(({ aspect, events, count }) => {
        const [a, b] = [replay(this.machines.a, events), replay(this.machines.b, events)];
        return { aspect, events, a, b, count };
      }),
    };
  }
}

function wayTo(node: Node): readonly Event[] {
  const parts: (readonly Event[])[] = [];
  for (let at: Node | null = node; at; at = at.before) parts.push(at.events);
  return parts.reverse().flat();
}

function replay(machine: Machine, events: readonly Event[]): Stepped {
  let stepped = begin(machine);
  for (const event of events) stepped = step(machine, stepped.state, event);
  return stepped;
}

/** Pairs that were looked at: bits by stand, in pieces that are made when they are needed. */
class Seen {
  private readonly pieces = new Map<number, (Uint32Array | undefined)[]>();

  has({ a, b, stand }: Node): boolean {
    const piece = this.pieces.get(a * MOST_DRIVES + b)?.[Math.floor(stand / PIECE)];
    const bit = stand % PIECE;
    return piece !== undefined && ((piece[bit >>> 5] as number) & (1 << (bit & 31))) !== 0;
  }

  /** Whether it is new. */
  add(node: Node): boolean {
    if (this.has(node)) return false;
    const { a, b, stand } = node;
    const key = a * MOST_DRIVES + b;
    const pieces = this.pieces.get(key) ?? [];
    this.pieces.set(key, pieces);
    const piece = (pieces[Math.floor(stand / PIECE)] ??= new Uint32Array(PIECE / 32));
    const bit = stand % PIECE;
    piece[bit >>> 5] = (piece[bit >>> 5] as number) | (1 << (bit & 31));
    return true;
  }
}
const PIECE = 4096;
const MOST_DRIVES = 2 ** 24;

/** In which order two outcomes are compared, by what they tell: what comes later may still differ when one is mended. */
const COMPARED: Readonly<Record<Aspect, number>> = {
  // All four say that another thing happens: one in the place of another mends nothing.
  ...{ untold: 0, starts: 0, 'does-not-start': 0, state: 0 },
  ...{ direction: 1, speed: 2, stops: 3, ramps: 4, outputs: 5 },
};

/** Whether `mended` shows the difference no more, and does as `a` wherever `b` did so on the way there. */
export function isMended({ events, aspect }: Difference, a: Machine, b: Machine, mended: Machine): boolean {
  const [asB, asMended] = [new Comparison(a, b), new Comparison(a, mended)];
  const between = (comparison: Comparison, one: Stepped, other: Stepped) =>
    comparison.aspectOf(bareOf(one.outcome), bareOf(other.outcome), one.state.motion !== 'rest');
  let [first, other, fresh] = [begin(a), begin(b), begin(mended)];
  return events.every((event, at) => {
    first = step(a, first.state, event);
    other = step(b, other.state, event);
    fresh = step(mended, fresh.state, event);
    const still = between(asMended, first, fresh);
    if (still === undefined) return true;
    if (at === events.length - 1) return COMPARED[still] > COMPARED[aspect];
    return between(asB, first, other) !== undefined;
  });
}
