import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Parameter } from '../dictionary/index.ts';
import { anySet, SEEDED } from '../testing/arbitraries.ts';
import { shippedModel } from '../testing/shipped-model.ts';
import { type Reading, meaningOf } from '../values/index.ts';
import { compareSets, compareThree, wayOf, type ThreeWay } from './index.ts';

const ramp = findMeaning(shippedModel, meaningOf('ramp.up')) as Parameter;
const gone = undefined;
const unread: Reading = { unreadable: 'refused' };

describe('three ways', () => {
  it.each<[Reading | undefined, Reading | undefined, Reading | undefined, ThreeWay]>([
    [1, 1, 1, 'same'],
    [1, 1, 2, 'new'],
    [1, 2, 2, 'standing'],
    [1, 2, 1, 'mended'],
    [1, 2, 3, 'moved'],
    [gone, gone, gone, 'same'],
    [gone, gone, 1, 'new'],
    [gone, 1, gone, 'mended'],
    [1, gone, gone, 'standing'],
    [1, 1, gone, 'new'],
    [1, gone, 2, 'moved'],
    [1, unread, 1, 'mended'],
    [1, 1, unread, 'new'],
    [unread, 1, 1, 'standing'],
    [0, gone, 0, 'mended'],
  ])('baseline %p, before %p, now %p is %s', (baseline, before, now, way) => {
    expect(wayOf(ramp, baseline, before, now)).toBe(way);
  });

  it('tell of every difference from the baseline, and mirror when before and now change sides', () => {
    fc.assert(
      fc.property(anySet, anySet, anySet, (baseline, before, now) => {
        const rows = compareThree(shippedModel, baseline, before, now);
        const of = (...ways: ThreeWay[]) =>
          rows.filter(({ way }) => ways.includes(way)).map(({ code }) => code);
        const drift = compareSets(shippedModel, baseline, now).rows.map(({ code }) => code);
        expect(of('new', 'standing', 'moved')).toEqual(drift);
        const back = compareThree(shippedModel, baseline, now, before);
        const mirrored: Record<ThreeWay, ThreeWay> = {
          same: 'same',
          new: 'mended',
          mended: 'new',
          standing: 'standing',
          moved: 'moved',
        };
        expect(back.map(({ code, way }) => `${code} ${way}`)).toEqual(
          rows.map(({ code, way }) => `${code} ${mirrored[way]}`),
        );
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });
});
