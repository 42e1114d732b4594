// How decimals are written for people: with a point, or with a comma where the plant writes so. Set once by whoever shows
// numbers (the interface, the server); files that leave always have a point.

export const DECIMAL_MARKS = ['point', 'comma'] as const;
export type DecimalMarkName = (typeof DECIMAL_MARKS)[number];

let mark: DecimalMarkName = 'point';

export function writeDecimalsWith(wanted: DecimalMarkName): void {
  mark = wanted;
}

/** A number in the way of files, as people here write it. */
export const forPeople = (number: string): string => (mark === 'comma' ? number.replace('.', ',') : number);

/**
 * A number as people here type it, in the way of files. Where a comma is the mark, a point is no number: `1.250` would have two
 * readings, and stays as it is to be refused.
 */
export const asTyped = (text: string): string =>
  mark === 'point' ? text : text.includes('.') ? text.replace('.', ',') : text.replace(',', '.');
