// A wiring as nothing but conductors, and devices that join their ends: for whoever looks at it without knowing tables, kinds of
// wires or drawings, as the hands at a simulated machine do.

import { contactsOf, endsOf, type FieldDevice } from './device.ts';
import { showEnd, type Wiring } from './wiring.ts';

export interface PlainDevice {
  readonly name: string;
  readonly kind: FieldDevice['kind'];
  readonly what: string;
  /** Contacts by their two connections. */
  readonly contacts: readonly { readonly between: readonly [string, string]; readonly opens: boolean }[];
  /** Of a contact: it goes back by itself. */
  readonly momentary?: boolean;
  /** Of a selector: numbers of the contacts that are closed in each place, and whether all are open between places. */
  readonly places?: readonly (readonly number[])[];
  readonly gap?: boolean;
  /** Of a transmitter: the kind of its signal, and the connection at which it leaves. */
  readonly signal?: string;
  readonly sendsAt?: string;
}

export interface PlainWiring {
  readonly devices: readonly PlainDevice[];
  /** Wires and links by their rows, `wire 3`, with the two ends that each joins: `12`, `S2:13`. */
  readonly conductors: Readonly<Record<string, readonly [string, string]>>;
}

export const plainWiring = (wiring: Wiring): PlainWiring => ({
  devices: wiring.devices.map(plainDevice),
  conductors: Object.fromEntries([
    ...wiring.wires.map(({ from, to }, at) => [`wire ${at}`, [showEnd(from), showEnd(to)] as const] as const),
    ...wiring.links.map(({ between }, at) => [`link ${at}`, between] as const),
  ]),
});

function plainDevice(device: FieldDevice): PlainDevice {
  const { name, kind, what } = device;
  const contacts = contactsOf(device).map((contact) => ({
    between: endsOf(contact.name),
    opens: contact.opens,
  }));
  const plain = { name, kind, what, contacts };
  switch (device.kind) {
    case 'contact':
      return { ...plain, momentary: device.momentary };
    case 'transmitter':
      return { ...plain, signal: device.signal, sendsAt: device.wires === 2 ? '-' : 'out' };
    case 'selector': {
      const places = device.places.map(({ closes }) =>
        device.contacts.flatMap((each, at) => (closes.includes(each.name) ? [at] : [])),
      );
      return { ...plain, places, gap: device.between === 'open' };
    }
    default:
      return plain;
  }
}
