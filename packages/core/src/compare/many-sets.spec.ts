import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Code, type Dictionary } from '../dictionary/index.ts';
import { defaultSet, type ParameterSet } from '../sets/index.ts';
import { anySet, SEEDED, wholeSet } from '../testing/arbitraries.ts';
import { allModels, outfit, shippedModel } from '../testing/shipped-model.ts';
import { type Reading, meaningOf } from '../values/index.ts';
import { comparePeers, compareSets, type PeerRow } from './index.ts';

const ramp = findMeaning(shippedModel, meaningOf('ramp.up'))?.code as Code;
const defaults = defaultSet(shippedModel, outfit) as ParameterSet;
const holding = (reading: Reading | undefined): ParameterSet => {
  const readings = new Map(defaults.readings);
  if (reading === undefined) readings.delete(ramp);
  else readings.set(ramp, reading);
  return { ...defaults, readings };
};
const rowOf = (...readings: (Reading | undefined)[]) => {
  const { rows } = comparePeers(shippedModel, readings.map(holding));
  return rows.find(({ code }) => code === ramp);
};

describe('peers of two versions of a model', () => {
  const newer = allModels.find(({ model }) => model.id === 'halvern-hn64@2')?.model as Dictionary;
  const set = defaultSet(newer, outfit) as ParameterSet;

  it('are compared on what both versions count alike', () => {
    const { rows, agreed, leftOut } = comparePeers(shippedModel, [defaults, defaults, set], [newer]);
    const codes = rows.map(({ code }) => code);
    // Another default of the newer version is a difference, what only it has is none.
    expect(codes).toContain('15T');
    expect(codes).not.toContain('29R');
    expect(agreed + leftOut + rows.length).toBe(shippedModel.parameters.length);
    expect(rows.find(({ code }) => code === '15T')?.odd).toEqual([2]);
  });

  it('leave out what a version calls something else', () => {
    const texts = newer.parameters.map((each) =>
      each.code === '24R' && each.form.kind === 'option'
        ? {
            ...each,
            form: { ...each.form, options: each.form.options.map((o) => ({ ...o, text: `x${o.text}` })) },
          }
        : each,
    );
    const other = { ...newer, parameters: texts };
    const changed = { ...set, readings: new Map(set.readings).set('24R' as Code, 1) };
    const with24 = (versions: readonly Dictionary[]) =>
      comparePeers(shippedModel, [defaults, changed], versions).rows.some(({ code }) => code === '24R');
    expect([with24([newer]), with24([other])]).toEqual([true, false]);
  });
});

describe('peers', () => {
  it('that agree give no rows', () => {
    fc.assert(
      fc.property(wholeSet, fc.integer({ min: 1, max: 5 }), (set, count) => {
        expect(comparePeers(shippedModel, Array(count).fill(set)).rows).toEqual([]);
      }),
      { ...SEEDED, numRuns: 20 },
    );
  });

  it('of two give the rows that comparing the two gives', () => {
    fc.assert(
      fc.property(anySet, anySet, (a, b) => {
        const codes = (rows: readonly { code: Code }[]) => rows.map(({ code }) => code);
        expect(codes(comparePeers(shippedModel, [a, b]).rows)).toEqual(
          codes(compareSets(shippedModel, a, b).rows),
        );
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('stay the same in another order', () => {
    fc.assert(
      fc.property(fc.array(anySet, { minLength: 2, maxLength: 5 }), (sets) => {
        const there = comparePeers(shippedModel, sets);
        const back = comparePeers(shippedModel, [...sets].reverse());
        const mirrored = back.rows.map((row) => ({
          ...row,
          readings: [...row.readings].reverse(),
          shares: [...row.shares].reverse(),
          odd: row.odd.map((at) => sets.length - 1 - at).reverse(),
        }));
        // Measured values that drift within tolerance may agree with one neighbour and not with the next.
        const strict = (rows: readonly PeerRow[]) =>
          rows.filter(
            ({ code }) => shippedModel.parameters.find((each) => each.code === code)?.keeping !== 'measured',
          );
        expect(strict(mirrored)).toEqual(strict(there.rows));
      }),
      { ...SEEDED, numRuns: 30 },
    );
  });

  it('name the odd one out by how rare its value is', () => {
    expect(rowOf(800, 800, 800, 2000)).toMatchObject({
      usual: 800,
      odd: [3],
      shares: [0.75, 0.75, 0.75, 0.25],
    });
  });

  it('without a majority name only those who are alone', () => {
    expect(rowOf(800, 800, 900, 900)).toMatchObject({ usual: undefined, odd: [] });
    expect(rowOf(800, 800, 900, 900, 1000)).toMatchObject({ usual: undefined, odd: [4] });
    // As network addresses are.
    expect(rowOf(100, 200, 300, 400)).toMatchObject({ usual: undefined, odd: [] });
  });

  it('keep missing, unreadable and zero apart', () => {
    const unreadable = { unreadable: 'refused' } as const;
    expect(rowOf(0, undefined, unreadable, 0, 0)).toMatchObject({ usual: 0, odd: [1, 2] });
    expect(rowOf(unreadable, unreadable, 800)).toMatchObject({ usual: 800, odd: [0, 1] });
  });
});
