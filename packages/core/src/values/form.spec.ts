import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { rawOf, SEEDED } from '../testing/arbitraries.ts';
import { shippedModel } from '../testing/shipped-model.ts';
import { describeRaw, formatRaw, parseRaw, showRaw, type Form } from './index.ts';

const quarter: Form = { kind: 'number', unit: 'A', resolution: { step: 25, places: 2 } };
const option: Form = {
  kind: 'option',
  options: [
    { raw: 0, text: 'Off' },
    { raw: 3, text: 'Ramp' },
  ],
};
const bits: Form = {
  kind: 'bits',
  bits: [
    { bit: 0, text: 'fan' },
    { bit: 9, text: 'brake' },
  ],
};

describe('a raw value as text', () => {
  it('reads back to itself for every parameter of the shipped model', () => {
    for (const parameter of shippedModel.parameters) {
      fc.assert(
        fc.property(rawOf(parameter), (raw) => {
          expect(parseRaw(parameter.form, formatRaw(parameter.form, raw))).toEqual({ ok: true, value: raw });
        }),
        { ...SEEDED, numRuns: 30 },
      );
    }
  });

  it('has exactly the places of the resolution', () => {
    expect(formatRaw(quarter, 5)).toBe('1.25');
    expect(formatRaw(quarter, -1)).toBe('-0.25');
    expect(formatRaw({ kind: 'number', unit: '', resolution: { step: 10, places: 0 } }, 7)).toBe('70');
  });

  it('shows a word of bits at its full width and names the bits that are set', () => {
    expect(formatRaw(bits, 0b10_0000_0001)).toBe('0b0000001000000001');
    expect(describeRaw(bits, 0b10_0000_0001)).toBe('fan, brake');
    expect(describeRaw(bits, 0)).toBe('none');
  });

  it('shows units and option texts to people', () => {
    expect(showRaw(quarter, -6)).toBe('−1.50 A');
    expect(showRaw(option, 3)).toBe('3 Ramp');
    expect(showRaw(option, 4)).toBe('4 unknown option');
  });
});

describe('text as a raw value', () => {
  it('refuses a value between two steps instead of rounding it', () => {
    expect(parseRaw(quarter, '1.3')).toEqual({
      ok: false,
      fault: { code: 'between-steps', text: '1.3', step: '0.25' },
    });
  });

  it('takes more places than the resolution has when they are zeros', () => {
    expect(parseRaw(quarter, '1.2500')).toEqual({ ok: true, value: 5 });
  });

  it('says that a comma is the trouble', () => {
    expect(parseRaw(quarter, '1,25')).toMatchObject({
      ok: false,
      fault: { code: 'not-a-number', why: 'comma' },
    });
  });

  it('takes an option by number or by its text, in any case', () => {
    expect(parseRaw(option, '3')).toEqual({ ok: true, value: 3 });
    expect(parseRaw(option, 'ramp')).toEqual({ ok: true, value: 3 });
    expect(parseRaw(option, 'coast')).toMatchObject({ ok: false, fault: { code: 'not-an-option' } });
  });

  it('takes bits only as bits', () => {
    expect(parseRaw(bits, '0b101')).toEqual({ ok: true, value: 5 });
    expect(parseRaw(bits, '5')).toMatchObject({ ok: false, fault: { code: 'not-bits' } });
  });
});
