// A device in the field: what hangs on the wires. Its facts are written as a person types them in a table,
// `contacts 13-14 closes, 21-22 opens; momentary`; `parseDevice(formatFacts(x)) = x`. Contacts are named by their two
// connections, numbered as the trade does (IEC 60947, EN 50005).

import { fail, ok, type Result } from '../values/index.ts';

export interface DeviceContact {
  /** Its connections, `13-14`. */
  readonly name: string;
  /** True for a normally closed contact: it opens when the device is worked. */
  readonly opens: boolean;
}

export interface SelectorPlace {
  readonly name: string;
  /** Names of the contacts that are closed in this place. */
  readonly closes: readonly string[];
}

/** Kinds of analog signals, as the vocabulary names them. */
export const FIELD_SIGNALS = ['0-10-v', '2-10-v', '0-20-ma', '4-20-ma', 'bipolar-10-v'] as const;
export type FieldSignal = (typeof FIELD_SIGNALS)[number];

/** Kinds of signals of analog outputs. */
export const METER_SIGNALS = ['0-10-v', '0-20-ma', '4-20-ma'] as const;
export type MeterSignal = (typeof METER_SIGNALS)[number];

export const SENSORS = ['ptc', 'bimetal', 'linear'] as const;

export type DeviceFacts =
  /** One contact, or several of one device, interlocked: break before make. */
  | { readonly kind: 'contact'; readonly contacts: readonly DeviceContact[]; readonly momentary: boolean }
  | {
      readonly kind: 'selector';
      readonly contacts: readonly DeviceContact[];
      readonly places: readonly SelectorPlace[];
      /** Whether neighbouring places are bridged on the way, or all is open. */
      readonly between: 'open' | 'bridged';
    }
  /** A coil with contacts of its own that are wired back. */
  | {
      readonly kind: 'relay';
      readonly volts: number;
      readonly milliamps: number;
      readonly contacts: readonly DeviceContact[];
    }
  | { readonly kind: 'potentiometer'; readonly ohms: number }
  | {
      readonly kind: 'transmitter';
      readonly signal: FieldSignal;
      readonly wires: 2 | 4;
      readonly range: { readonly low: number; readonly high: number; readonly unit: string };
      /** What it gives to tell that it has failed, in mA; nothing where nobody said it. */
      readonly failsAt: number | null;
    }
  /** A meter, or the input of a controller, on an analog output. */
  | { readonly kind: 'meter'; readonly signal: MeterSignal }
  /** An output of a controller. */
  | { readonly kind: 'controller'; readonly volts: number }
  /** A lamp, a coil or another load. */
  | { readonly kind: 'load'; readonly volts: number; readonly milliamps: number }
  | { readonly kind: 'sensor'; readonly sensor: (typeof SENSORS)[number] }
  /** Two channels. */
  | { readonly kind: 'safety-relay'; readonly contacts: readonly DeviceContact[] }
  | { readonly kind: 'brake'; readonly volts: number; readonly milliamps: number }
  /** A supply of the cabinet, and what it can carry. */
  | { readonly kind: 'supply'; readonly volts: number; readonly milliamps: number };
export type DeviceKind = DeviceFacts['kind'];

/** The order is that of the choice on the screen; beside each what its facts look like. */
export const DEVICE_KINDS: Readonly<Record<DeviceKind, string>> = {
  contact: 'contacts 13-14 closes, 21-22 opens; momentary',
  selector: 'contacts 13-14 closes, 23-24 closes; places 0: / 1: 13-14 / 2: 23-24; between open',
  relay: '24 V; 50 mA; contacts 13-14 closes',
  potentiometer: '5000 Ω',
  transmitter: '4-20-ma; 2 wires; range 0 to 10 bar; fails at 3.6 mA',
  meter: '0-10-v',
  controller: '24 V',
  load: '24 V; 100 mA',
  sensor: 'ptc',
  'safety-relay': 'contacts 13-14 closes, 23-24 closes',
  brake: '24 V; 800 mA',
  supply: '24 V; 2500 mA',
};

export type FieldDevice = DeviceFacts & {
  /** As on the drawing: S2. */
  readonly name: string;
  /** What it is for, in words. */
  readonly what: string;
};

const COIL = ['A1', 'A2'] as const;

/** Where wires can be connected. */
export function connectionsOf(device: DeviceFacts): readonly string[] {
  switch (device.kind) {
    case 'contact':
    case 'selector':
    case 'safety-relay':
      return device.contacts.flatMap(({ name }) => endsOf(name));
    case 'relay':
      return [...COIL, ...device.contacts.flatMap(({ name }) => endsOf(name))];
    case 'load':
    case 'brake':
      return COIL;
    case 'potentiometer':
      return ['1', '2', '3'];
    case 'transmitter':
      return device.wires === 2 ? ['+', '-'] : ['+', '-', 'out', '0'];
    case 'controller':
    case 'supply':
    case 'meter':
      return ['+', '-'];
    case 'sensor':
      return ['T1', 'T2'];
  }
}

/** The contacts of a device, none where it has none. */
export const contactsOf = (device: DeviceFacts): readonly DeviceContact[] =>
  'contacts' in device ? device.contacts : [];

/** `13-14` is 13 and 14. */
export const endsOf = (contact: string): readonly [string, string] => {
  const [a = '', b = ''] = contact.split('-');
  return [a, b];
};

export function formatFacts(device: DeviceFacts): string {
  const contacts = (list: readonly DeviceContact[]) =>
    `contacts ${list.map(({ name, opens }) => `${name} ${opens ? 'opens' : 'closes'}`).join(', ')}`;
  switch (device.kind) {
    case 'contact':
      return contacts(device.contacts) + (device.momentary ? '; momentary' : '');
    case 'selector': {
      const places = device.places.map(({ name, closes }) => `${name}: ${closes.join(' + ')}`.trim());
      return `${contacts(device.contacts)}; places ${places.join(' / ')}; between ${device.between}`;
    }
    case 'relay':
      return `${device.volts} V; ${device.milliamps} mA; ${contacts(device.contacts)}`;
    case 'potentiometer':
      return `${device.ohms} Ω`;
    case 'transmitter': {
      const { low, high, unit } = device.range;
      const fails = device.failsAt === null ? '' : `; fails at ${device.failsAt} mA`;
      return `${device.signal}; ${device.wires} wires; range ${low} to ${high}${unit === '' ? '' : ` ${unit}`}${fails}`;
    }
    case 'meter':
      return device.signal;
    case 'controller':
      return `${device.volts} V`;
    case 'load':
    case 'brake':
    case 'supply':
      return `${device.volts} V; ${device.milliamps} mA`;
    case 'sensor':
      return device.sensor;
    case 'safety-relay':
      return contacts(device.contacts);
  }
}

/** Why facts are not understood: which piece, or which is missing. */
export type FactsFault = { readonly piece: string } | { readonly missing: string };

const CONTACTS = /^contacts\s+(.+)$/;
const CONTACT = /^([0-9A-Za-z]{1,4}-[0-9A-Za-z]{1,4})\s+(closes|opens)$/;
const PLACES = /^places\s+(.+)$/;
const NUMBER = '(-?\\d{1,6}(?:\\.\\d{1,4})?)';
const QUANTITIES = { volts: 'V', milliamps: 'mA', ohms: 'Ω' } as const;
/** The sign for ohm, its older double, or the word. */
const OHM = '(?:Ω|\u2126|[Oo]hm)';
const RANGE = new RegExp(`^range ${NUMBER} to ${NUMBER}(?: (\\S{1,12}))?$`);
const FAILS = new RegExp(`^fails at ${NUMBER} ?mA$`);

class FactsReader {
  private readonly pieces: string[];
  fault: FactsFault | undefined;

  constructor(text: string) {
    this.pieces = text
      .split(';')
      .map((piece) => piece.trim().replace(/\s+/g, ' ').replaceAll('–', '-'))
      .filter((piece) => piece !== '');
  }

  /** The piece that fits, taken out. */
  private take(pattern: RegExp): RegExpExecArray | undefined {
    const at = this.pieces.findIndex((piece) => pattern.test(piece));
    const piece = at === -1 ? undefined : this.pieces.splice(at, 1)[0];
    return piece === undefined ? undefined : (pattern.exec(piece) ?? undefined);
  }

  private missing(what: string): void {
    this.fault ??= { missing: what };
  }

  flag = (word: string): boolean => this.take(new RegExp(`^${word}$`)) !== undefined;

  quantity(name: keyof typeof QUANTITIES): number {
    const unit = name === 'ohms' ? OHM : QUANTITIES[name];
    const found = this.take(new RegExp(`^${NUMBER} ?${unit}$`));
    const value = Number(found?.[1]);
    if (value > 0) return value;
    this.missing(`a number in ${QUANTITIES[name]}`);
    return 1;
  }

  word<const T extends string>(allowed: readonly T[]): T {
    const found = this.take(new RegExp(`^(${allowed.join('|')})$`))?.[1];
    const word = allowed.find((each) => each === found);
    if (word === undefined) this.missing(`one of ${allowed.join(', ')}`);
    return word ?? (allowed[0] as T);
  }

  between(): 'open' | 'bridged' {
    return this.take(/^between (open|bridged)$/)?.[1] === 'bridged' ? 'bridged' : 'open';
  }

  wires(): 2 | 4 {
    const found = this.take(/^([24]) wires$/)?.[1];
    if (found === undefined) this.missing('2 wires or 4 wires');
    return found === '4' ? 4 : 2;
  }

  range(): { low: number; high: number; unit: string } {
    const found = this.take(RANGE);
    if (!found) this.missing('a range, such as "range 0 to 10 bar"');
    return { low: Number(found?.[1] ?? 0), high: Number(found?.[2] ?? 1), unit: found?.[3] ?? '' };
  }

  failsAt(): number | null {
    const found = this.take(FAILS)?.[1];
    return found === undefined ? null : Number(found);
  }

  contacts(): DeviceContact[] {
    const list = this.take(CONTACTS)?.[1];
    const found = (list ?? '').split(',').map((each) => CONTACT.exec(each.trim()));
    if (list === undefined) this.missing('its contacts, such as "contacts 13-14 closes"');
    else if (found.some((each) => each === null)) this.fault ??= { piece: `contacts ${list}` };
    const contacts = found.flatMap((each) =>
      each ? [{ name: each[1] ?? '', opens: each[2] === 'opens' }] : [],
    );
    const ends = contacts.flatMap(({ name }) => endsOf(name));
    if (new Set(ends).size < ends.length) this.fault ??= { piece: `contacts ${list ?? ''}` };
    return contacts;
  }

  places(contacts: readonly DeviceContact[]): SelectorPlace[] {
    const list = this.take(PLACES)?.[1];
    if (list === undefined) this.missing('its places, such as "places 0: / 1: 13-14"');
    return (list ?? '').split('/').map((each) => {
      const [, name = '', closed = ''] = /^([^:]*):(.*)$/.exec(each.trim()) ?? [];
      const closes = closed
        .split('+')
        .map((contact) => contact.trim())
        .filter((contact) => contact !== '');
      const known = closes.every((contact) => contacts.some((own) => own.name === contact));
      if (list !== undefined && (name === '' || !known)) this.fault ??= { piece: each.trim() };
      return { name, closes };
    });
  }

  /** What is left was not understood. */
  end(): FactsFault | undefined {
    const [rest] = this.pieces;
    return this.fault ?? (rest === undefined ? undefined : { piece: rest });
  }
}

/** The facts of a kind as they were typed; nothing is passed over. */
export function parseFacts(kind: DeviceKind, text: string): Result<DeviceFacts, FactsFault> {
  const reader = new FactsReader(text);
  const device = readFacts(kind, reader);
  const fault = reader.end();
  return fault ? fail(fault) : ok(device);
}

function readFacts(kind: DeviceKind, at: FactsReader): DeviceFacts {
  switch (kind) {
    case 'contact':
      return { kind, momentary: at.flag('momentary'), contacts: at.contacts() };
    case 'selector': {
      const contacts = at.contacts();
      return { kind, contacts, places: at.places(contacts), between: at.between() };
    }
    case 'relay':
      return {
        kind,
        volts: at.quantity('volts'),
        milliamps: at.quantity('milliamps'),
        contacts: at.contacts(),
      };
    case 'potentiometer':
      return { kind, ohms: at.quantity('ohms') };
    case 'transmitter':
      return {
        ...{ kind, signal: at.word(FIELD_SIGNALS), wires: at.wires(), range: at.range() },
        failsAt: at.failsAt(),
      };
    case 'meter':
      return { kind, signal: at.word(METER_SIGNALS) };
    case 'controller':
      return { kind, volts: at.quantity('volts') };
    case 'load':
    case 'brake':
    case 'supply':
      return { kind, volts: at.quantity('volts'), milliamps: at.quantity('milliamps') };
    case 'sensor':
      return { kind, sensor: at.word(SENSORS) };
    case 'safety-relay':
      return { kind, contacts: at.contacts() };
  }
}
