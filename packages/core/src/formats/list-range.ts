// Ranges in one cell: `0.0 to 400.0 Hz`, `0 … 60`, `1 ms bis 60 s`, `±100 %`. Understood whole or not at all.

import { inUnit } from '../values/index.ts';
import { NUMBER, numberIn, unitIn, type DecimalMark } from './list-number.ts';

export interface WrittenRange {
  readonly minimum: string;
  readonly maximum: string;
  readonly unit: string;
  /** The two ends had two units: one was converted, exactly. */
  readonly converted: boolean;
}

/** Between the ends, in English, German, French, Spanish, Italian and Dutch. */
const TO =
  "(?:\\.{2,3}|…|⋯|~|～|–|—|÷|-|(?<=[\\s\\d])(?:to|through|bis|à|a|al|hasta|fino a|tot(?: en met)?|t/m|jusqu['’]à)(?=[\\s\\d+−-]))";
const FROM = '(?:from|von|de|da|van|du|dal?)';
/** Only where there is no way without it: the `h` of `hasta` is no unit. */
const UNIT = '([^\\d\\s+\\-−.…~–—÷,;/|][^\\d.…~–—÷]*?)??';

const ranges = (mark: DecimalMark) => ({
  ends: new RegExp(
    `^(?:${FROM}\\s+)?(${NUMBER[mark]})\\s*${UNIT}\\s*${TO}\\s*(${NUMBER[mark]})\\s*(.*)$`,
    'is',
  ),
  named: new RegExp(
    `^min(?:imum)?\\.?\\s*[:=]?\\s*(${NUMBER[mark]})\\s*${UNIT}\\s*[,;/|\\n]?\\s*max(?:imum)?\\.?\\s*[:=]?\\s*(${NUMBER[mark]})\\s*(.*)$`,
    'is',
  ),
  around: new RegExp(`^(?:±|\\+/-|\\+-)\\s*(${NUMBER[mark]})\\s*(.*)$`, 's'),
});
const PATTERNS: Readonly<Record<DecimalMark, ReturnType<typeof ranges>>> = {
  point: ranges('point'),
  comma: ranges('comma'),
};

/** Nothing where the cell is no range from end to end, or its ends are of two quantities. */
export function rangeIn(text: string, mark: DecimalMark): WrittenRange | undefined {
  const bare = /^\[(.*)\]$/s.exec(text)?.[1]?.trim() ?? text;
  const { ends, named, around } = PATTERNS[mark];
  const both = around.exec(bare);
  if (both) {
    const size = numberIn(both[1] ?? '', mark);
    const unit = unitIn(both[2] ?? '');
    if (size === undefined || !unit || size.startsWith('-') || /^[\d.,]/.test(both[2] ?? ''))
      return undefined;
    return { minimum: `-${size}`, maximum: size, unit: unit.unit, converted: false };
  }
  const match = ends.exec(bare) ?? named.exec(bare);
  if (!match) return undefined;
  const [, low = '', left = '', high = '', right = ''] = match;
  const minimum = numberIn(low, mark);
  const maximum = numberIn(high, mark);
  const [a, b] = [unitIn(left), unitIn(right)];
  if (minimum === undefined || maximum === undefined || !a || !b || /^[\d.,]/.test(right)) return undefined;
  if (a.unit === '' || b.unit === '' || a.unit === b.unit)
    return { minimum, maximum, unit: b.unit || a.unit, converted: false };
  // Zero is zero in either of them.
  const lower = inUnit(minimum, a.unit, b.unit);
  if (lower !== undefined) return { minimum: lower, maximum, unit: b.unit, converted: true };
  const higher = inUnit(maximum, b.unit, a.unit);
  return higher === undefined ? undefined : { minimum, maximum: higher, unit: a.unit, converted: true };
}
