// Draws the wires of devices on the terminals of a model, as an electrician would: contacts to the other side of the supply, a
// transmitter with its supply or its zero, a lamp through a relay and the supply of the cabinet.

import { terminalsOf, type Terminal, type TerminalChart } from '../dictionary/index.ts';
import { endsOf, type FieldDevice } from './device.ts';
import { showEnd, type FittedLink, type Wire, type WireEnd, type Wiring } from './wiring.ts';

/** Direct-current control circuits, by IEC 60204-1. */
const COLOUR = 'blue';
/** All ends on the common side are one conductor. */
const COMMON = 'C';
/** More than this a terminal does not give to a potentiometer. */
const POTENTIOMETER_VOLTS = 12;

export const terminalEnd = (terminal: string): WireEnd => ({ kind: 'terminal', terminal });
export const deviceEnd = (device: string, connection: string): WireEnd => ({
  ...{ kind: 'device', device, connection },
});

/** Terminals of one output of the drive. */
export interface OutputTerminals {
  readonly closes: string | undefined;
  readonly common: string | undefined;
  readonly transistor: { readonly terminal: string; readonly logic: 'sourcing' | 'sinking' } | undefined;
}

export class WireMaker {
  private readonly chart: TerminalChart;
  private readonly terminals: readonly Terminal[];
  private readonly arrangement: TerminalChart['arrangements'][number] | undefined;
  private readonly devices: FieldDevice[] = [];
  private readonly wires: Wire[] = [];
  /** Safe inputs that a relay closes, and those that a link closes although the works do not fit it. */
  private readonly taken = new Set<string>();
  private readonly fitted = new Set<string>();

  /** Arrangements that need no other links than the works fit: as delivered, or made by a switch on the board. */
  static arrangementsOf({ arrangements, switches }: TerminalChart): TerminalChart['arrangements'] {
    const made = new Set(switches.flatMap(({ places }) => places.flatMap(({ makes }) => makes ?? [])));
    return arrangements.filter(
      ({ name, factory, supply }) => supply === 'internal' && (factory || made.has(name)),
    );
  }

  /** `arrangement` by its name; as delivered where it is empty or not known. */
  constructor(chart: TerminalChart, arrangement = '') {
    this.chart = chart;
    this.terminals = terminalsOf(chart);
    const { arrangements } = chart;
    this.arrangement =
      arrangements.find(({ name }) => name === arrangement) ?? arrangements.find(({ factory }) => factory);
  }

  make(switches: Wiring['switches'] = {}): Wiring {
    const own = this.arrangement;
    const made = own && !own.factory ? this.madeBySwitch(own.name) : {};
    return {
      ...{ devices: this.devices, wires: this.wires, links: this.links() },
      switches: { ...made, ...switches },
      arrangement: own && !own.factory ? own.name : '',
    };
  }

  add(device: FieldDevice): void {
    if (this.devices.every(({ name }) => name !== device.name)) this.devices.push(device);
  }

  wire(from: WireEnd, to: WireEnd, number?: string): void {
    const ends = [showEnd(from), showEnd(to)];
    const isThere = this.wires.some(
      (each) => ends.includes(showEnd(each.from)) && ends.includes(showEnd(each.to)),
    );
    if (isThere) return;
    const free = this.wires.filter(({ number: each }) => each !== COMMON).length + 1;
    this.wires.push({ number: number ?? String(free), colour: COLOUR, from, to });
  }

  /** A contact, or a sensor that opens, between an input and the other side, with others in series (`K1:13-14`). */
  input(device: FieldDevice, contact: string, input: string, through: readonly string[] = []): void {
    this.add(device);
    const chain = [
      device.kind === 'sensor'
        ? ([device.name, 'T1', 'T2'] as const)
        : ([device.name, ...endsOf(contact)] as const),
      ...through.map((each) => {
        const [name = '', own = ''] = each.split(':');
        return [name, ...endsOf(own)] as const;
      }),
    ];
    let from = terminalEnd(input);
    for (const [name, a, b] of chain) {
      this.wire(from, deviceEnd(name, a));
      from = deviceEnd(name, b);
    }
    this.wire(from, terminalEnd(this.common), COMMON);
  }

  /** A sender of an analog signal. */
  signal(device: FieldDevice, input: Terminal): void {
    this.add(device);
    const zero = this.zeroFor(input);
    if (device.kind === 'potentiometer') {
      const fits = ({ kind, volts }: Terminal) =>
        kind === 'supply' && volts !== null && volts <= POTENTIOMETER_VOLTS;
      const supply = this.terminals.find(fits)?.id;
      if (supply !== undefined) this.wire(terminalEnd(supply), deviceEnd(device.name, '1'));
      this.wire(terminalEnd(input.id), deviceEnd(device.name, '2'));
      this.wire(deviceEnd(device.name, '3'), terminalEnd(zero));
      return;
    }
    if (device.kind === 'transmitter' && device.wires === 2) {
      this.wire(terminalEnd(this.plus), deviceEnd(device.name, '+'));
      this.wire(deviceEnd(device.name, '-'), terminalEnd(input.id));
      return;
    }
    this.wire(terminalEnd(input.id), deviceEnd(device.name, 'out'));
    this.wire(deviceEnd(device.name, '0'), terminalEnd(zero));
  }

  /** A lamp, a coil or a relay that an output of the drive switches. */
  output(device: FieldDevice, { closes, common, transistor }: OutputTerminals): void {
    this.add(device);
    const [a, b] = [deviceEnd(device.name, 'A1'), deviceEnd(device.name, 'A2')];
    if (closes !== undefined && common !== undefined) {
      this.add({ kind: 'supply', name: 'T1', what: '24 V of the cabinet', volts: 24, milliamps: 2500 });
      this.wire(deviceEnd('T1', '+'), terminalEnd(common));
      this.wire(terminalEnd(closes), a);
      this.wire(b, deviceEnd('T1', '-'));
    } else if (transistor) {
      const other = transistor.logic === 'sourcing' ? this.zero : this.plus;
      this.wire(terminalEnd(transistor.terminal), a);
      this.wire(b, terminalEnd(other));
    }
  }

  /** Two channels of a safety relay in place of the links of safe torque off. */
  safetyRelay(name: string, what: string): void {
    const channels = this.channels();
    const contacts = channels.map((_, at) => ({ name: `${at + 1}3-${at + 1}4`, opens: false }));
    this.add({ kind: 'safety-relay', name, what, contacts });
    for (const [at, { id, supply }] of channels.entries()) {
      this.taken.add(id);
      this.wire(terminalEnd(supply), deviceEnd(name, `${at + 1}3`));
      this.wire(deviceEnd(name, `${at + 1}4`), terminalEnd(id));
    }
  }

  /** Channels of safe torque off that are closed by links, also where the works do not fit them. */
  safetyLinks(): void {
    for (const { id } of this.channels()) this.fitted.add(id);
  }

  brake(device: FieldDevice): boolean {
    const ends = this.terminals.filter(({ kind }) => kind === 'brake');
    if (ends.length !== 2) return false;
    this.add(device);
    for (const [at, { id }] of ends.entries())
      this.wire(terminalEnd(id), deviceEnd(device.name, `A${at + 1}`));
    return true;
  }

  /** Safe inputs with the terminal that a link feeds them from. */
  channels(): readonly { readonly id: string; readonly supply: string }[] {
    return this.terminals.flatMap(({ id, kind }) => {
      const link = this.chart.links.find(({ between }) => between.includes(id));
      const supply = link?.between.find((end) => end !== id);
      return kind === 'safe-input' && supply !== undefined ? [{ id, supply }] : [];
    });
  }

  /** The other side of the contacts. */
  private get common(): string {
    return this.arrangement?.logic === 'sourcing' ? this.plus : this.zero;
  }

  /** Of the input contacts. */
  private get plus(): string {
    const supplies = this.terminals.filter(({ kind, volts }) => kind === 'supply' && (volts ?? 0) >= 12);
    return (supplies.find(({ volts }) => (volts ?? 0) >= 24) ?? supplies[0])?.id ?? '';
  }

  private get zero(): string {
    const zeros = this.terminals.filter(({ kind, signal }) => kind === 'common' && signal === '0 V');
    return (zeros.find(({ name }) => !/analog/i.test(name)) ?? zeros[0])?.id ?? '';
  }

  /** Of an analog input: its other side, or the zero of the analog signals. */
  private zeroFor(input: Terminal): string {
    const at = this.terminals.indexOf(input);
    const other = this.terminals[at + 1];
    if (other?.kind === 'analog-input' && other.setBy === null) return other.id;
    const zeros = this.terminals.filter(({ kind, signal }) => kind === 'common' && signal === '0 V');
    return (zeros.find(({ name }) => /analog/i.test(name)) ?? zeros[0])?.id ?? '';
  }

  /** As delivered, but where a safety relay takes the place of a link. */
  private links(): readonly FittedLink[] {
    return this.chart.links.flatMap(({ between, factory }): FittedLink[] => {
      if (between.some((each) => this.taken.has(each))) return [];
      const closed = factory || between.some((each) => this.fitted.has(each));
      return closed ? [{ between, place: 'drive' }] : [];
    });
  }

  private madeBySwitch(name: string): Wiring['switches'] {
    return Object.fromEntries(
      this.chart.switches.flatMap(({ id, places }) => {
        const place = places.find(({ makes }) => makes?.includes(name));
        return place ? [[id, place.name]] : [];
      }),
    );
  }
}
