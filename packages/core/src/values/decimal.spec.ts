import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { compareDecimal, formatDecimal, parseDecimal, subtractDecimal } from './index.ts';

const decimal = fc.record({ digits: fc.integer(), places: fc.integer({ min: 0, max: 6 }) });

describe('decimals', () => {
  it('read back what was written, places included', () => {
    fc.assert(
      fc.property(decimal, (value) => {
        expect(parseDecimal(formatDecimal(value))).toEqual({
          ok: true,
          value: { ...value, digits: value.digits + 0 },
        });
      }),
      SEEDED,
    );
  });

  it.each([
    ['12.50', 1250, 2],
    ['-0.5', -5, 1],
    ['−0.5', -5, 1],
    ['+7', 7, 0],
    ['.25', 25, 2],
    ['3.', 3, 0],
    [' 40 ', 40, 0],
  ])('reads %s', (text, digits, places) => {
    expect(parseDecimal(text)).toEqual({ ok: true, value: { digits, places } });
  });

  it.each([
    ['', 'empty'],
    ['12,50', 'comma'],
    ['1,250.5', 'comma'],
    ['1.2.3', 'not-a-number'],
    ['0x10', 'not-a-number'],
    ['1e3', 'not-a-number'],
    ['.', 'not-a-number'],
    ['NaN', 'not-a-number'],
    ['99999999999999999999', 'too-long'],
  ])('refuses "%s" as %s', (text, fault) => {
    expect(parseDecimal(text)).toEqual({ ok: false, fault });
  });

  it('subtract without the error of binary fractions', () => {
    const difference = subtractDecimal({ digits: 3, places: 1 }, { digits: 1, places: 1 });
    expect(formatDecimal(difference)).toBe('0.2');
    expect(formatDecimal(subtractDecimal({ digits: 110, places: 2 }, { digits: 1, places: 0 }))).toBe('0.10');
  });

  it('order like the numbers they are, whatever their places', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 0, max: 3 }), (digits, more) => {
        const same = { digits: digits * 10 ** more, places: 1 + more };
        expect(compareDecimal({ digits, places: 1 }, same)).toBe(0);
        expect(compareDecimal({ digits: digits + 1, places: 1 }, same)).toBe(1);
      }),
      SEEDED,
    );
  });
});
