import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { normalUnit, parseDecimal, rawInUnit, sameQuantity, type NumberForm } from './index.ts';

const form = (unit: string, step: number, places: number): NumberForm => ({
  kind: 'number',
  unit,
  resolution: { step, places },
});
const decimal = (text: string) => {
  const read = parseDecimal(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};

describe('units', () => {
  it.each([
    ['Sec', 's'],
    ['MSEC', 'ms'],
    ['amps', 'A'],
    ['OHM', 'Ω'],
    ['\u2126', 'Ω'],
    ['kgcm²', 'kg·cm²'],
    ['r/min', 'rpm'],
    ['HP', 'hp'],
    ['furlong', 'furlong'],
  ])('spell %s as %s', (text, unit) => {
    expect(normalUnit(text)).toBe(unit);
  });

  it.each([
    ['1.5', 'kW', form('W', 1, 0), 1500, true],
    ['250', 'ms', form('s', 1, 2), 25, true],
    ['2', 'hp', form('W', 1, 0), 1491, false],
    ['1.50', 'kW', form('hp', 25, 2), 8, false],
    ['-0.5', 'A', form('mA', 1, 0), -500, true],
    ['1', 'min', form('s', 1, 1), 600, true],
    ['0.0032', 'kg·m²', form('kg·cm²', 1, 1), 320, true],
    ['5', 'ms', form('s', 1, 2), 1, false],
  ])('take %s %s over into the resolution of the dictionary', (text, unit, into, raw, exact) => {
    expect(rawInUnit(into, decimal(text), unit)).toEqual({ raw, exact });
  });

  it('never turn one quantity into another', () => {
    expect(rawInUnit(form('Hz', 1, 1), decimal('50'), 's')).toBeUndefined();
    expect(rawInUnit(form('', 1, 0), decimal('50'), 's')).toBeUndefined();
    expect(sameQuantity('Hz', 's')).toBe(false);
    expect(sameQuantity('Secs', 's')).toBe(true);
  });

  it('give back the same value when it is told in a finer unit and taken back', () => {
    const pairs = [
      ['s', 'ms', 1000],
      ['kW', 'W', 1000],
      ['H', 'mH', 1000],
      ['%', '‰', 10],
    ] as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...pairs),
        fc.integer({ min: -1_000_000, max: 1_000_000 }),
        ([coarse, fine, factor], raw) => {
          const fineDigits = { digits: raw * factor, places: 0 };
          expect(rawInUnit(form(coarse, 1, 0), fineDigits, fine)).toEqual({
            raw: raw === 0 ? 0 : raw,
            exact: true,
          });
        },
      ),
      SEEDED,
    );
  });
});
