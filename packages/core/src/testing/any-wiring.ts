// Random wirings of a drive on the bench: on each input a contact that closes or opens, one of a selector, two in series, or
// nothing.

import fc from 'fast-check';
import type { Dictionary } from '../dictionary/index.ts';
import type { FieldDevice, Wire, WireEnd, Wiring } from '../wiring/index.ts';
import { benchWiring, type Bench } from './bench-wiring.ts';

const SHAPES = ['closes', 'opens', 'selector', 'series', 'nothing'] as const;
/** Name of the selector; contacts are called as on the bench. */
export const SELECTOR = 'Z1';
export const PLACES = 3;

export interface Wished {
  readonly shapes: readonly (typeof SHAPES)[number][];
  /** In which places of the selector each of its contacts is closed. */
  readonly closed: readonly (readonly boolean[])[];
  readonly gap: boolean;
}

export const anyWish: fc.Arbitrary<Wished> = fc.record({
  shapes: fc.array(fc.constantFrom(...SHAPES), { minLength: 7, maxLength: 7 }),
  closed: fc.array(fc.array(fc.boolean(), { minLength: 7, maxLength: 7 }), {
    minLength: PLACES,
    maxLength: PLACES,
  }),
  gap: fc.boolean(),
});

const at = (device: string, connection: string): WireEnd => ({ kind: 'device', device, connection });
const wire = (from: WireEnd, to: WireEnd): Wire => ({ number: '', colour: '', from, to });

export function wishedWiring(model: Dictionary, { shapes, closed, gap }: Wished, bench: Bench): Wiring {
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
  const contacts = inputs.map((_, index): FieldDevice => ({
    ...{ kind: 'contact', name: `S${index + 1}`, what: '', momentary: false },
    contacts: [
      { name: '13-14', opens: false },
      { name: '21-22', opens: true },
    ],
  }));
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
        return [
          ...[wire(input, at(name, '14')), wire(at(name, '13'), at(next, '22'))],
          wire(at(next, '21'), side),
        ];
      default:
        return [];
    }
  });
  return {
    ...plain,
    devices: [...contacts, selector, ...senders],
    wires: [...wires, ...plain.wires.filter((each) => !isContact(each))],
  };
}
