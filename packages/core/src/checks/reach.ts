// What of a set can come to act at all: inputs on which something hangs, sources that can be chosen, speeds that can be asked
// for. A value that nothing reaches is wrong for nobody.

import { AT_REST, type DigitalInput, type Machine } from '../behaviour/index.ts';
import { defaultOf, findParameter, terminalsOf } from '../dictionary/index.ts';
import type { PlainNumber, PlainSet } from '../meanings/index.ts';
import { meaningOf } from '../values/index.ts';
import { contactsOf, endsOf, Nets, showEnd, type DeviceContact, type FieldDevice } from '../wiring/index.ts';
import type { Ground } from './ground.ts';

/** A speed that can be asked for. */
export interface ReachedSpeed {
  /** Its meaning. */
  readonly name: string;
  readonly kind: 'preset' | 'keypad' | 'jog';
  readonly plain: PlainNumber;
}

export interface WiredDevice {
  readonly device: FieldDevice;
  /** The contact by which it is on the terminal; nothing for what has none. */
  readonly contact: DeviceContact | null;
}

const MOST_PRESETS = 8;

export class Reach {
  private readonly machine: Machine;
  private readonly set: PlainSet;
  private readonly wired: boolean;
  private readonly used: ReadonlySet<string>;
  private netsOf: Nets | undefined;

  constructor({ machine, set, wired }: Pick<Ground, 'machine' | 'set' | 'wired'>) {
    this.machine = machine;
    this.set = set;
    this.wired = wired;
    const { wires, links } = machine.wiring;
    this.used = new Set([
      ...wires.flatMap(({ from, to }) => [showEnd(from), showEnd(to)]),
      ...links.flatMap(({ between }) => between),
    ]);
  }

  private get nets(): Nets {
    this.netsOf ??= new Nets(this.machine.wiring);
    return this.netsOf;
  }

  /** A wire or a link ends there. */
  hasWire = (terminal: string): boolean => this.used.has(terminal);

  /** Something hangs on it, or somebody gave it another function than the works did. */
  isUsed = (input: DigitalInput): boolean =>
    this.hasWire(input.terminal) || !this.isDefault(input.code ?? '');

  isDefault(code: string): boolean {
    const { dictionary, rating, readings } = this.set;
    const parameter = findParameter(dictionary, code);
    const raw = parameter && rating && defaultOf(parameter, rating);
    return parameter === undefined || readings.get(parameter.code) === raw;
  }

  /** Inputs in use that do this. */
  inputs = (does: string): readonly DigitalInput[] =>
    (this.machine.byFunction.get(does) ?? []).filter(this.isUsed);

  /** Inputs that can come on: where a wiring is kept, something hangs on them or they are on while open. */
  canAct = (does: string): readonly DigitalInput[] =>
    (this.machine.byFunction.get(does) ?? []).filter(
      ({ terminal, opens, code }) =>
        this.hasWire(terminal) || (!this.wired && !this.isDefault(code ?? '')) || opens,
    );

  /** What comes to a terminal directly, by which of its contacts. */
  devicesAt(terminal: string): readonly WiredDevice[] {
    return this.machine.wiring.devices.flatMap((device): WiredDevice[] => {
      const at = (end: string) => this.nets.same(`${device.name}:${end}`, terminal);
      const contact = contactsOf(device).find(({ name }) => endsOf(name).some(at));
      if (contact) return [{ device, contact }];
      return signalEndsOf(device).some(at) ? [{ device, contact: null }] : [];
    });
  }

  /** Resistance of an analog input for a current, in ohms; nothing where the model does not tell it. */
  burdenOf = (terminal: string): number | null =>
    terminalsOf(this.machine.chart).find(({ id }) => id === terminal)?.burdenOhm ?? null;

  /** A meter, or the input of a controller, that reads an analog output. */
  meterAt = (terminal: string): (FieldDevice & { readonly kind: 'meter' }) | undefined =>
    this.machine.wiring.devices.find(
      (device): device is FieldDevice & { readonly kind: 'meter' } =>
        device.kind === 'meter' && this.nets.same(`${device.name}:+`, terminal),
    );

  private choices(first: string, second: string): ReadonlySet<string> {
    const [one, other] = [first, second].map((name) => this.set.choice(meaningOf(name)));
    const chosen = this.canAct('place.second').length > 0 ? [one, other] : [one];
    return new Set(chosen.filter((each) => each !== undefined));
  }

  /** Options of the command source that can come to count; empty where it cannot be told. */
  get commands(): ReadonlySet<string> {
    return this.choices('command.source', 'command.source2');
  }

  get speeds(): ReadonlySet<string> {
    return this.choices('speed.source', 'speed.source2');
  }

  get byTerminals(): boolean {
    return [...this.commands].some((each) => each.startsWith('source.terminals'));
  }

  get loop(): boolean {
    const { set, machine } = this;
    if ((set.choice(meaningOf('loop.mode')) ?? 'off') === 'off') return false;
    return machine.rules.answer('loop.engages') !== 'mode-and-source' || this.speeds.has('source.loop');
  }

  /** What an analog input is read for. */
  usesOf(number: string): readonly ('speed' | 'trim' | 'loop')[] {
    const option = (name: string) => this.set.choice(meaningOf(name)) ?? '';
    const speed = this.speeds.has(`source.analog.${number}`) && !(this.loop && this.engagesAlways);
    const feedback = option('loop.feedback');
    const both = ['difference', 'minimum', 'maximum'].includes(feedback);
    return [
      ...(speed ? (['speed'] as const) : []),
      ...(option('trim.source') === `analog-${number}` ? (['trim'] as const) : []),
      ...(this.loop && (both || feedback === `analog-${number}` || this.isOnlyFeedback(number))
        ? (['loop'] as const)
        : []),
    ];
  }

  /** The loop takes the place of the speed's own source. */
  private get engagesAlways(): boolean {
    return this.machine.rules.answer('loop.engages') === 'mode' && this.inputs('loop.off').length === 0;
  }

  /** A model without a choice reads its actual value at its only analog input. */
  private isOnlyFeedback = (number: string): boolean =>
    this.set.get(meaningOf('loop.feedback')).kind === 'nothing' &&
    this.machine.analogs.length === 1 &&
    this.machine.analogs[0]?.number === number;

  /** Numbers of the presets that can be chosen. */
  presets(): readonly number[] {
    const { rules, presets } = this.machine;
    const source = this.speeds.has('source.presets');
    if (rules.answer('preset.acts') === 'source-only' && !source) return [];
    const live = (pattern: RegExp) =>
      presets.flatMap((does) => {
        const found = pattern.exec(does)?.[1];
        return found !== undefined && this.canAct(does).length > 0 ? [Number(found)] : [];
      });
    const none = source && rules.answer('preset.none') === 'preset-1' ? [1] : [];
    if (rules.answer('preset.select') === 'each')
      return [...new Set([...none, ...live(/^preset\.(\d+)$/)])].sort((a, b) => a - b);
    const bits = live(/^preset\.bit\.(\d+)$/);
    return Array.from({ length: MOST_PRESETS }, (_, at) => at).flatMap((at) => {
      const wanted = [0, 1, 2].filter((bit) => (at >> bit) % 2 === 1);
      if (at === 0) return none;
      return wanted.every((bit) => bits.includes(bit)) ? [at + 1] : [];
    });
  }

  /** Jog contacts that act. */
  jogs(): readonly DigitalInput[] {
    const dead = this.machine.rules.list('source.dead').includes('jog') && !this.byTerminals;
    return dead ? [] : [...this.canAct('jog'), ...this.canAct('jog.reverse')];
  }

  /** Fixed speeds that can be asked for. Zero asks for nothing. */
  reachedSpeeds(): readonly ReachedSpeed[] {
    const each = this.machine.rules.answer('preset.select') === 'each';
    const names: [ReachedSpeed['kind'], string][] = [
      ...this.presets().map((number): [ReachedSpeed['kind'], string] => [
        'preset',
        each ? `preset.contact.${number}` : `preset.${number}`,
      ]),
      ...(this.speeds.has('source.keypad')
        ? ([['keypad', 'speed.keypad']] as [ReachedSpeed['kind'], string][])
        : []),
      ...(this.jogs().length > 0 ? ([['jog', 'jog.speed']] as [ReachedSpeed['kind'], string][]) : []),
    ];
    return names.flatMap(([kind, name]) => {
      const plain = this.set.get(meaningOf(name));
      return plain.kind === 'number' && plain.value !== 0 ? [{ kind, name, plain }] : [];
    });
  }

  /** Inputs that are on while nobody has touched anything and the supply is there; nothing where field relays never rest. */
  get onAtRest(): ReadonlySet<string> | undefined {
    const { machine } = this;
    const circuit = machine.conductors.look({ ...AT_REST, supply: true });
    if (!circuit) return undefined;
    return new Set(
      machine.inputs
        .filter(({ terminal, opens }) => circuit.closed.has(terminal) !== opens)
        .map(({ terminal }) => terminal),
    );
  }
}

function signalEndsOf(device: FieldDevice): readonly string[] {
  switch (device.kind) {
    case 'potentiometer':
      return ['2'];
    case 'transmitter':
      return device.wires === 2 ? ['+', '-'] : ['out'];
    case 'controller':
      return ['+', '-'];
    case 'sensor':
      return ['T1', 'T2'];
    case 'load':
    case 'brake':
      return ['A1', 'A2'];
    default:
      return [];
  }
}
