// A wiring against the terminal chart of the drive and against what electricity allows. Every finding names the row that
// it is about: a device, a wire, a link, a switch.

import {
  findParameter,
  terminalsOf,
  type Dictionary,
  type Terminal,
  type TerminalChart,
} from '../dictionary/index.ts';
import { finding, type Finding } from '../findings/index.ts';
import { connectionsOf, type FieldDevice } from './device.ts';
import { Nets } from './nets.ts';
import { showEnd, type Wire, type WireEnd, type Wiring } from './wiring.ts';

/** Highest current of a two-wire or four-wire transmitter: NAMUR NE 43 allows 21 mA, and a little for its own needs. */
const TRANSMITTER_MA = 25;

/** In the order of the table: devices, wires, links, switches, then what the whole of it leads to. */
export function checkWiring(dictionary: Dictionary, wiring: Wiring): readonly Finding[] {
  const { terminals: chart } = dictionary;
  if (!chart) return [finding('look', { column: 'chart' }, 'wiring-no-chart', {})];
  const found = [...rowsAgainstChart(chart, wiring)];
  // What is joined says something only where every end is known.
  if (found.some(({ attention }) => attention === 'stop')) return found;
  const circuit = new Circuit(chart, wiring);
  return [
    ...found,
    ...circuit.openEnds(),
    ...circuit.joined(),
    ...circuit.inputs(),
    ...circuit.loads(),
    ...circuit.contacts(),
    ...signals(dictionary, chart, wiring, circuit),
    ...circuit.safeInputs(),
  ];
}

function* rowsAgainstChart(chart: TerminalChart, wiring: Wiring): Generator<Finding> {
  const terminals = new Set(terminalsOf(chart).map(({ id }) => id));
  const devices = new Map<string, FieldDevice>();
  for (const [at, device] of wiring.devices.entries()) {
    const place = { column: 'device', line: at + 1 };
    if (device.name === '' || device.name.includes(':'))
      yield finding('stop', place, 'wiring-device-name', {});
    else if (devices.has(device.name))
      yield finding('stop', place, 'wiring-device-twice', { name: device.name });
    devices.set(device.name, device);
  }
  const numbers = new Map<string, number>();
  for (const [at, wire] of wiring.wires.entries()) {
    const place = { column: 'wire', line: at + 1 };
    for (const end of [wire.from, wire.to]) yield* endFindings(end, terminals, devices, place);
    if (showEnd(wire.from) === showEnd(wire.to))
      yield finding('stop', place, 'wiring-same-ends', { end: showEnd(wire.from) });
    const first = wire.number === '' ? undefined : numbers.get(wire.number);
    if (first !== undefined && !shareEnd(wiring.wires[first - 1], wire))
      yield finding('look', place, 'wiring-number-twice', { number: wire.number, first });
    else if (first === undefined) numbers.set(wire.number, at + 1);
  }
  for (const [at, { between }] of wiring.links.entries())
    for (const terminal of between.filter((each) => !terminals.has(each)))
      yield finding('stop', { column: 'link', line: at + 1 }, 'wiring-no-terminal', { terminal });
  for (const [name, place] of Object.entries(wiring.switches)) {
    const known = chart.switches.find(({ id }) => id === name);
    if (!known?.places.some((each) => each.name === place))
      yield finding('stop', { column: 'switch' }, 'wiring-no-place', { name, place });
  }
  const { arrangement } = wiring;
  if (arrangement !== '' && chart.arrangements.every(({ name }) => name !== arrangement))
    yield finding('stop', { column: 'arrangement' }, 'wiring-no-arrangement', { name: arrangement });
}

/** One conductor that goes on to a further device bears one number. */
const shareEnd = (a: Wire | undefined, b: Wire): boolean =>
  a !== undefined && [a.from, a.to].some((end) => [showEnd(b.from), showEnd(b.to)].includes(showEnd(end)));

function* endFindings(
  end: WireEnd,
  terminals: ReadonlySet<string>,
  devices: ReadonlyMap<string, FieldDevice>,
  place: { readonly column: string; readonly line: number },
): Generator<Finding> {
  if (end.kind === 'terminal') {
    if (!terminals.has(end.terminal))
      yield finding('stop', place, 'wiring-no-terminal', { terminal: end.terminal });
    return;
  }
  const device = devices.get(end.device);
  const known = device ? connectionsOf(device) : [];
  if (!device) yield finding('stop', place, 'wiring-no-device', { name: end.device });
  else if (!known.includes(end.connection))
    yield finding('stop', place, 'wiring-no-connection', {
      name: end.device,
      connection: end.connection,
      known: known.join(', '),
    });
}

/** A wiring whose ends are all known. */
class Circuit {
  readonly nets: Nets;
  private readonly chart: TerminalChart;
  private readonly wiring: Wiring;
  private readonly terminals: readonly Terminal[];

  constructor(chart: TerminalChart, wiring: Wiring) {
    this.chart = chart;
    this.wiring = wiring;
    this.terminals = terminalsOf(chart);
    this.nets = new Nets(wiring);
  }

  private of = (...kinds: readonly Terminal['kind'][]): readonly Terminal[] =>
    this.terminals.filter(({ kind }) => kinds.includes(kind));

  /** Whether a wire or a link ends at the terminal. */
  private isUsed = (id: string): boolean =>
    this.wiring.wires.some(({ from, to }) => [showEnd(from), showEnd(to)].includes(id)) ||
    this.wiring.links.some(({ between }) => between.includes(id));

  /** Terminals that hold a potential of their own, and outputs of controllers, by their net. */
  private sources(): ReadonlyMap<string, readonly string[]> {
    const byNet = new Map<string, string[]>();
    const add = (end: string) => byNet.set(this.nets.of(end), [...(byNet.get(this.nets.of(end)) ?? []), end]);
    for (const { id } of this.of('supply', 'analog-output', 'digital-output')) if (this.isUsed(id)) add(id);
    for (const { kind, name } of this.wiring.devices)
      if (kind === 'controller' || kind === 'supply') add(`${name}:+`);
    return byNet;
  }

  /** Both sides of each supply of the cabinet. */
  private outside(): readonly { readonly plus: string; readonly zero: string }[] {
    return this.wiring.devices.flatMap(({ kind, name }) =>
      kind === 'supply' ? [{ plus: `${name}:+`, zero: `${name}:-` }] : [],
    );
  }

  /** A coil or a lamp of which one side leads nowhere. */
  *openEnds(): Generator<Finding> {
    const used = new Set(this.wiring.wires.flatMap(({ from, to }) => [showEnd(from), showEnd(to)]));
    for (const [at, { kind, name }] of this.wiring.devices.entries()) {
      if (kind !== 'load' && kind !== 'relay' && kind !== 'brake') continue;
      const open = ['A1', 'A2'].filter((each) => !used.has(`${name}:${each}`));
      const [connection] = open;
      if (open.length === 1 && connection !== undefined)
        yield finding('look', { column: 'device', line: at + 1 }, 'wiring-open-end', { name, connection });
    }
  }

  /** Two that drive one conductor, or a supply on its own zero. */
  *joined(): Generator<Finding> {
    for (const ends of this.sources().values()) {
      const [one, other] = this.unlike(ends);
      if (one !== undefined && other !== undefined)
        yield finding('stop', { column: 'whole' }, 'wiring-joined', { one, other });
    }
    for (const { id: supply } of this.of('supply'))
      for (const { id: common, signal } of this.of('common'))
        if (signal === '0 V' && this.nets.same(supply, common))
          yield finding('stop', { column: 'whole' }, 'wiring-short', { supply, common });
    for (const { plus, zero } of this.outside())
      if (this.nets.same(plus, zero))
        yield finding('stop', { column: 'whole' }, 'wiring-short', { supply: plus, common: zero });
  }

  /** Supplies of one voltage are one rail inside the drive. */
  private unlike(ends: readonly string[]): readonly string[] {
    const volts = (end: string) =>
      this.terminals.find(({ id, kind }) => id === end && kind === 'supply')?.volts;
    const rails = new Map<string, string>();
    for (const end of ends) rails.set(volts(end) ? `rail ${volts(end) ?? ''}` : end, end);
    return [...rails.values()];
  }

  private get logic(): 'sourcing' | 'sinking' | undefined {
    const { arrangements } = this.chart;
    const { arrangement } = this.wiring;
    return arrangements.find(({ name, factory }) => (arrangement === '' ? factory : name === arrangement))
      ?.logic;
  }

  /** A contact needs the other side of the input: plus where inputs are sourced, zero where they sink. */
  *inputs(): Generator<Finding> {
    const plus = [...this.of('supply').map(({ id }) => id), ...this.outside().map((each) => each.plus)];
    const zero = [
      ...this.of('common')
        .filter(({ signal }) => signal === '0 V')
        .map(({ id }) => id),
      ...this.outside().map((each) => each.zero),
    ];
    const controllers = this.wiring.devices.flatMap(({ kind, name }) =>
      kind === 'controller' ? [`${name}:+`, `${name}:-`] : [],
    );
    const outside =
      this.chart.arrangements.find(({ name }) => name === this.wiring.arrangement)?.supply === 'external';
    for (const { id } of this.of('digital-input')) {
      if (!this.isUsed(id)) continue;
      const reach = this.nets.reach(id);
      const meets = (ends: readonly string[]) => ends.find((end) => reach.has(this.nets.of(end)));
      const [toPlus, toZero] = [meets(plus), meets(zero)];
      if (this.logic === 'sourcing' && toZero !== undefined && toPlus === undefined)
        yield finding('stop', { column: 'whole' }, 'wiring-sinks', { input: id, common: toZero });
      else if (this.logic === 'sinking' && toPlus !== undefined && toZero === undefined)
        yield finding('stop', { column: 'whole' }, 'wiring-sources', { input: id, supply: toPlus });
      else if (!outside && toPlus === undefined && toZero === undefined && meets(controllers) === undefined)
        yield finding('stop', { column: 'whole' }, 'wiring-no-common', { input: id });
    }
  }

  /** What hangs on a supply of the drive or of the cabinet, at most, against what it can carry. */
  *loads(): Generator<Finding> {
    const cabinet = this.wiring.devices.flatMap((device) =>
      device.kind === 'supply' ? [{ ...device, id: `${device.name}:+` }] : [],
    );
    for (const supply of [...this.of('supply'), ...cabinet]) {
      if (supply.milliamps === null || !this.isUsed(supply.id)) continue;
      const taken = this.takenFrom(supply);
      if (taken > supply.milliamps)
        yield finding('stop', { column: 'whole' }, 'wiring-overload', {
          supply: supply.id,
          taken: Math.round(taken),
          most: supply.milliamps,
        });
    }
  }

  private takenFrom({ id, volts }: Pick<Terminal, 'id' | 'volts'>): number {
    const reach = this.nets.reach(id);
    const on = (end: string) => reach.has(this.nets.of(end));
    const inputs = this.of('digital-input')
      .filter((each) => this.isUsed(each.id) && on(each.id))
      .reduce((sum, { milliamps }) => sum + (milliamps ?? 0), 0);
    const devices = this.wiring.devices.reduce((sum, device) => sum + this.takes(device, on, volts ?? 0), 0);
    return inputs + devices;
  }

  private takes(device: FieldDevice, on: (end: string) => boolean, volts: number): number {
    const at = (...connections: readonly string[]) =>
      connections.some((each) => on(`${device.name}:${each}`));
    switch (device.kind) {
      case 'potentiometer':
        return at('1', '3') ? (volts / device.ohms) * 1000 : 0;
      case 'transmitter':
        return at('+') ? TRANSMITTER_MA : 0;
      case 'load':
      case 'brake':
      case 'relay':
        return at('A1', 'A2') ? device.milliamps : 0;
      default:
        return 0;
    }
  }

  /** Loads on relays and transistor outputs. */
  *contacts(): Generator<Finding> {
    for (const terminal of this.of('relay', 'digital-output', 'brake')) {
      for (const device of this.wiring.devices) {
        if (device.kind !== 'load' && device.kind !== 'relay' && device.kind !== 'brake') continue;
        const here = ['A1', 'A2'].some((each) => this.nets.same(`${device.name}:${each}`, terminal.id));
        if (!here || terminal.contact?.side === 'common') continue;
        const { volts, milliamps } = terminal;
        if ((milliamps !== null && device.milliamps > milliamps) || (volts !== null && device.volts > volts))
          yield finding('stop', { column: 'whole' }, 'wiring-contact-overload', {
            terminal: terminal.id,
            name: device.name,
            load: `${device.volts} V, ${device.milliamps} mA`,
            most: `${volts ?? '?'} V, ${milliamps ?? '?'} mA`,
          });
      }
    }
  }

  /** An open safety input keeps the drive from ever starting. */
  *safeInputs(): Generator<Finding> {
    for (const { id } of this.of('safe-input'))
      if (!this.isUsed(id)) yield finding('look', { column: 'whole' }, 'wiring-safe-open', { terminal: id });
  }
}

/** An analog signal against the switch of its input on the board. */
function* signals(
  dictionary: Dictionary,
  chart: TerminalChart,
  wiring: Wiring,
  { nets }: Circuit,
): Generator<Finding> {
  for (const terminal of terminalsOf(chart)) {
    const board = chart.switches.find(
      (each) => each.agreesWith !== null && each.agreesWith === terminal.setBy,
    );
    if (terminal.kind !== 'analog-input' || !board) continue;
    const standing = wiring.switches[board.id] ?? board.factory;
    const place = board.places.find(({ name }) => name === standing);
    const device = wiring.devices.find((each) => givesSignal(each, nets, terminal.id));
    const wanted =
      device && (device.kind === 'transmitter' && isCurrent(device.signal) ? 'current' : 'voltage');
    const allowed = place?.agrees?.map((raw) => kindOfOption(dictionary, board.agreesWith ?? '', raw)) ?? [];
    if (device && wanted && allowed.length > 0 && !allowed.includes(wanted))
      yield finding('stop', { column: 'switch' }, 'wiring-signal-switch', {
        name: device.name,
        signal: wanted,
        terminal: terminal.id,
        board: board.id,
        place: standing,
      });
  }
}

const isCurrent = (signal: string): boolean => signal.endsWith('-ma');

function kindOfOption(dictionary: Dictionary, code: string, raw: number): 'current' | 'voltage' {
  const form = findParameter(dictionary, code)?.form;
  const option = form?.kind === 'option' ? form.options.find((each) => each.raw === raw) : undefined;
  return isCurrent(option?.meaning ?? '') ? 'current' : 'voltage';
}

function givesSignal(device: FieldDevice, nets: Nets, terminal: string): boolean {
  const at = (connection: string) => nets.same(`${device.name}:${connection}`, terminal);
  if (device.kind === 'potentiometer') return at('2');
  return device.kind === 'transmitter' && (device.wires === 2 ? at('-') || at('+') : at('out'));
}
