// Numbers as people write them in lists: with thousands marks, a decimal point or comma, and a unit behind. A cell is understood
// whole or not at all: what would be left over is never dropped.

import { isKnownUnit, normalUnit } from '../values/index.ts';

export type DecimalMark = 'point' | 'comma';

/** A number with a point and nothing else, such as `-1250.5`, and the unit that stands behind it. */
export interface WrittenNumber {
  readonly number: string;
  readonly unit: string;
}

/** Spaces that separate thousands: no-break, thin, narrow no-break, figure space, and the one of the keyboard. */
const SPACES = '[ \\u00A0\\u2007\\u2009\\u202F]';
const APOSTROPHE = "['’]";
const SIGN = '[+\\-−]?';

const grouped = (mark: string): string => `\\d{1,3}(?:${mark}\\d{3})+`;
const wholes = (mark: string): string =>
  `(?:${grouped(mark)}|${grouped(SPACES)}|${grouped(APOSTROPHE)}|\\d+)`;

/** What counts as a number by the mark of the list; in brackets where it is part of a longer pattern. */
export const NUMBER: Readonly<Record<DecimalMark, string>> = {
  point: `(?:${SIGN}(?:${wholes(',')}(?:\\.\\d+)?|\\.\\d+))`,
  comma: `(?:${SIGN}(?:${wholes('\\.')}(?:,\\d+)?|,\\d+))`,
};

/** A cell that the file itself keeps as a number. */
const STORED = /^-?\d+(?:\.\d+)?$/;

const whole: Readonly<Record<DecimalMark, RegExp>> = {
  point: new RegExp(`^${NUMBER.point}$`),
  comma: new RegExp(`^${NUMBER.comma}$`),
};

/** `1.250,5` and `1 250,5` with a comma, `1,250.5` with a point: `1250.5`. Nothing where it is no number from end to end. */
export function numberIn(text: string, mark: DecimalMark): string | undefined {
  if (!whole[mark].test(text)) return undefined;
  const thousands = mark === 'comma' ? /[.'’ \u00A0\u2007\u2009\u202F]/g : /[,'’ \u00A0\u2007\u2009\u202F]/g;
  const plain = text
    .replace(thousands, '')
    .replace(',', '.')
    .replace('−', '-')
    .replace(/^\+/, '')
    .replace(/^(-?)\./, '$10.');
  return /^-0+(?:\.0+)?$/.test(plain) ? plain.slice(1) : plain;
}

export const storedNumber = (text: string): WrittenNumber | undefined =>
  STORED.test(text) ? { number: text, unit: '' } : undefined;

/** Words that stand where a unit could, and say that the number is not all. */
const NO_UNIT = new Set(
  'max min typ approx ca circa ab from up to or oder ou y e and und et x note see siehe default factor of rated motor'.split(
    ' ',
  ),
);
/** `100 k`, `0xFF`, `1F`: a multiplier, or digits of another kind of number. */
const NOT_ALONE = /^(?:[kKMGT]|x.*|[B-Fb-f]|[0-9a-f]*h)$/i;
const UNIT_SHAPE = /^(?:[%‰°]\s?)?[\p{L}µΩ%‰°][\p{L}µΩ%‰°/·*²³⁻¹]{0,9}$/u;

/** The unit as it is written, and whether it is one of the trade; nothing where it can be none. */
export function unitIn(text: string): { readonly unit: string; readonly known: boolean } | undefined {
  const unit = text.trim().replace(/^(\p{L}{2,})\.$/u, '$1');
  if (unit === '') return { unit, known: true };
  if (isKnownUnit(unit)) return { unit: normalUnit(unit), known: true };
  if (!UNIT_SHAPE.test(unit) || NO_UNIT.has(unit.toLowerCase()) || NOT_ALONE.test(unit)) return undefined;
  return { unit, known: false };
}

const withUnit: Readonly<Record<DecimalMark, RegExp>> = {
  point: new RegExp(`^(${NUMBER.point})\\s*(.*)$`, 's'),
  comma: new RegExp(`^(${NUMBER.comma})\\s*(.*)$`, 's'),
};

/** `12.5 Hz`, `[50]`: a number with or without a unit. Brackets around the whole cell are dress. */
export function numberWithUnit(text: string, mark: DecimalMark): WrittenNumber | undefined {
  const bare = /^\[(.*)\]$/s.exec(text)?.[1]?.trim() ?? text;
  const [, digits = '', rest = ''] = withUnit[mark].exec(bare) ?? [];
  const number = numberIn(digits, mark);
  // `1,5` with a point as mark would be 1, with `,5` as its unit.
  const unit = /^[\d.,]/.test(rest) ? undefined : unitIn(rest);
  return number === undefined || !unit ? undefined : { number, unit: unit.unit };
}

/** Evidence for either mark: `0,5` and `1.234,5` for a comma; `1,250` may be both, and is none. */
export function markOf(texts: readonly string[]): { readonly mark: DecimalMark; readonly sure: boolean } {
  const count = (pattern: RegExp) => texts.filter((text) => pattern.test(text)).length;
  const evidence = (mark: string, thousands: string) =>
    count(
      new RegExp(
        [
          `(?<![\\d.,])\\d*${mark}(?:\\d{1,2}|\\d{4,})(?![\\d${mark}])`,
          // A group of thousands does not begin with zero, and there may be several of them.
          `(?<![\\d.,])0${mark}\\d{3}(?![\\d.,])`,
          `\\d${thousands}\\d{3}(?:${mark}\\d|${thousands}\\d{3})`,
        ].join('|'),
      ),
    );
  const commas = evidence(',', '\\.');
  const points = evidence('\\.', ',');
  const open = count(/(?<![\d.,])[1-9]\d{0,2}([.,])\d{3}(?![\d.,])/);
  const mark = commas > points ? 'comma' : 'point';
  return { mark, sure: commas + points > 0 ? commas === 0 || points === 0 : open === 0 };
}

/** Whole numbers in hexadecimal, where the heading says that they are: `1F`, `0x1F`, `1Fh` to `31`. */
export function hexIn(text: string): string | undefined {
  const digits = /^(?:0x|\$|#)?([0-9a-f]{1,8})h?$/i.exec(text)?.[1];
  return digits === undefined ? undefined : String(Number.parseInt(digits, 16));
}
