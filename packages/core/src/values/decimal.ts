// Decimal numbers as an integer and a count of places, so that no binary fraction is ever on the way.
// Good for what a drive can hold: up to 15 digits; larger numbers are refused, never rounded.

import { fail, ok, type Result } from './result.ts';

/** 12.50 is `{ digits: 1250, places: 2 }`. */
export interface Decimal {
  readonly digits: number;
  readonly places: number;
}

export type DecimalFault = 'empty' | 'comma' | 'not-a-number' | 'too-long';

const PLAIN = /^([+-]?)(\d*)(?:\.(\d*))?$/;

/** Reads a number written with a point. A decimal comma is a fault of its own: `1,250` has two readings. */
export function parseDecimal(text: string): Result<Decimal, DecimalFault> {
  const trimmed = text.trim().replace(/^−/, '-');
  if (trimmed === '') return fail('empty');
  if (/^[+-]?\d*(,\d*)+(\.\d*)?$/.test(trimmed)) return fail('comma');
  const match = PLAIN.exec(trimmed);
  const whole = match?.[2] ?? '';
  const fraction = match?.[3] ?? '';
  if (!match || whole + fraction === '') return fail('not-a-number');
  const digits = Number(whole + fraction);
  if (!Number.isSafeInteger(digits) || fraction.length > 12) return fail('too-long');
  return ok({ digits: match[1] === '-' && digits !== 0 ? -digits : digits, places: fraction.length });
}

/** Writes all places, with a plain ASCII minus: `-0.50`. */
export function formatDecimal({ digits, places }: Decimal): string {
  const text = String(Math.abs(digits)).padStart(places + 1, '0');
  const sign = digits < 0 ? '-' : '';
  if (places === 0) return sign + text;
  return `${sign}${text.slice(0, -places)}.${text.slice(-places)}`;
}

/** The same number with at least that many places; throws where 15 digits are not enough. */
function widen(value: Decimal, places: number): number {
  const digits = value.digits * 10 ** (places - value.places);
  if (!Number.isSafeInteger(digits)) throw new RangeError('decimal out of range');
  return digits;
}

/** Exact, with the places of the finer of both. RangeError where the digits do not fit into 53 bits. */
export function subtractDecimal(a: Decimal, b: Decimal): Decimal {
  const places = Math.max(a.places, b.places);
  return { digits: widen(a, places) - widen(b, places), places };
}

/** −1, 0 or 1; 0.50 and 0.5 are equal. RangeError as above. */
export function compareDecimal(a: Decimal, b: Decimal): number {
  return Math.sign(subtractDecimal(a, b).digits);
}

/** For drawing and ratios only, where a binary fraction does no harm. */
export const toNumber = (value: Decimal): number => value.digits / 10 ** value.places;
