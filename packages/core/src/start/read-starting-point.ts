// Reads the file of a starting point. All that is wrong with it comes back at once, each fault with its line; a point that is
// read names nothing that the vocabulary, its own questions or its own devices do not have.

import { readYaml, type FactReader } from '../dictionary/index.ts';
import { finding, hasStop, type Finding } from '../findings/index.ts';
import type { Vocabulary } from '../meanings/index.ts';
import { fail, isKnownUnit, meaningOf, ok, type Result } from '../values/index.ts';
import {
  connectionsOf,
  DEVICE_KINDS,
  endsOf,
  FIELD_SIGNALS,
  parseFacts,
  type DeviceFacts,
  type DeviceKind,
} from '../wiring/index.ts';
import {
  ASKED_IN,
  askOf,
  LOADS,
  MUSTS,
  type Ask,
  type Condition,
  type DigitalRole,
  type Given,
  type PointDevice,
  type PointSetting,
  type SpeedMust,
  type StartingPoint,
  type TableRow,
  type TransmitterFacts,
} from './starting-point.ts';

const FILE = 'starting-point.yaml';
const ID = /^[a-z][a-z0-9-]*$/;
const ASK_ID = /^[a-zA-Z][a-zA-Z0-9.-]*$/;
const NAME = /^[A-Z][A-Z0-9]{0,5}$/;
const KINDS = Object.keys(DEVICE_KINDS) as readonly DeviceKind[];
const DOES = ['inputs', 'speeds', 'signal', 'output', 'through', 'brake'] as const;
const ASK_KINDS = ['number', 'choice', 'text'] as const;
/** Questions that every sheet asks, so that a point can hang something on them. */
export const COMMON_ASKS: Readonly<Record<string, readonly string[]>> = { sto: ['link', 'relay'] };
const ACT = /^(?:supply (?:on|off)|break (\w+)|(\w+) (?:on|off|press|to (\S+)|at \d{1,3}))$/;

export function readStartingPoint(
  text: string,
  vocabulary: Vocabulary,
): Result<StartingPoint, readonly Finding[]> {
  const findings: Finding[] = [];
  const at = readYaml(FILE, text, findings);
  const point = at && new PointReader(at, vocabulary, findings).read();
  return point && !hasStop(findings) ? ok(point) : fail(findings);
}

class PointReader {
  private readonly at: FactReader;
  private readonly vocabulary: Vocabulary;
  private readonly findings: Finding[];
  private asks: readonly Ask[] = [];
  private devices: readonly PointDevice[] = [];

  constructor(at: FactReader, vocabulary: Vocabulary, findings: Finding[]) {
    this.at = at;
    this.vocabulary = vocabulary;
    this.findings = findings;
  }

  read(): StartingPoint {
    const { at } = this;
    this.known(at, 'id version name about load assumes asks devices sets table');
    const head = {
      id: at.text('id', ID, 'a name in small letters'),
      version: at.integer('version'),
      name: at.text('name'),
      about: at.text('about'),
      load: at.oneOf('load', LOADS),
      assumes: at.texts('assumes'),
    };
    this.asks = at.listIfAny('asks').map((each) => this.ask(each));
    this.twice(
      this.asks.map(({ id }) => id),
      'asks',
    );
    for (const [index, each] of at.listIfAny('asks').entries()) this.limits(each, this.asks[index]);
    this.devices = at.list('devices').map((each) => this.device(each));
    this.twice(
      this.devices.map(({ name }) => name),
      'devices',
    );
    this.throughs();
    const sets = at.list('sets').map((each) => this.setting(each));
    const table = at.list('table').map((each) => this.row(each));
    if (table.length === 0) at.missing('table', 'at least one line: what the contacts must do');
    return { ...head, asks: this.asks, devices: this.devices, sets, table };
  }

  private odd(at: FactReader, key: string | undefined, text: string, known: readonly string[]): void {
    const place = at.place(key);
    this.findings.push(
      finding('stop', { file: FILE, ...place }, 'point-unknown', { text, known: known.join(', ') }),
    );
  }

  private known(at: FactReader, keys: string): void {
    const all = keys.split(' ');
    for (const key of at.keys()) if (!all.includes(key)) this.odd(at, key, key, all);
  }

  private twice(names: readonly string[], key: string): void {
    const again = names.find((each, at) => each !== '' && names.indexOf(each) !== at);
    if (again !== undefined) this.at.missing(key, `each once, and ${again} stands twice`);
  }

  private ask(at: FactReader): Ask {
    this.known(at, 'id text why part when kind unit is from to apart options');
    const kind = at.oneOf('kind', ASK_KINDS);
    const base = {
      id: at.text('id', ASK_ID, 'a name such as speed.1'),
      text: at.text('text'),
      why: at.text('why'),
      part: at.oneOf('part', ASKED_IN),
      when: {},
    };
    if (kind === 'text') return { ...base, kind, is: at.text('is') };
    if (kind === 'choice') {
      const options = at.list('options').map((each) => {
        this.known(each, 'id text');
        return { id: each.text('id'), text: each.text('text') };
      });
      const is = at.text('is');
      if (options.every(({ id }) => id !== is))
        this.odd(
          at,
          'is',
          is,
          options.map(({ id }) => id),
        );
      return { ...base, kind, options, is };
    }
    const unit = at.has('unit') ? at.text('unit') : '';
    if (unit !== '' && !unit.startsWith('$') && !isKnownUnit(unit)) at.missing('unit', 'a unit of the trade');
    const is = at.has('is') ? at.number('is') : null;
    const apart = at.has('apart') ? at.number('apart') : 0;
    return { ...base, kind, unit, is, from: null, to: null, apart };
  }

  /** What names other questions, once all of them are known. */
  private limits(at: FactReader, ask: Ask | undefined): void {
    if (!ask) return;
    const when = this.condition(at);
    const from = at.has('from') ? this.given(at, 'from') : null;
    const to = at.has('to') ? this.given(at, 'to') : null;
    const fresh: Ask = ask.kind === 'number' ? { ...ask, when, from, to } : { ...ask, when };
    if (ask.kind === 'number' && ask.unit.startsWith('$')) this.given(at, 'unit');
    this.asks = this.asks.map((each) => (each === ask ? fresh : each));
  }

  private condition(at: FactReader): Condition {
    if (!at.has('when')) return {};
    const group = at.in('when');
    return Object.fromEntries(
      group.keys().map((key) => {
        const is = group.text(key);
        const ask = this.asks.find(({ id }) => id === key);
        const options = ask?.kind === 'choice' ? ask.options.map(({ id }) => id) : COMMON_ASKS[key];
        if (!options) this.odd(group, key, key, this.choices());
        else if (!options.includes(is)) this.odd(group, key, is, options);
        return [key, is];
      }),
    );
  }

  private choices(): readonly string[] {
    return [
      ...this.asks.flatMap((ask) => (ask.kind === 'choice' ? [ask.id] : [])),
      ...Object.keys(COMMON_ASKS),
    ];
  }

  private given(at: FactReader, key: string): Given {
    const number = at.numberIfSo(key);
    if (number !== undefined) return number;
    const text = at.text(key, /\S/, 'a number, an option or $ with the name of a question');
    this.requireAsk(at, key, text);
    return text;
  }

  private requireAsk(at: FactReader, key: string, text: Given): void {
    const name = askOf(text);
    if (name !== undefined && this.asks.every(({ id }) => id !== name))
      this.odd(
        at,
        key,
        String(text),
        this.asks.map(({ id }) => `$${id}`),
      );
  }

  /** A list of two given values; nothing where there is none. */
  private pair(at: FactReader, key: string): readonly [Given, Given] | null {
    if (!at.has(key)) return null;
    const values = at.scalars(key);
    for (const each of values) this.requireAsk(at, key, each);
    const [low, high] = values;
    if (values.length === 2 && low !== undefined && high !== undefined) return [low, high];
    at.missing(key, 'a list of two: where it begins and where it ends');
    return null;
  }

  private device(at: FactReader): PointDevice {
    const base = {
      name: at.text('name', NAME, 'a name as on drawings: S1'),
      what: at.text('what'),
      when: this.condition(at),
    };
    const does = at.oneOf('does', DOES);
    switch (does) {
      case 'speeds': {
        this.known(at, 'name what when does speeds');
        const speeds = at.scalars('speeds');
        for (const each of speeds) this.requireAsk(at, 'speeds', each);
        return { ...base, does, speeds };
      }
      case 'inputs': {
        this.known(at, 'name what when does kind facts roles');
        const facts = this.facts(at);
        return { ...base, does, facts, roles: at.list('roles').map((each) => this.role(each, facts)) };
      }
      case 'signal': {
        this.known(at, 'name what when does kind facts transmitter feeds curve loss');
        return {
          ...{ ...base, does, feeds: at.oneOf('feeds', ['speed', 'loop', 'trim']) },
          facts: at.has('transmitter') ? this.transmitter(at.in('transmitter')) : this.facts(at),
          ...{ curve: this.pair(at, 'curve'), loss: at.has('loss') ? this.given(at, 'loss') : null },
        };
      }
      case 'output':
        this.known(at, 'name what when does kind facts tells');
        return { ...base, does, tells: this.function(at, 'tells'), facts: this.facts(at) };
      case 'through':
      case 'brake':
        this.known(at, 'name what when does kind facts');
        return { ...base, does, facts: this.facts(at) };
    }
  }

  private facts(at: FactReader): DeviceFacts {
    const kind = at.oneOf('kind', KINDS);
    const text = at.text('facts');
    const read = parseFacts(kind, text);
    if (read.ok) return read.value;
    at.missing('facts', `such as "${DEVICE_KINDS[kind]}"`);
    return { kind: 'sensor', sensor: 'ptc' };
  }

  private transmitter(at: FactReader): TransmitterFacts {
    this.known(at, 'signal wires low high unit');
    const signal = this.given(at, 'signal');
    if (askOf(signal) === undefined && !FIELD_SIGNALS.some((each) => each === signal))
      this.odd(at, 'signal', String(signal), FIELD_SIGNALS);
    const [wires, low, high, unit] = [
      this.given(at, 'wires'),
      this.given(at, 'low'),
      this.given(at, 'high'),
      this.given(at, 'unit'),
    ];
    return { kind: 'transmitter', signal, wires, low, high, unit };
  }

  private role(at: FactReader, facts: DeviceFacts): DigitalRole {
    this.known(at, 'contact does opens through');
    const contact = at.text('contact');
    const all = connectionsOf(facts);
    if (!endsOf(contact).every((end) => all.includes(end))) this.odd(at, 'contact', contact, all);
    return {
      ...{ contact, does: this.function(at, 'does') },
      opens: at.has('opens') && at.flag('opens'),
      through: at.has('through') ? at.texts('through') : [],
    };
  }

  /** A contact in series belongs to a device of this file. */
  private throughs(): void {
    for (const device of this.devices)
      for (const through of device.does === 'inputs' ? device.roles.flatMap((role) => role.through) : []) {
        const [name = '', contact = ''] = through.split(':');
        const other = this.devices.find((each) => each.name === name);
        const ends = other && 'facts' in other ? connectionsOf(other.facts as DeviceFacts) : [];
        if (!endsOf(contact).every((end) => ends.includes(end)))
          this.at.missing(
            'devices',
            `such that ${device.name} goes through a contact that there is, not ${through}`,
          );
      }
  }

  private function(at: FactReader, key: string): string {
    const name = at.text(key);
    if (this.vocabulary.wordsForOption(name).length === 0)
      this.odd(at, key, name, ['a function of the vocabulary (meanings.yaml)']);
    return name;
  }

  private setting(at: FactReader): PointSetting {
    this.known(at, 'meaning is range per why may when');
    const meaning = at.text('meaning');
    const entry = this.vocabulary.of(meaningOf(meaning));
    const is = this.given(at, 'is');
    if (!entry) this.odd(at, 'meaning', meaning, ['a meaning of the vocabulary (meanings.yaml)']);
    else if (
      typeof is === 'string' &&
      askOf(is) === undefined &&
      entry.options &&
      !entry.options.includes(is)
    )
      this.odd(at, 'is', is, entry.options);
    return {
      ...{ meaning, is, range: this.pair(at, 'range'), why: at.text('why') },
      per: at.has('per') ? at.oneOf('per', ['base-frequency']) : null,
      ...{ may: at.has('may') && at.flag('may'), when: this.condition(at) },
    };
  }

  private row(at: FactReader): TableRow {
    this.known(at, 'act must at why when');
    const act = at.texts('act');
    for (const each of act) this.action(at, each);
    return {
      ...{ act, must: at.oneOf('must', MUSTS), at: at.has('at') ? this.speed(at) : null },
      ...{ why: at.text('why'), when: this.condition(at) },
    };
  }

  private action(at: FactReader, text: string): void {
    const [, broken, worked, place] = ACT.exec(text) ?? [];
    const name = worked ?? broken;
    if (!ACT.test(text))
      this.odd(at, 'act', text, ['S1 on', 'S1 press', 'S2 to 1', 'A1 at 50', 'break A1', 'supply off']);
    if (name === undefined) return;
    const device = this.devices.find((each) => each.name === name);
    if (!device)
      this.odd(
        at,
        'act',
        name,
        this.devices.map((each) => each.name),
      );
    else if (place !== undefined && !placesOf(device).includes(place))
      this.odd(at, 'act', place, placesOf(device));
  }

  private speed(at: FactReader): SpeedMust {
    const number = at.numberIfSo('at');
    if (number !== undefined) return { kind: 'hertz', is: number };
    if (at.isGroup('at')) {
      const group = at.in('at');
      this.known(group, 'low high share');
      return {
        kind: 'between',
        low: this.given(group, 'low'),
        high: this.given(group, 'high'),
        share: group.number('share'),
      };
    }
    const text = at.text('at');
    const source = (['loop', 'raised', 'network', 'any'] as const).find((each) => each === text);
    if (source) return { kind: 'from', source };
    this.requireAsk(at, 'at', text);
    if (askOf(text) === undefined)
      at.missing('at', 'a speed in Hz, a question, or loop, raised, network, any');
    return { kind: 'hertz', is: text };
  }
}

/** Of a selector: for speeds they are counted from 1. */
export function placesOf(device: PointDevice): readonly string[] {
  if (device.does === 'speeds') return device.speeds.map((_, at) => String(at + 1));
  if (device.does === 'inputs' && device.facts.kind === 'selector')
    return device.facts.places.map(({ name }) => name);
  return [];
}
