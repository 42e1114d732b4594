// Lists of options and of bits in one cell: `0 = off; 1 = on`, one a line, with any separator, with numbers in brackets. Every
// character of the cell belongs to an option; where one does not, the cell is not understood.

export interface WrittenChoice {
  readonly number: number;
  readonly text: string;
}

/** Why a cell is no list of options, for whoever has to mend it. */
export type ChoiceFault = 'no-list' | 'range' | 'negative' | 'twice' | 'rest';

/** How the numbers are written: `Bit 0` is a place, `0x01` may be a mask. */
export type Counted = 'plain' | 'bit' | 'hex';

export type Choices =
  | { readonly ok: true; readonly choices: readonly WrittenChoice[]; readonly counted: Counted }
  | { readonly ok: false; readonly why: ChoiceFault };

const no = (why: ChoiceFault): Choices => ({ ok: false, why });

/** `0`, `[0]`, `(0)`, `Bit 0`, `b0`, with what stands between it and its text. */
const NUMBER = '[[(]?(?:bit\\s*|b(?=\\d))?([-−]?\\d+|0x[0-9a-f]+)[\\])]?';
const MARK = '(?:\\s*(?:=>|->|→|=|:|–|—|\\)|\\.(?![\\d.]))\\s*|\\s+-\\s+)';
/** Between the number in brackets and its text there may be nothing. */
const BRACKETED = '[[(](?:bit\\s*)?([-−]?\\d+|0x[0-9a-f]+)[\\])]\\s*';
const START = new RegExp(`^(?:${NUMBER}${MARK}|${BRACKETED})(?=\\S)`, 'i');
const BARE_START = /^(\d+)\s+(?=\p{L})/u;
const TIGHT_START = /^(\d+)-(?=\p{L})/u;

/** Several numbers for one text: `2..5 = reserved`. */
const SEVERAL = /\d\s*(?:\.{2,3}|…|–|-|~|to|bis)\s*\d+\s*[=:]/i;

/** Where one option may end and the next begin. */
const SEPARATOR = /[;\n|,/\t]|\s{2,}|\s/g;

/**
 * `0 = off; 1: on` and their like. Numbers of several options (`2..5 = reserved`), negative numbers and numbers that are there
 * twice are told, not guessed. `withMarks`: a number with a word behind it is no option, as `0 Hz` is none.
 */
export function choicesIn(text: string, withMarks = false): Choices {
  const trimmed = text.trim().replace(/[;,|]\s*$/, '');
  for (const start of withMarks ? [START] : [START, TIGHT_START, BARE_START]) {
    const pieces = piecesOf(trimmed, start);
    if (pieces.length === 0) continue;
    // A single number with a word behind it is a number with a unit.
    if (start !== START && pieces.length < 2) continue;
    return choicesOf(pieces, start);
  }
  return no(SEVERAL.test(trimmed) ? 'range' : 'no-list');
}

/** Cuts at each separator behind which an option starts; nothing where the text does not begin with one. */
function piecesOf(text: string, start: RegExp): readonly string[] {
  if (!start.test(text)) return [];
  const pieces: string[] = [];
  let from = 0;
  // Of several kinds of separators only one separates: an option's own text may hold the others.
  for (const { index, 0: mark } of text.matchAll(SEPARATOR)) {
    const next = index + mark.length;
    const rest = text.slice(next).replace(/^\s+/, '');
    const piece = text.slice(from, index);
    if (index < from || !start.test(rest) || !start.test(piece)) continue;
    pieces.push(piece);
    from = text.length - rest.length;
  }
  return [...pieces, text.slice(from)];
}

function choicesOf(pieces: readonly string[], start: RegExp): Choices {
  const choices: WrittenChoice[] = [];
  const counted = countedIn(pieces[0] ?? '');
  for (const piece of pieces) {
    const match = start.exec(piece);
    // Bits among options, or masks among numbers, are not one list.
    if (!match || countedIn(piece) !== counted) return no('rest');
    const digits = (match[1] ?? match[2] ?? '').replace('−', '-');
    const words = piece
      .slice(match[0].length)
      .replace(/[;,|/\s]+$/, '')
      .trim();
    if (digits.startsWith('-')) return no('negative');
    if (SEVERAL.test(words) || /^\d+\s*[=:]/.test(words)) return no('range');
    // A number with its mark in the middle of a text is an option that was not cut off.
    if (words === '' || /[;\n|]/.test(words) || /(?:^|[\s,/])[-−]?\d+\s*(?:=|:\s)/.test(words))
      return no('rest');
    const number = Number(digits);
    if (choices.some((each) => each.number === number)) return no('twice');
    choices.push({ number, text: words });
  }
  return { ok: true, choices, counted };
}

function countedIn(piece: string): Counted {
  if (/^[[(]?(?:bit\s*|b(?=\d))/i.test(piece)) return 'bit';
  return /^[[(]?0x/i.test(piece) ? 'hex' : 'plain';
}

/** Bits named by their masks (`0x01 = fan; 0x02 = pump; 0x04 = valve`) to their places; others as they are. */
export function bitsOf({
  choices,
  counted,
}: Extract<Choices, { ok: true }>): readonly WrittenChoice[] | undefined {
  if (counted !== 'hex') return choices.every(({ number }) => number < 32) ? choices : undefined;
  const places = choices.map(({ number }) => Math.log2(number));
  if (places.some((place) => !Number.isInteger(place) || place > 31)) return undefined;
  return choices.map((choice, at) => ({ ...choice, number: places[at] ?? 0 }));
}

/** Hexadecimal numbers that are all single bits may be masks as well as options. */
export const mayBeMasks = ({ choices, counted }: Extract<Choices, { ok: true }>): boolean =>
  counted === 'hex' && choices.every(({ number }) => Number.isInteger(Math.log2(number)));

/** As the catalogue writes them. A meaning in brackets at the end (`terminals [source.terminals]`) stays; others are words. */
export const showChoices = (choices: readonly WrittenChoice[]): string =>
  choices.map(({ number, text }) => `${number} = ${plainWords(text)}`).join('; ');

function plainWords(words: string): string {
  const meaning = /\[[a-z][\w-]*(?:\.[\w-]+)+\]$/i.exec(words)?.[0] ?? '';
  const rest = words
    .slice(0, words.length - meaning.length)
    .replaceAll('[', '(')
    .replaceAll(']', ')');
  return `${rest.trim()} ${meaning}`.trim();
}
