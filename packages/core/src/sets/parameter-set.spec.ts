import { createHash } from 'node:crypto';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { anySet, SEEDED } from '../testing/arbitraries.ts';
import { outfit, shippedModel } from '../testing/shipped-model.ts';
import { canonicalText, defaultSet, hashOf, parseCanonical, unreadableCount } from './index.ts';

describe('a parameter set', () => {
  it('has one canonical form, whatever the order of its readings', () => {
    fc.assert(
      fc.property(anySet, fc.infiniteStream(fc.nat()), (set, chance) => {
        const keyed = [...set.readings].map((entry) => ({ entry, key: Number(chance.next().value) }));
        const shuffled = keyed.sort((a, b) => a.key - b.key).map(({ entry }) => entry);
        expect(hashOf({ ...set, readings: new Map(shuffled) })).toBe(hashOf(set));
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('is read back from its canonical form', () => {
    fc.assert(
      fc.property(anySet, (set) => {
        const read = parseCanonical(canonicalText(set));
        expect(read.ok && [...read.value.readings].sort()).toEqual([...set.readings].sort());
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('is hashed as the platform hashes the same bytes', () => {
    fc.assert(
      fc.property(anySet, (set) => {
        const expected = createHash('sha256').update(canonicalText(set), 'utf8').digest('hex');
        expect(hashOf(set)).toBe(`sha256:${expected}`);
      }),
      { ...SEEDED, numRuns: 20 },
    );
  });

  it('has another hash when one reading changes, is missing, or could not be read', () => {
    const set = defaultSet(shippedModel, outfit);
    if (!set) throw new Error('no defaults');
    const [code] = [...set.readings.keys()];
    if (!code) throw new Error('no parameters');
    const variants = [
      new Map(set.readings).set(code, 1234),
      new Map(set.readings).set(code, { unreadable: 'refused' as const }),
      new Map([...set.readings].filter(([each]) => each !== code)),
    ];
    const hashes = [set, ...variants.map((readings) => ({ ...set, readings }))].map(hashOf);
    expect(new Set(hashes).size).toBe(4);
  });

  it('counts what could not be read', () => {
    fc.assert(
      fc.property(anySet, (set) => {
        const slow = [...set.readings].filter(([, reading]) => typeof reading !== 'number').length;
        expect(unreadableCount(set)).toBe(slow);
      }),
      { ...SEEDED, numRuns: 20 },
    );
  });

  it.each([
    '',
    '{',
    'null',
    '[]',
    '{"dictionary":"x"}',
    '{"dictionary":"x","readings":[["a","1"]]}',
    '{"dictionary":"x","readings":[["a",1.5]]}',
    '{"dictionary":"x","readings":[["a",{"unreadable":"whim"}]]}',
  ])('is not read from damaged text: %s', (text) => {
    expect(parseCanonical(text)).toEqual({ ok: false, fault: 'damaged' });
  });
});
