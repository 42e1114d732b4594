import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { INPUT_REGISTERS } from '../values/index.ts';
import { recount } from './recount.ts';
import {
  addressOf,
  candidatesFor,
  explain,
  integerAt,
  type Counting,
  type RegisterWay,
  type Shown,
} from './register-search.ts';

const counting = fc.constantFrom<Counting>(
  { code: 'from-0', input: false },
  { code: 'from-1', input: false },
  { code: 'from-1', input: true },
  { code: 'from-40001', input: false },
  { code: 'from-30001', input: true },
);
const way: fc.Arbitrary<RegisterWay> = fc.record({
  counting,
  width: fc.constantFrom(16, 32),
  signed: fc.constant(false),
  order: fc.constantFrom('high-first', 'low-first'),
  places: fc.integer({ min: 0, max: 3 }),
});

/** Base numbers that each way of counting reaches. */
const START: Readonly<Record<Counting['code'], number>> = {
  'from-0': 100,
  'from-1': 100,
  'from-40001': 40_100,
  'from-400001': 400_100,
  'from-30001': 30_100,
  'from-300001': 300_100,
};

function asShown(raw: number, places: number): string {
  const digits = String(raw).padStart(places + 1, '0');
  return places === 0 ? digits : `${digits.slice(0, -places)}.${digits.slice(-places)}`;
}

describe('the search for how a maker counts', () => {
  it('finds a way that reads the same values at the same places, from three numbers of a keypad', () => {
    const raws = fc.uniqueArray(fc.integer({ min: 1001, max: 60_000 }), { minLength: 3, maxLength: 3 });
    fc.assert(
      fc.property(way, raws, fc.infiniteStream(fc.nat({ max: 0xffff })), (truth, values, noise) => {
        const numbers = values.map((_, at) => START[truth.counting.code] + at * 6);
        const words = new Map<number, number>();
        for (const register of candidatesFor(numbers)) words.set(register, noise.next().value as number);
        values.forEach((raw, at) => {
          const address = addressOf(numbers[at] ?? 0, truth.counting) ?? 0;
          const both = truth.order === 'high-first' ? [0, raw] : [raw, 0];
          if (truth.width === 16) words.set(address, raw);
          else both.forEach((word, place) => words.set(address + place, word));
        });
        const shown: Shown[] = values.map((raw, at) => ({
          number: numbers[at] ?? 0,
          text: asShown(raw, truth.places),
        }));
        const [best] = explain(shown, words);
        expect(best?.explains).toEqual([0, 1, 2]);
        const read = best?.addresses.map((address) => integerAt(address, best.way, words));
        expect(read).toEqual(
          values.map((raw) => Math.round(raw * 10 ** ((best?.way.places ?? 0) - truth.places))),
        );
      }),
      SEEDED,
    );
  });

  it('says nothing where nothing fits, and names which of the numbers it explains', () => {
    const words = new Map(candidatesFor([101]).map((register) => [register, 7]));
    expect(explain([{ number: 101, text: '50.00' }], words)).toEqual([]);
    words.set(100, 5000);
    const [best] = explain(
      [
        { number: 101, text: '50.00' },
        { number: 205, text: '3' },
      ],
      words,
    );
    expect(best).toMatchObject({
      way: { counting: { code: 'from-1', input: false }, places: 2 },
      explains: [0],
    });
  });

  it('renumbers a table as it was found, and leaves what it does not reach as it stands', () => {
    const table = 'code,register\nA,40101 s16\nB,40230\nC,\nD,17 u16\nE,40001 u32\n';
    const found = recount(table, { code: 'from-40001', input: false });
    expect(found).toEqual({
      text: 'code,register\r\nA,100 s16\r\nB,229 u16\r\nC,\r\nD,17 u16\r\nE,0 u32\r\n',
      changed: 3,
      left: [5],
    });
    expect(recount('code\nA\n', { code: 'from-0', input: false })).toBeUndefined();
    expect(recount('register\n30005 u16\n', { code: 'from-30001', input: true })?.text).toBe(
      'register\r\ninput 4 u16\r\n',
    );
  });

  it('sees a negative value with its sign, and never reads over the end of an area', () => {
    const words = new Map([[10, 0xffff - 49]]);
    expect(explain([{ number: 10, text: '-5.0' }], words)[0]?.way).toMatchObject({ signed: true, places: 1 });
    expect(candidatesFor([65_536]).every((register) => register !== INPUT_REGISTERS)).toBe(true);
  });
});
