// What a number in a manual and a number on a keypad say together: how the maker counts registers, in which area they are, how
// wide they are, in which order two words lie, and by how much the value is scaled. Every way of counting that is in use is
// tried against what was read; those that fit most of what was shown come first. Pure: the reading is done by others.

import { INPUT_REGISTERS } from '../values/index.ts';

/** A number as the manual gives it, and what the keypad shows there at this moment, such as `50.00`. */
export interface Shown {
  readonly number: number;
  readonly text: string;
}

/** How a number of the manual becomes a unified address. */
export interface Counting {
  readonly code: 'from-0' | 'from-1' | 'from-40001' | 'from-400001' | 'from-30001' | 'from-300001';
  readonly input: boolean;
}

export interface RegisterWay {
  readonly counting: Counting;
  readonly width: 16 | 32;
  readonly signed: boolean;
  /** Of no matter for one word. */
  readonly order: 'high-first' | 'low-first';
  /** The shown value is the raw one divided by ten to this power. */
  readonly places: number;
}

export interface RegisterGuess {
  readonly way: RegisterWay;
  /** Which of what was shown it explains, by place. */
  readonly explains: readonly number[];
  /** Where each would be read: unified addresses. */
  readonly addresses: readonly number[];
}

const OFFSETS: Readonly<Record<Counting['code'], number>> = {
  'from-0': 0,
  'from-1': 1,
  'from-40001': 40_001,
  'from-400001': 400_001,
  'from-30001': 30_001,
  'from-300001': 300_001,
};

/** Where a notation ends: 49999 is the last number of its kind, and 50000 is none of it. */
const LAST: Readonly<Partial<Record<Counting['code'], number>>> = {
  'from-40001': 49_999,
  'from-30001': 39_999,
};

/** Those whose numbers say themselves in which area they are. */
const ONLY_INPUT: readonly Counting['code'][] = ['from-30001', 'from-300001'];
const ONLY_HOLDING: readonly Counting['code'][] = ['from-40001', 'from-400001'];

const COUNTINGS: readonly Counting[] = (Object.keys(OFFSETS) as Counting['code'][]).flatMap((code) => [
  ...(ONLY_INPUT.includes(code) ? [] : [{ code, input: false }]),
  ...(ONLY_HOLDING.includes(code) ? [] : [{ code, input: true }]),
]);

const MOST_PLACES = 4;

/** The unified address of a manual's number; nothing where that way of counting does not reach it. */
export function addressOf(number: number, { code, input }: Counting): number | undefined {
  const address = number - OFFSETS[code];
  if (address < 0 || address > 0xffff || number > (LAST[code] ?? Infinity)) return undefined;
  return (input ? INPUT_REGISTERS : 0) + address;
}

/** How the maker counts, in a sentence. */
export function describeCounting({ code, input }: Counting): string {
  const area = input ? 'input registers (function 4)' : 'holding registers (function 3)';
  const from = OFFSETS[code];
  return from === 0
    ? `Counted from 0: number and address are the same, ${area}.`
    : `Counted from ${from}: number ${from} is address 0, ${area}.`;
}

/** Every register that could stand behind one of the numbers, in order: what has to be read for `explain`. */
export function candidatesFor(numbers: readonly number[]): readonly number[] {
  const all = numbers.flatMap((number) =>
    COUNTINGS.flatMap((counting) => {
      const address = addressOf(number, counting);
      return address === undefined ? [] : [address, address + 1];
    }),
  );
  const inArea = (address: number) => address !== INPUT_REGISTERS && address < 2 * INPUT_REGISTERS;
  return [...new Set(all)].filter(inArea).sort((a, b) => a - b);
}

/**
 * The ways that explain what was shown, those that explain most of it first, and of these the plainest: fewer words, the
 * places that the keypad shows, no sign where none is needed. `words` are the registers that could be read.
 */
export function explain(
  shown: readonly Shown[],
  words: ReadonlyMap<number, number>,
): readonly RegisterGuess[] {
  const guesses = waysFor(shown).flatMap((way) => {
    const explains = shown.flatMap((each, at) => (fits(each, way, words) ? [at] : []));
    if (explains.length === 0) return [];
    const addresses = shown.map(({ number }) => addressOf(number, way.counting) ?? -1);
    return [{ way, explains, addresses }];
  });
  const most = Math.max(0, ...guesses.map(({ explains }) => explains.length));
  return guesses
    .filter(({ explains }) => explains.length === most)
    .sort((a, b) => oddness(a.way, shown) - oddness(b.way, shown));
}

function waysFor(shown: readonly Shown[]): readonly RegisterWay[] {
  const signs = shown.some(({ text }) => /^[-−]/.test(text.trim())) ? [true] : [false];
  return COUNTINGS.flatMap((counting) =>
    signs.flatMap((signed) =>
      Array.from({ length: MOST_PLACES + 1 }, (_, places) => places).flatMap((places) => [
        { counting, width: 16 as const, signed, order: 'high-first' as const, places },
        { counting, width: 32 as const, signed, order: 'high-first' as const, places },
        { counting, width: 32 as const, signed, order: 'low-first' as const, places },
      ]),
    ),
  );
}

function fits({ number, text }: Shown, way: RegisterWay, words: ReadonlyMap<number, number>): boolean {
  const address = addressOf(number, way.counting);
  const wanted = rawOf(text, way.places);
  return address !== undefined && wanted !== undefined && wanted === integerAt(address, way, words);
}

/** The integer that lies at an address, seen in this way; nothing where it could not be read. */
export function integerAt(
  address: number,
  { width, signed, order }: Pick<RegisterWay, 'width' | 'signed' | 'order'>,
  words: ReadonlyMap<number, number>,
): number | undefined {
  const first = words.get(address);
  const second = words.get(address + 1);
  if (first === undefined || (width === 32 && second === undefined)) return undefined;
  const [high, low] = order === 'high-first' ? [first, second ?? 0] : [second ?? 0, first];
  const unsigned = width === 32 ? high * 0x1_0000 + low : first;
  return signed && unsigned >= 2 ** (width - 1) ? unsigned - 2 ** width : unsigned;
}

/** `50.00` with two places is 5000, with one place 500; nothing where a digit would be lost. Exact: digits are moved. */
function rawOf(text: string, places: number): number | undefined {
  const match = /^([-−+]?)(\d{1,10})(?:[.,](\d{1,6}))?$/.exec(text.trim());
  if (!match) return undefined;
  const [, sign = '', whole = '', part = ''] = match;
  const kept = part.replace(/0+$/, '');
  if (kept.length > places) return undefined;
  const raw = Number(`${whole}${kept.padEnd(places, '0')}`);
  return sign === '-' || sign === '−' ? -raw : raw;
}

/** How far a way is from what a keypad shows as it is; the plainest is 0. */
function oddness({ width, order, places, counting }: RegisterWay, shown: readonly Shown[]): number {
  const seen = Math.max(0, ...shown.map(({ text }) => /[.,](\d+)$/.exec(text.trim())?.[1]?.length ?? 0));
  return (
    (width === 32 ? 2 : 0) +
    (width === 32 && order === 'low-first' ? 1 : 0) +
    Math.abs(places - seen) * 4 +
    (counting.input ? 1 : 0) +
    Object.keys(OFFSETS).indexOf(counting.code) * 0.1
  );
}
