// Random wirings of a drive on the bench: on each input a contact that closes or opens, one of a selector, two in series, a
// winding, a safety relay, a field relay that seals itself in, or nothing; on the first analog input a sender or a potentiometer.

import fc from 'fast-check';
import { terminalsOf, type Dictionary, type Terminal } from '../dictionary/index.ts';
import type { FieldDevice, Wire, WireEnd, Wiring } from '../wiring/index.ts';
import { benchWiring, type Bench } from './bench-wiring.ts';

const SHAPES = [
  ...(['closes', 'opens', 'selector', 'series', 'winding', 'tripped', 'sealed', 'nothing'] as const),
] as const;
/** Name of the selector; contacts are called as on the bench. */
export const SELECTOR = 'Z1';
export const PLACES = 3;

export interface Wished {
  readonly shapes: readonly (typeof SHAPES)[number][];
  /** In which places of the selector each of its contacts is closed. */
  readonly closed: readonly (readonly boolean[])[];
  readonly gap: boolean;
  readonly potentiometer: boolean;
}

export const anyWish: fc.Arbitrary<Wished> = fc.record({
  shapes: fc.array(fc.constantFrom(...SHAPES), { minLength: 7, maxLength: 7 }),
  closed: fc.array(fc.array(fc.boolean(), { minLength: 7, maxLength: 7 }), {
    minLength: PLACES,
    maxLength: PLACES,
  }),
  gap: fc.boolean(),
  potentiometer: fc.boolean(),
});

const at = (device: string, connection: string): WireEnd => ({ kind: 'device', device, connection });
const end = (id: string): WireEnd => ({ kind: 'terminal', terminal: id });
const wire = (from: WireEnd, to: WireEnd): Wire => ({ number: '', colour: '', from, to });

export function wishedWiring(
  model: Dictionary,
  { shapes, closed, gap, potentiometer }: Wished,
  bench: Bench,
): Wiring {
  const plain = benchWiring(model, bench);
  const isContact = ({ from, to }: Wire) =>
    [from, to].some((end) => end.kind === 'device' && end.device.startsWith('S'));
  // Of each contact the bench has a wire to its input and one to the other side.
  const inputs = plain.wires
    .filter(isContact)
    .flatMap(({ from }) => (from.kind === 'terminal' ? [from] : []));
  const side = plain.wires
    .filter(isContact)
    .flatMap(({ from, to }) => (from.kind === 'device' ? [to] : []))[0];
  const senders = plain.devices.filter(({ kind }) => kind === 'transmitter');
  const contacts = inputs.map((_, index) => handOf(shapes[index], `S${index + 1}`));
  const relays = inputs.flatMap((_, index) => (shapes[index] === 'sealed' ? [relayOf(`K${index + 1}`)] : []));
  const terminals = model.terminals ? terminalsOf(model.terminals) : [];
  const zero = terminals.find(({ kind, signal }) => kind === 'common' && signal === '0 V')?.id ?? '';
  const plus = terminals.find(({ kind, volts }) => kind === 'supply' && (volts ?? 0) > 10)?.id ?? '';
  const names = inputs.map((_, index) => `${index + 1}3-${index + 1}4`);
  const selector: FieldDevice = {
    ...{ kind: 'selector', name: SELECTOR, what: '', between: gap ? 'open' : 'bridged' },
    contacts: names.map((name) => ({ name, opens: false })),
    places: closed.map((row, place) => ({
      name: String(place),
      closes: names.filter((_, index) => row[index]),
    })),
  };
  const wires = inputs.flatMap((input, index): readonly Wire[] => {
    if (!side) return [];
    const name = `S${index + 1}`;
    const next = `S${((index + 1) % inputs.length) + 1}`;
    switch (shapes[index]) {
      case 'closes':
        return [wire(input, at(name, '14')), wire(at(name, '13'), side)];
      case 'opens':
        return [wire(input, at(name, '22')), wire(at(name, '21'), side)];
      case 'selector':
        return [wire(input, at(SELECTOR, `${index + 1}4`)), wire(at(SELECTOR, `${index + 1}3`), side)];
      case 'series':
        // The next one has to be a contact.
        if (shapes[(index + 1) % inputs.length] === 'winding') return [];
        if (shapes[(index + 1) % inputs.length] === 'tripped') return [];
        return [
          ...[wire(input, at(name, '14')), wire(at(name, '13'), at(next, '22'))],
          wire(at(next, '21'), side),
        ];
      case 'winding':
        return [wire(input, at(name, 'T1')), wire(at(name, 'T2'), side)];
      case 'tripped':
        return [wire(input, at(name, '14')), wire(at(name, '13'), side)];
      case 'sealed': {
        const relay = `K${index + 1}`;
        const [from, back] = side.kind === 'terminal' && side.terminal === plus ? [plus, zero] : [zero, plus];
        return [
          ...[wire(end(from), at(name, '13')), wire(at(name, '14'), at(relay, 'A1'))],
          ...[wire(at(relay, 'A2'), end(back)), wire(input, at(relay, '14')), wire(at(relay, '13'), side)],
          ...[wire(end(from), at(relay, '23')), wire(at(relay, '24'), at(name, '14'))],
        ];
      }
      default:
        return [];
    }
  });
  const wired: Wiring = {
    ...plain,
    devices: [...contacts, selector, ...relays, ...senders],
    wires: [...wires, ...plain.wires.filter((each) => !isContact(each))],
  };
  return potentiometer ? withPotentiometer(wired, terminals, zero) : wired;
}

/** The device of an input by its shape. */
function handOf(shape: Wished['shapes'][number] | undefined, name: string): FieldDevice {
  const own = { name, what: '' };
  const closes = { name: '13-14', opens: false };
  if (shape === 'winding') return { ...own, kind: 'sensor', sensor: 'bimetal' };
  if (shape === 'tripped') return { ...own, kind: 'safety-relay', contacts: [closes] };
  return { ...own, kind: 'contact', momentary: false, contacts: [closes, { name: '21-22', opens: true }] };
}

const relayOf = (name: string): FieldDevice => ({
  ...{ kind: 'relay', name, what: '', volts: 24, milliamps: 50 },
  contacts: ['13-14', '23-24'].map((each) => ({ name: each, opens: false })),
});

/** The first sender becomes a potentiometer at the supply for it, where the model has one. */
function withPotentiometer(wiring: Wiring, terminals: readonly Terminal[], zero: string): Wiring {
  const feed = terminals.find(({ kind, volts }) => kind === 'supply' && (volts ?? 0) <= 10)?.id;
  const isFirst = ({ from, to }: Wire) =>
    [from, to].some((each) => each.kind === 'device' && each.device === 'B1');
  const input = wiring.wires.find((each) => isFirst(each) && each.from.kind === 'terminal')?.from;
  if (feed === undefined || !input) return wiring;
  return {
    ...wiring,
    devices: wiring.devices.map((each) =>
      each.name === 'B1' ? { kind: 'potentiometer', name: 'B1', what: '', ohms: 5000 } : each,
    ),
    wires: [
      ...wiring.wires.filter((each) => !isFirst(each)),
      ...[wire(end(feed), at('B1', '1')), wire(input, at('B1', '2')), wire(at('B1', '3'), end(zero))],
    ],
  };
}
