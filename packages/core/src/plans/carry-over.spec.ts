import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findParameter, type Code, type Dictionary } from '../dictionary/index.ts';
import { describeRaw, formatRaw, hasBit } from '../values/index.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { allModels } from '../testing/shipped-model.ts';
import { carryOver } from './index.ts';

const version = (id: string) => {
  const found = allModels.find(({ model }) => model.id === id);
  if (!found) throw new Error(id);
  return found;
};
const older = version('halvern-hn64@1');
const newer = version('halvern-hn64@2');

/** A number as a number, an option or a bit word in words. */
const shown = (model: Dictionary, code: Code, raw: unknown): unknown => {
  const form = findParameter(model, code)?.form;
  if (!form || typeof raw !== 'number') return raw;
  if (form.kind === 'number') return [Number(formatRaw(form, raw)), form.unit];
  if (form.kind === 'option') return describeRaw(form, raw);
  return form.bits.filter(({ bit }) => hasBit(raw, bit)).map(({ text }) => text);
};

describe('a set carried over to another version of its model', () => {
  it('is the same set where the version is the same', () => {
    fc.assert(
      fc.property(anySetOf(older.model, older.facts), (set) => {
        expect(carryOver(older.model, older.model, set)).toEqual({ readings: set.readings, homeless: [] });
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('holds every value as it was, in the terms of the other, or names its code', () => {
    fc.assert(
      fc.property(anySetOf(older.model, older.facts), (set) => {
        const { readings, homeless } = carryOver(older.model, newer.model, set);
        expect(readings.size + homeless.length).toBe(set.readings.size);
        for (const [code, raw] of readings) {
          expect([code, shown(newer.model, code, raw)]).toEqual([
            code,
            shown(older.model, code, set.readings.get(code)),
          ]);
        }
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('guesses nothing for a code that the other version does not have', () => {
    const gone = older.model.parameters.filter(({ code }) => !findParameter(newer.model, code));
    expect(gone.length).toBeGreaterThan(0);
    const set = { dictionary: older.model.id, readings: new Map(gone.map(({ code }) => [code, 0])) };
    expect(carryOver(older.model, newer.model, set)).toEqual({
      readings: new Map(),
      homeless: gone.map(({ code }) => code),
    });
  });
});
