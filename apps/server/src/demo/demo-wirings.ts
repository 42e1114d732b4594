// The field wiring of the demo plant: what hangs on the inputs that its commissioned sets give a function, on the analog inputs
// that they use, and the links that the works have fitted. Made from the sets, so that none contradicts another.

import { meaningOf } from '@drive-keep/core/values';
import { terminalsOf, type Dictionary, type Terminal } from '@drive-keep/core/dictionary';
import type { Bridge, PlainSet } from '@drive-keep/core/meanings';
import {
  formatWiring,
  type FieldDevice,
  type FittedLink,
  type Wire,
  type WireEnd,
  type Wiring,
} from '@drive-keep/core/wiring';
import type { EntityManager } from 'typeorm';
import { WiringRevision } from '../wiring/wiring-revision.entity.ts';
import { wiringHash } from '../wiring/wiring-hash.ts';
import type { Placed } from './demo-history.ts';
import { setAt } from './position-history.ts';
import { ENGINEER, NIGHTS, TECHNICIAN, type DemoPosition } from './story.ts';
import { toldWiring } from './told-wirings.ts';

export async function makeWirings(
  manager: EntityManager,
  bridge: Bridge,
  placed: readonly Placed[],
  savedAt: Date,
): Promise<void> {
  for (const each of placed) {
    const { told, position, dictionary } = each.before ?? each;
    const wiring = demoWiring(told, dictionary, bridge);
    const content = formatWiring(wiring);
    const kept = {
      ...{ positionId: position.id, revision: 1, dictionaryId: dictionary.id, content, savedAt },
      ...{ savedBy: ENGINEER, why: 'As commissioned' },
    };
    await manager.insert(WiringRevision, { ...kept, hash: wiringHash(kept, undefined) });
  }
}

/** The second revision of a position whose unit was replaced by another model. */
export async function makeMovedWiring(
  manager: EntityManager,
  bridge: Bridge,
  { told, position, dictionary, unit }: Placed,
): Promise<void> {
  const before = await manager.findOneByOrFail(WiringRevision, { positionId: position.id, revision: 1 });
  const kept = {
    ...{ positionId: position.id, revision: 2, dictionaryId: dictionary.id, savedAt: unit.installedAt },
    content: formatWiring(demoWiring(told, dictionary, bridge)),
    ...{ savedBy: TECHNICIAN, why: `Moved to the ${dictionary.name} by its replacement` },
  };
  await manager.insert(WiringRevision, { ...kept, hash: wiringHash(kept, before.hash) });
}

/** As the position was wired when it was commissioned. */
export function demoWiring(told: DemoPosition, dictionary: Dictionary, bridge: Bridge): Wiring {
  const { readings } = setAt(dictionary, told, NIGHTS + 1);
  return (
    toldWiring(told) ?? new Maker(dictionary, bridge.read(dictionary, told, readings), told.values).make()
  );
}

/** Direct-current control circuits, by IEC 60204-1. */
const COLOUR = 'blue';
const terminal = (id: string): WireEnd => ({ kind: 'terminal', terminal: id });
const at = (device: string, connection: string): WireEnd => ({ kind: 'device', device, connection });

const contact = (name: string, what: string, opens = false, momentary = false): FieldDevice => ({
  ...{ kind: 'contact', name, what, momentary },
  contacts: [opens ? { name: '21-22', opens } : { name: '13-14', opens }],
});

/** What hangs on an input of a function; nothing for what the program or a table of contacts does. */
const DEVICES: Readonly<Record<string, (opens: boolean) => FieldDevice>> = {
  'run.forward': () => contact('S1', 'run'),
  'run.reverse': () => contact('S3', 'run in reverse'),
  direction: () => contact('S3', 'direction'),
  stop: () => contact('S0', 'stop button', true, true),
  jog: () => contact('S5', 'jog button', false, true),
  'jog.reverse': () => contact('S6', 'jog button, reverse', false, true),
  raise: () => contact('S7', 'raise button', false, true),
  lower: () => contact('S8', 'lower button', false, true),
  coast: (opens) => contact('S10', 'let go', opens),
  'quick-stop': (opens) => contact('S11', 'quick stop', opens),
  'fault-reset': () => contact('S9', 'reset button', false, true),
  'place.second': () => contact('S4', 'hand or automatic'),
  permit: () => contact('B5', 'damper is open'),
  fire: () => contact('S12', 'fire operation', true),
  'external-fault': (opens) =>
    opens
      ? { kind: 'sensor', name: 'B1', what: 'winding contact', sensor: 'bimetal' }
      : contact('F1', 'external fault'),
  'motor.warm': () => ({ kind: 'sensor', name: 'B1', what: 'winding contact', sensor: 'bimetal' }),
  'pump.dry': () => contact('B6', 'no water'),
  enable: () => contact('S1', 'enable'),
  'limit.positive': (opens) => contact('B11', 'end of travel, positive', opens),
  'limit.negative': (opens) => contact('B12', 'end of travel, negative', opens),
  reference: (opens) => contact('B13', 'reference switch', opens),
};
/** These are wired wherever a set gives them; the others where somebody chose them. */
const ALWAYS = ['run.forward', 'enable', 'limit.positive', 'limit.negative', 'reference'];

class Maker {
  private readonly devices: FieldDevice[] = [];
  private readonly wires: Wire[] = [];
  private readonly switches: Record<string, string> = {};
  private readonly terminals: readonly Terminal[];

  constructor(
    private readonly dictionary: Dictionary,
    private readonly plain: PlainSet,
    private readonly chosen: Readonly<Record<string, string>>,
  ) {
    this.terminals = dictionary.terminals ? terminalsOf(dictionary.terminals) : [];
  }

  make(): Wiring {
    this.inputs();
    this.analogs();
    this.outputs();
    this.safety();
    this.brake();
    const factory = (this.dictionary.terminals?.links ?? []).filter((link) => link.factory);
    const links = factory.map(({ between }): FittedLink => ({ between, place: 'drive' }));
    return { devices: this.devices, wires: this.wires, links, switches: this.switches, arrangement: '' };
  }

  /** The other side of the contacts, by the arrangement of the works. */
  private get common(): string {
    const sourcing =
      this.dictionary.terminals?.arrangements.find(({ factory }) => factory)?.logic === 'sourcing';
    const found = sourcing
      ? this.terminals.find(({ kind, volts }) => kind === 'supply' && volts !== null && volts >= 12)
      : this.terminals.find(({ kind, name }) => kind === 'common' && /digital/i.test(name));
    return found?.id ?? '';
  }

  private wire(from: WireEnd, to: WireEnd, number = String(this.wires.length + 1)): void {
    this.wires.push({ number, colour: COLOUR, from, to });
  }

  private add(device: FieldDevice): string {
    if (this.devices.every(({ name }) => name !== device.name)) this.devices.push(device);
    return device.name;
  }

  private inputs(): void {
    const presets: string[] = [];
    for (const input of this.terminals.filter(({ kind }) => kind === 'digital-input')) {
      const meaning = this.dictionary.parameters.find(({ code }) => code === input.setBy)?.meaning ?? '';
      const number = /\d+/.exec(meaning)?.[0] ?? '';
      const chosen = this.plain.choice(meaningOf(meaning)) ?? 'none';
      const opens = this.plain.choice(meaningOf(`input.${number}.sense`)) === 'open';
      if (/^preset\./.test(chosen)) presets.push(input.id);
      const wanted =
        ALWAYS.includes(chosen) || meaning in this.chosen || (opens && chosen === 'external-fault');
      const device = wanted ? DEVICES[chosen]?.(opens) : undefined;
      if (device && this.commanded(chosen)) this.toInput(this.add(device), device, input.id);
    }
    if (this.plain.choice(meaningOf('speed.source')) === 'source.presets') this.selector(presets);
  }

  /** Run contacts hang there only where the terminals command. */
  private commanded(chosen: string): boolean {
    return (
      !/^(run|enable|stop|direction)/.test(chosen) ||
      this.plain.choice(meaningOf('command.source')) === 'source.terminals'
    );
  }

  private toInput(name: string, device: FieldDevice, input: string): void {
    const [a, b] =
      device.kind === 'sensor'
        ? ['T1', 'T2']
        : 'contacts' in device
          ? (device.contacts[0]?.name.split('-') ?? [])
          : [];
    this.wire(terminal(input), at(name, a ?? ''));
    this.wire(at(name, b ?? ''), terminal(this.common), 'C');
  }

  /** One selector with a contact for each preset input. */
  private selector(inputs: readonly string[]): void {
    if (inputs.length === 0) return;
    const contacts = inputs.map((_, place) => ({ name: `${place + 1}3-${place + 1}4`, opens: false }));
    const places = [
      { name: '0', closes: [] },
      ...contacts.map(({ name }, place) => ({ name: String(place + 1), closes: [name] })),
    ];
    this.add({ kind: 'selector', name: 'S2', what: 'speed', contacts, places, between: 'open' });
    for (const [place, input] of inputs.entries()) {
      this.wire(terminal(input), at('S2', `${place + 1}3`));
      this.wire(at('S2', `${place + 1}4`), terminal(this.common), 'C');
    }
  }

  private analogs(): void {
    const inputs = this.terminals.filter(({ kind }) => kind === 'analog-input');
    const loop = (this.plain.choice(meaningOf('loop.mode')) ?? 'off') !== 'off';
    for (const input of inputs) {
      const meaning = this.dictionary.parameters.find(({ code }) => code === input.setBy)?.meaning ?? '';
      const number = /^analog\.(\d+)/.exec(meaning)?.[1] ?? '';
      const feedback = loop && this.plain.choice(meaningOf('loop.feedback')) === `analog-${number}`;
      const speed = this.plain.choice(meaningOf('speed.source')) === `source.analog.${number}`;
      const signal = this.plain.choice(meaningOf(`analog.${number}.signal`));
      if (number === '' || signal === undefined || !(feedback || speed)) continue;
      this.signal(input, signal, feedback);
      this.boardFor(input);
    }
  }

  private signal(input: Terminal, signal: string, feedback: boolean): void {
    const zero = this.terminals.find(({ kind, signal: own }) => kind === 'common' && own === '0 V')?.id ?? '';
    if (signal.endsWith('-ma') || feedback) {
      const name = feedback ? 'B7' : 'A1';
      const range = feedback ? this.range() : { low: 0, high: 100, unit: '%' };
      const kind = { kind: 'transmitter', signal: '4-20-ma', wires: 4, range, failsAt: null } as const;
      this.add({ ...kind, name, what: feedback ? 'transmitter of the loop' : 'set-point of the controller' });
      this.wire(terminal(input.id), at(name, 'out'));
      this.wire(at(name, '0'), terminal(zero));
      return;
    }
    const supply = this.terminals.find(
      ({ kind, volts }) => kind === 'supply' && volts !== null && volts <= 12,
    )?.id;
    this.add({ kind: 'potentiometer', name: 'R1', what: 'set-point', ohms: 4700 });
    if (supply !== undefined) this.wire(terminal(supply), at('R1', '1'));
    this.wire(terminal(input.id), at('R1', '2'));
    this.wire(at('R1', '3'), terminal(zero));
  }

  private range(): { low: number; high: number; unit: string } {
    const [low, high] = ['loop.scaleLow', 'loop.scaleHigh'].map((each) => this.plain.get(meaningOf(each)));
    const unit = this.plain.choice(meaningOf('loop.unit')) === 'pascal' ? 'Pa' : '%';
    return {
      low: low?.kind === 'number' ? low.value : 0,
      high: high?.kind === 'number' ? high.value : 100,
      unit,
    };
  }

  /** The switch of the input stands as its parameter says. */
  private boardFor(input: Terminal): void {
    const board = this.dictionary.terminals?.switches.find(({ agreesWith }) => agreesWith === input.setBy);
    const raw = this.plain.readings.get(input.setBy ?? ('' as never));
    const place = board?.places.find(({ agrees }) => typeof raw === 'number' && agrees?.includes(raw));
    if (board && place && place.name !== board.factory) this.switches[board.id] = place.name;
  }

  /** Where the works do not link the channels of safe torque off, a safety relay closes them. */
  private safety(): void {
    const channels = this.terminals
      .filter(({ kind }) => kind === 'safe-input')
      .flatMap(({ id }) => {
        const link = this.dictionary.terminals?.links.find(({ between }) => between.includes(id));
        const supply = link?.between.find((end) => end !== id);
        return link && !link.factory && supply !== undefined ? [{ id, supply }] : [];
      });
    if (channels.length === 0) return;
    const contacts = channels.map((_, index) => ({ name: `${index + 1}3-${index + 1}4`, opens: false }));
    this.add({ kind: 'safety-relay', name: 'K1', what: 'emergency stop', contacts });
    for (const [index, { id, supply }] of channels.entries()) {
      this.wire(terminal(supply), at('K1', `${index + 1}3`));
      this.wire(at('K1', `${index + 1}4`), terminal(id));
    }
  }

  private brake(): void {
    const ends = this.terminals.filter(({ kind }) => kind === 'brake');
    if ((this.plain.choice(meaningOf('brake.fitted')) ?? 'none') === 'none' || ends.length !== 2) return;
    const coil = this.plain.get(meaningOf('brake.coilCurrent'));
    const milliamps = coil.kind === 'number' ? coil.value * 1000 : 500;
    this.add({ kind: 'brake', name: 'Y1', what: 'holding brake', volts: 24, milliamps });
    for (const [index, { id }] of ends.entries()) this.wire(terminal(id), at('Y1', `A${index + 1}`));
  }

  /** The 24 V of the cabinet: from its plus through a contact of the drive to a device, and back. */
  private cabinetSupply(from: WireEnd, back: WireEnd): void {
    this.add({ kind: 'supply', name: 'T1', what: '24 V of the cabinet', volts: 24, milliamps: 2500 });
    this.wire(at('T1', '+'), from);
    this.wire(back, at('T1', '-'));
  }

  /** A lamp on the relay that tells a fault. */
  private outputs(): void {
    if (this.plain.choice(meaningOf('output.1.function')) !== 'fault') return;
    const closes = this.terminals.find(({ contact: side }) => side?.relay === 1 && side.side === 'closes');
    if (!closes) return;
    this.add({ kind: 'load', name: 'H1', what: 'fault lamp', volts: 24, milliamps: 80 });
    this.wire(terminal(closes.id), at('H1', 'A1'));
    const common = this.terminals.find(({ contact: side }) => side?.relay === 1 && side.side === 'common');
    if (common) this.cabinetSupply(terminal(common.id), at('H1', 'A2'));
  }
}
