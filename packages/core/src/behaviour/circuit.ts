// Which inputs have voltage, and which signals arrive: wires, links and contacts as they stand now. Conductors are joined into
// nets; a net is at plus, at zero, at both or at none. Ends are numbered once, and how the same contacts stood before is
// remembered: a walk asks for it again and again.

import { terminalsOf, type TerminalChart } from '../dictionary/index.ts';
import { contactsOf, endsOf, showEnd, type FieldDevice, type Wiring } from '../wiring/index.ts';
import type { AnalogInput, DigitalInput, DriveOutput } from './machine.ts';
import type { State } from './state.ts';

/** Contact supplies are at least this high; what is lower feeds potentiometers. In V. */
const CONTACT_VOLTS = 11;
const MOST_ROUNDS = 8;
/** Stands of the contacts that are remembered. */
const MOST_REMEMBERED = 20_000;

export interface Signal {
  /** Of the sender, as the vocabulary names signals. */
  readonly kind: string;
  /** V or mA that arrive. */
  readonly value: number;
  readonly device: string;
}

export interface Circuit {
  /** Terminals of digital inputs whose contact is closed. */
  readonly closed: Pick<ReadonlySet<string>, 'has'>;
  /** Safe inputs that are closed. */
  readonly safe: Pick<ReadonlySet<string>, 'has'>;
  /** By terminal; nothing arrives where none is told. */
  readonly signals: Pick<ReadonlyMap<string, Signal>, 'get'>;
  /** Field relays that are pulled in. */
  readonly pulled: readonly string[];
}

/** What of a machine its conductors have to do with. */
export interface Wired {
  readonly chart: TerminalChart;
  readonly wiring: Wiring;
  readonly inputs: readonly DigitalInput[];
  readonly analogs: readonly AnalogInput[];
  readonly outputs: readonly DriveOutput[];
  readonly safeInputs: readonly string[];
  readonly logic: 'sourcing' | 'sinking' | undefined;
}

export interface Bridge {
  readonly a: number;
  readonly b: number;
  /** What it depends on: `device S1`, `output 1`, `wire 3`. */
  readonly by: readonly string[];
  readonly joins: (state: State, pulled: readonly string[]) => boolean;
}

interface Source {
  readonly end: number;
  readonly by: readonly string[];
  readonly is: (state: State) => boolean;
}

export class Conductors {
  private readonly wired: Wired;
  private readonly numbers = new Map<string, number>();
  /** Everything that may join two ends. */
  readonly bridges: readonly Bridge[];
  private readonly plus: readonly Source[];
  private readonly zero: readonly Source[];
  /** The common that has to be joined to the other side; nothing where the drive has it inside. */
  private readonly common: number | undefined;
  private readonly safeEnds: readonly {
    readonly id: string;
    readonly at: number;
    readonly fed: readonly number[];
  }[];
  private readonly remembered = new Map<string, Circuit | undefined>();
  private parent: number[] = [];

  constructor(wired: Wired) {
    this.wired = wired;
    const { chart } = wired;
    this.bridges = [...this.wireBridges(), ...this.deviceBridges(), ...this.outputBridges()];
    const terminals = terminalsOf(chart);
    const at = (id: string) => this.number(id);
    const always = () => true;
    this.plus = [
      ...terminals
        .filter(({ kind, volts }) => kind === 'supply' && (volts ?? 0) >= CONTACT_VOLTS)
        .map(({ id }) => ({ end: at(id), by: [], is: ({ supply }: State) => supply })),
      ...this.outside('+'),
      ...this.transistors('sourcing'),
    ];
    this.zero = [
      ...terminals
        .filter(({ kind, signal }) => kind === 'common' && signal === '0 V')
        .map(({ id }) => ({ end: at(id), by: [], is: always })),
      ...this.outside('-'),
      ...this.transistors('sinking'),
    ];
    const linked = (id: string) => chart.links.some(({ between }) => between.includes(id));
    const common = terminals.find(({ id, kind, signal }) => kind === 'common' && signal === '' && linked(id));
    this.common = common && at(common.id);
    this.safeEnds = wired.safeInputs.map((id) => {
      const links = chart.links.filter(({ between }) => between.includes(id));
      const fed = links.flatMap(({ between }) => between.filter((end) => end !== id).map(at));
      return { id, at: at(id), fed };
    });
    // Every end has its number before the first look.
    for (const { terminal } of [...wired.inputs, ...wired.analogs]) at(terminal);
    for (const { name } of wired.wiring.devices)
      for (const end of ['A1', 'A2', '1', '2', 'out', '-']) at(`${name}:${end}`);
  }

  /** Ends that have a potential of their own, and which. */
  *sources(): Generator<{ readonly end: number; readonly of: string; readonly by: readonly string[] }> {
    for (const { end, by } of this.plus) yield { end, of: '+', by };
    for (const { end, by } of this.zero) yield { end, of: '0', by };
    // What feeds a potentiometer, or a safety channel, is a potential of its own.
    const known = new Set(this.plus.map(({ end }) => end));
    for (const { id, kind } of terminalsOf(this.wired.chart)) {
      const end = this.number(id);
      if (kind === 'supply' && !known.has(end)) yield { end, of: id, by: [] };
    }
  }

  /** Ends at which the answer to one question begins: whether an input or a safe input is closed, which signal arrives. */
  endsOf(of: 'closed' | 'safe' | 'signals', terminal: string): readonly number[] {
    const own = this.number(terminal);
    if (of === 'closed') return this.common === undefined ? [own] : [own, this.common];
    return [own, ...this.safeEnds.flatMap(({ at, fed }) => (at === own ? fed : []))];
  }

  /** Of a potentiometer whose wiper arrives: the end at which it is fed. */
  feedOf = (name: string): number => this.number(`${name}:1`);

  /** Sender at an end, by its name. */
  senderAt(end: number): string | undefined {
    return this.wired.wiring.devices.find(
      ({ kind, name }) =>
        (kind === 'potentiometer' && this.number(`${name}:2`) === end) ||
        (kind === 'transmitter' && ['out', '-'].some((each) => this.number(`${name}:${each}`) === end)),
    )?.name;
  }

  private number(end: string): number {
    const known = this.numbers.get(end);
    if (known !== undefined) return known;
    this.numbers.set(end, this.numbers.size);
    return this.numbers.size - 1;
  }

  private *wireBridges(): Generator<Bridge> {
    const { wires, links } = this.wired.wiring;
    const whole =
      (...whats: readonly string[]) =>
      ({ broken }: State) =>
        broken.length === 0 || !whats.some((what) => broken.includes(what));
    for (const [at, { from, to }] of wires.entries()) {
      const ends = [from, to].map(showEnd) as [string, string];
      const by = [`wire ${at}`, ...ends.map((end) => `at ${end}`)];
      yield { a: this.number(ends[0]), b: this.number(ends[1]), by, joins: whole(...by) };
    }
    for (const [at, { between }] of links.entries()) {
      const by = [`link ${at}`];
      yield { a: this.number(between[0]), b: this.number(between[1]), by, joins: whole(...by) };
    }
  }

  private *deviceBridges(): Generator<Bridge> {
    for (const device of this.wired.wiring.devices) {
      const at = (end: string) => this.number(`${device.name}:${end}`);
      const by = [`device ${device.name}`];
      for (const { name, opens } of contactsOf(device)) {
        const [a, b] = endsOf(name);
        yield { a: at(a), b: at(b), by, joins: contactOf(device, name, opens) };
      }
      // A winding contact or resistor that is not warm conducts.
      if (device.kind === 'sensor')
        yield { a: at('T1'), b: at('T2'), by, joins: (state) => !worked(state, device.name) };
    }
  }

  private *outputBridges(): Generator<Bridge> {
    for (const { number, closes, opens, common } of this.wired.outputs) {
      if (common === undefined) continue;
      const isOn = ({ outputs }: State) => outputs.includes(number);
      const [b, by] = [this.number(common), [`output ${number}`]];
      if (closes !== undefined) yield { a: this.number(closes), b, by, joins: isOn };
      if (opens !== undefined) yield { a: this.number(opens), b, by, joins: (state) => !isOn(state) };
    }
  }

  /** Sides of the supplies of the cabinet, and of outputs of controllers. */
  private outside(side: '+' | '-') {
    return this.wired.wiring.devices.flatMap(({ kind, name }) => {
      if (kind !== 'supply' && kind !== 'controller') return [];
      const by = kind === 'supply' ? [] : [`device ${name}`];
      const is = (state: State) => kind === 'supply' || worked(state, name);
      return [{ end: this.number(`${name}:${side}`), by, is }];
    });
  }

  private transistors(logic: 'sourcing' | 'sinking') {
    return this.wired.outputs.flatMap(({ number, transistor }) => {
      if (transistor?.logic !== logic) return [];
      return [
        {
          ...{ end: this.number(transistor.terminal), by: [`output ${number}`] },
          is: ({ outputs }: State) => outputs.includes(number),
        },
      ];
    });
  }

  /** Field relays are settled first: nothing where one of them never comes to rest. */
  look(state: State): Circuit | undefined {
    const { supply, devices, broken, outputs } = state;
    const key = JSON.stringify([supply, devices, broken, outputs, state.pulled]);
    if (this.remembered.has(key)) return this.remembered.get(key);
    const found = this.settle(state);
    if (this.remembered.size > MOST_REMEMBERED) this.remembered.clear();
    this.remembered.set(key, found);
    return found;
  }

  private settle(state: State): Circuit | undefined {
    let pulled: readonly string[] = state.pulled;
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      this.join(state, pulled);
      const next = this.relaysIn(state);
      if (next.join('\n') === pulled.join('\n')) return this.read(state, pulled);
      pulled = next;
    }
    return undefined;
  }

  private join(state: State, pulled: readonly string[]): void {
    const parent = Array.from(this.numbers.values());
    this.parent = parent;
    for (const { a, b, joins } of this.bridges) {
      if (!joins(state, pulled)) continue;
      const [one, other] = [this.net(a), this.net(b)];
      if (one !== other) parent[one] = other;
    }
  }

  private net(end: number): number {
    let at = end;
    for (let above = this.parent[at]; above !== undefined && above !== at; above = this.parent[at])
      at = above;
    return at;
  }

  private netsOf(ends: readonly Source[], state: State) {
    return new Set(ends.filter(({ is }) => is(state)).map(({ end }) => this.net(end)));
  }

  private relaysIn(state: State): readonly string[] {
    const relays = this.wired.wiring.devices.filter(({ kind }) => kind === 'relay');
    if (relays.length === 0) return [];
    const [plus, zero] = [this.netsOf(this.plus, state), this.netsOf(this.zero, state)];
    return relays
      .map(({ name }) => name)
      .filter((name) => {
        const [a, b] = [this.net(this.number(`${name}:A1`)), this.net(this.number(`${name}:A2`))];
        return (plus.has(a) && zero.has(b)) || (plus.has(b) && zero.has(a));
      });
  }

  private read(state: State, pulled: readonly string[]): Circuit {
    const { inputs, logic } = this.wired;
    const [plus, zero] = [this.netsOf(this.plus, state), this.netsOf(this.zero, state)];
    const [live, other] = logic === 'sourcing' ? [plus, zero] : [zero, plus];
    const fed = this.common === undefined || other.has(this.net(this.common));
    const closed = inputs
      .map(({ terminal }) => terminal)
      .filter((id) => fed && live.has(this.net(this.number(id))));
    // A safe input is fed by the supply that its link would lead to, or by any other plus.
    const safe = this.safeEnds.filter(
      ({ at, fed: supplies }) =>
        plus.has(this.net(at)) || supplies.some((end) => this.net(end) === this.net(at)),
    );
    return {
      pulled,
      closed: new Set(closed),
      safe: new Set(safe.map(({ id }) => id)),
      signals: this.signals(state),
    };
  }

  private signals(state: State): ReadonlyMap<string, Signal> {
    const found = new Map<string, Signal>();
    for (const { terminal } of this.wired.analogs) {
      const here = this.net(this.number(terminal));
      const at = (end: string) => this.net(this.number(end)) === here;
      for (const device of this.wired.wiring.devices) {
        const signal = this.signalOf(device, state, at);
        if (signal) found.set(terminal, signal);
      }
    }
    return found;
  }

  private signalOf(device: FieldDevice, state: State, at: (end: string) => boolean): Signal | undefined {
    const { name } = device;
    const share = state.devices[name] ?? 0;
    if (device.kind === 'potentiometer' && at(`${name}:2`)) {
      const feeds = this.net(this.number(`${name}:1`));
      const supply = terminalsOf(this.wired.chart).find(
        ({ id, kind }) => kind === 'supply' && this.net(this.number(id)) === feeds,
      );
      return { kind: '0-10-v', value: share * (supply?.volts ?? 0), device: name };
    }
    if (device.kind !== 'transmitter') return undefined;
    const arrives = at(`${name}:out`) || (device.wires === 2 && at(`${name}:-`));
    return arrives ? { kind: device.signal, value: valueOf(device.signal, share), device: name } : undefined;
  }
}

const worked = (state: State, name: string): boolean => (state.devices[name] ?? 0) !== 0;

/** When a contact of a device joins its two ends. */
function contactOf(device: FieldDevice, contact: string, opens: boolean): Bridge['joins'] {
  const { name } = device;
  switch (device.kind) {
    case 'selector': {
      const closed = device.places.map(({ closes }) => closes.includes(contact) !== opens);
      return ({ devices }) => closed[devices[name] ?? 0] ?? opens;
    }
    case 'relay':
      return (_, pulled) => pulled.includes(name) !== opens;
    // Its contacts are closed while nobody has tripped it.
    case 'safety-relay':
      return (state) => worked(state, name) === opens;
    default:
      return (state) => worked(state, name) !== opens;
  }
}

/** Start and end of each kind of signal, in V or mA. */
export const SIGNAL_ENDS: Readonly<Record<string, readonly [number, number]>> = {
  '0-10-v': [0, 10],
  '2-10-v': [2, 10],
  '0-20-ma': [0, 20],
  '4-20-ma': [4, 20],
  'bipolar-10-v': [-10, 10],
};

export function valueOf(kind: string, share: number): number {
  const [low, high] = SIGNAL_ENDS[kind] ?? [0, 0];
  return low + (high - low) * share;
}
