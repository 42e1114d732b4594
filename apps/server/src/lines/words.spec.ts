import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { rawToWords, wordsToRaw } from './words.ts';

const place = fc.record({
  address: fc.constant(1),
  width: fc.constantFrom<16 | 32>(16, 32),
  signed: fc.boolean(),
});
const order = fc.constantFrom<'high-first' | 'low-first'>('high-first', 'low-first');

describe('register words', () => {
  it('give back the raw value that was put into them', () => {
    fc.assert(
      fc.property(place, order, fc.double({ min: 0, max: 1, noNaN: true }), (at, wordOrder, share) => {
        const span = 2 ** at.width - 1;
        const raw = Math.floor(share * span) - (at.signed ? 2 ** (at.width - 1) : 0);
        const words = rawToWords(at, raw, wordOrder);
        expect(words.every((word) => word >= 0 && word <= 0xffff)).toBe(true);
        expect(wordsToRaw(at, words, wordOrder)).toBe(raw);
      }),
      { seed: 640_712, numRuns: 500 },
    );
  });

  it('have the high word first or last, as the model has it', () => {
    const wide = { address: 1, width: 32, signed: false } as const;
    expect(rawToWords(wide, 0x0001_0002, 'high-first')).toEqual([1, 2]);
    expect(rawToWords(wide, 0x0001_0002, 'low-first')).toEqual([2, 1]);
  });
});
