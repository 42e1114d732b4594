import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Code } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { anySet, rawOf, SEEDED, settings } from '../testing/arbitraries.ts';
import { shippedModel } from '../testing/shipped-model.ts';
import { sameReading, type Reading, meaningOf } from '../values/index.ts';
import { applyRows, compareSets, describeChange, differenceOf, type Difference } from './index.ts';

const FEW = { ...SEEDED, numRuns: 60 };

function parameter(meaning: string) {
  const found = findMeaning(shippedModel, meaningOf(meaning));
  if (!found) throw new Error(meaning);
  return found;
}

const setOf = (...entries: [string, Reading][]): ParameterSet => ({
  dictionary: shippedModel.id,
  readings: new Map(entries as [Code, Reading][]),
});

describe('comparing two sets', () => {
  it('finds nothing between a set and itself', () => {
    fc.assert(
      fc.property(anySet, (set) => {
        const unreadable = [...set.readings.values()].filter((reading) => typeof reading === 'object').length;
        const { rows, same } = compareSets(shippedModel, set, set);
        expect(rows).toHaveLength(unreadable);
        expect(rows.every((row) => row.difference.kind === 'unreadable')).toBe(true);
        expect(same).toBe(settings.length - unreadable);
      }),
      FEW,
    );
  });

  it('gives rows that turn A into B', () => {
    fc.assert(
      fc.property(anySet, anySet, (a, b) => {
        const { rows } = compareSets(shippedModel, a, b);
        const after = applyRows(a, rows);
        for (const { code, keeping } of settings) {
          const [made, wanted] = [after.readings.get(code), b.readings.get(code)];
          // What the drive measured may stay within its tolerance; everything else is exact.
          if (keeping === 'measured' && typeof made === 'number' && typeof wanted === 'number') {
            expect(Math.abs(made - wanted)).toBeLessThanOrEqual(
              0.1 * Math.max(Math.abs(made), Math.abs(wanted)),
            );
          } else expect(sameReading(made, wanted)).toBe(true);
        }
      }),
      FEW,
    );
  });

  it('says the mirror image when the sides are swapped', () => {
    const mirrored: Partial<Record<Difference['kind'], Difference['kind']>> = {
      greater: 'less',
      less: 'greater',
      'only-a': 'only-b',
      'only-b': 'only-a',
    };
    fc.assert(
      fc.property(anySet, anySet, (a, b) => {
        const there = compareSets(shippedModel, a, b);
        const back = compareSets(shippedModel, b, a);
        expect(back.rows.map(({ code, difference: { kind } }) => [code, kind])).toEqual(
          there.rows.map(({ code, difference: { kind } }) => [code, mirrored[kind] ?? kind]),
        );
        expect([back.same, back.tolerated]).toEqual([there.same, there.tolerated]);
      }),
      FEW,
    );
  });

  it('accounts for every parameter once', () => {
    fc.assert(
      fc.property(anySet, anySet, (a, b) => {
        const { rows, same, tolerated, leftOut } = compareSets(shippedModel, a, b);
        expect(rows.length + same + tolerated + leftOut).toBe(shippedModel.parameters.length);
      }),
      FEW,
    );
  });

  it('leaves out counters and monitors unless they are asked for', () => {
    const hours = parameter('counter.runHours');
    const [a, b] = [setOf([hours.code, 100]), setOf([hours.code, 200])];
    expect(compareSets(shippedModel, a, b).rows).toHaveLength(0);
    expect(compareSets(shippedModel, a, b, { noise: true }).rows.map((row) => row.code)).toEqual([
      hours.code,
    ]);
  });

  it('names codes that the dictionary does not have', () => {
    expect(compareSets(shippedModel, setOf(['77X', 1]), setOf()).unknown).toEqual(['77X']);
  });
});

describe('a difference', () => {
  it('tells a missing value, an unreadable one and zero apart', () => {
    const ramp = parameter('ramp.up');
    const refused = { unreadable: 'refused' } as const;
    const kind = (a: Reading | undefined, b: Reading | undefined) => differenceOf(ramp, a, b).kind;
    expect([
      kind(0, undefined),
      kind(undefined, 0),
      kind(0, refused),
      kind(refused, undefined),
      kind(0, 0),
    ]).toEqual(['only-a', 'only-b', 'unreadable', 'unreadable', 'same']);
  });

  it('of a bit word names exactly the bits that turned', () => {
    const word = parameter('protect.warningsAsFaults');
    fc.assert(
      fc.property(rawOf(word), rawOf(word), (a, b) => {
        const difference = differenceOf(word, a, b);
        if (difference.kind !== 'bits') return void expect(a).toBe(b);
        const turn = (bits: readonly number[]) => bits.reduce((sum, bit) => (sum | (1 << bit)) >>> 0, 0);
        expect(((a & ~turn(difference.off)) | turn(difference.on)) >>> 0).toBe(b);
        expect(turn(difference.on) & a).toBe(0);
      }),
      SEEDED,
    );
  });

  it('of a measured value is tolerated up to a tenth and no further', () => {
    const resistance = parameter('motor.statorResistance');
    expect(differenceOf(resistance, 4500, 5000).kind).toBe('within-tolerance');
    expect(differenceOf(resistance, 4499, 5000).kind).toBe('greater');
    expect(differenceOf(parameter('ramp.up'), 4999, 5000).kind).toBe('greater');
  });
});

describe('the change in words', () => {
  it.each<[string, Reading | undefined, Reading | undefined, string]>([
    ['ramp.up', 800, 2000, '+12.00 s (×2.5)'],
    ['preset.contact.3', 1200, 900, '−3.00 Hz (×0.75)'],
    ['ramp.up', 1000, 1020, '+0.20 s (×1.02)'],
    ['ramp.up', 100, 60000, '+599.00 s (×600)'],
    ['ramp.up', 0, 500, '+5.00 s'],
    ['loop.setpoint', -50, 50, '+10.0 %'],
    ['stop.mode', 0, 1, 'ramp → coast'],
    ['stop.mode', 0, 9, 'ramp → option 9'],
    ['restart.faults', 0b110, 0b1010, 'on: motor overload; off: undervoltage'],
    ['ramp.up', undefined, 500, 'missing in A'],
    ['ramp.up', 500, { unreadable: 'refused' }, 'unreadable in B'],
    ['motor.statorResistance', 4700, 4800, '+0.100 Ω (×1.02), within tolerance'],
  ])('of %s from %j to %j is "%s"', (meaning, a, b, words) => {
    expect(describeChange(parameter(meaning), a, b)).toBe(words);
  });
});
