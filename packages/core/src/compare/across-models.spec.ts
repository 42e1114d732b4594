import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Dictionary, type Outfit } from '../dictionary/index.ts';
import { isUnreadable, parseRaw, type Reading, meaningOf } from '../values/index.ts';
import { bridge } from '../testing/shipped-bridge.ts';
import { allModels, outfit, shippedModel } from '../testing/shipped-model.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { compareAcross, type AcrossDifference, type AcrossRow, type ModelSet } from './across-models.ts';
import { sameOrNot } from '../testing/same-or-not.ts';

function model(name: string): Dictionary {
  const found = allModels.find(({ model: each }) => each.model === name)?.model;
  if (!found) throw new Error(name);
  return found;
}

const outfitOf = ({ ratings, regions }: Dictionary, rating = ratings[0]?.id): Outfit => ({
  rating: rating ?? '',
  region: regions[0]?.id ?? '',
});

/** Values by what the model states; `rating` other than the first where it matters. */
function setOf(name: string, values: Readonly<Record<string, string>>, rating?: string): ModelSet {
  const dictionary = model(name);
  const readings = Object.entries(values).map(([meaning, text]) => {
    const parameter = findMeaning(dictionary, meaningOf(meaning));
    const raw = parameter && parseRaw(parameter.form, text);
    if (!parameter || !raw?.ok) throw new Error(`${name} ${meaning} ${text}`);
    return [parameter.code, raw.value] as const;
  });
  return {
    dictionary,
    set: { dictionary: dictionary.id, readings: new Map(readings) },
    outfit: outfitOf(dictionary, rating),
  };
}

const rowOf = (meaning: string, a: ModelSet, b: ModelSet): AcrossRow | undefined =>
  compareAcross(bridge, a, b).rows.find((row) => row.meaning === meaning);
const kindOf = (meaning: string, a: ModelSet, b: ModelSet): AcrossDifference['kind'] =>
  rowOf(meaning, a, b)?.difference.kind ?? 'same';

const MIRROR: Readonly<Record<string, string>> = {
  greater: 'less',
  less: 'greater',
  'only-a': 'only-b',
  'only-b': 'only-a',
};

describe('two models by plain values', () => {
  it('a set differs from itself in nothing but what could not be read', () => {
    for (const { model: dictionary, facts } of allModels) {
      const own = outfitOf(dictionary);
      fc.assert(
        fc.property(anySetOf(dictionary, facts), (set) => {
          const { rows } = compareAcross(
            bridge,
            { dictionary, set, outfit: own },
            { dictionary, set, outfit: own },
          );
          for (const { meaning, a, difference } of rows) {
            const read = a?.codes.map((code) => set.readings.get(code)) ?? [];
            expect([meaning, difference.kind, read.some(isUnreadable)]).toEqual([
              meaning,
              'unreadable',
              true,
            ]);
          }
        }),
        { ...SEEDED, numRuns: 20 },
      );
    }
  });

  it('swapping the sides mirrors every row', () => {
    const pairs = allModels.flatMap((a, at) => allModels.slice(at + 1).map((b) => [a, b] as const));
    for (const [one, other] of pairs) {
      fc.assert(
        fc.property(anySetOf(one.model, one.facts), anySetOf(other.model, other.facts), (x, y) => {
          const a = { dictionary: one.model, set: x, outfit: outfitOf(one.model) };
          const b = { dictionary: other.model, set: y, outfit: outfitOf(other.model) };
          const kinds = (left: ModelSet, right: ModelSet, flip: boolean) =>
            compareAcross(bridge, left, right)
              // A pair beside each other stands under the meaning of A.
              .rows.filter(
                ({ difference }) => difference.kind !== 'cannot-be-told' || difference.why.code !== 'beside',
              )
              .map(
                ({ meaning, difference: { kind } }) => `${meaning} ${flip ? (MIRROR[kind] ?? kind) : kind}`,
              )
              .sort();
          expect(kinds(a, b, false)).toEqual(kinds(b, a, true));
        }),
        { ...SEEDED, numRuns: 6 },
      );
    }
  });

  it('tells by how much in the plain unit', () => {
    const a = setOf('halvern-hn20', { 'input.filter': '20' });
    const b = setOf('halvern-hn64', { 'input.filter': '35' });
    expect(rowOf('input.filter', a, b)?.difference).toEqual({ kind: 'greater', by: 0.015, at: null });
  });

  it('calls within half of the coarser step the same, within both half steps rounding, and more a difference', () => {
    const percent = (value: string) =>
      setOf('toreka-c7', { 'preset.2': value, 'motor.baseFrequency': '50.0' });
    const hertz = (value: string) => setOf('halvern-hn20', { 'preset.2': value });
    // 0.1 % of 50 Hz is 0.05 Hz, beside 0.1 Hz: half of the coarser is 0.05, of both 0.075.
    expect(kindOf('preset.2', percent('25.1'), hertz('12.5'))).toBe('same');
    expect(kindOf('preset.2', percent('25.2'), hertz('12.5'))).toBe('less');
  });

  it('keeps missing, unreadable and zero apart', () => {
    const code = findMeaning(shippedModel, meaningOf('jog.speed'))?.code ?? ('' as never);
    const jog = (...reading: Reading[]): ModelSet => ({
      dictionary: shippedModel,
      set: { dictionary: shippedModel.id, readings: new Map(reading.map((each) => [code, each])) },
      outfit,
    });
    const old = setOf('halvern-hn20', { 'jog.speed': '0.0' });
    expect(kindOf('jog.speed', jog({ unreadable: 'refused' }), old)).toBe('unreadable');
    expect(kindOf('jog.speed', jog(), old)).toBe('only-b');
    expect(kindOf('jog.speed', jog(0), old)).toBe('same');
    expect(kindOf('jog.speed', jog(0), setOf('halvern-hn20', {}))).toBe('only-a');
    expect(kindOf('jog.speed', jog(), setOf('halvern-hn20', {}))).toBe('same');
  });

  it('says why it cannot tell', () => {
    const why = (meaning: string, a: ModelSet, b: ModelSet) => {
      const difference = rowOf(meaning, a, b)?.difference;
      return difference?.kind === 'cannot-be-told' ? difference.why : difference?.kind;
    };
    const damped = (name: string) => setOf(name, { 'motor.damping': '40' });
    expect(why('motor.damping', damped('halvern-hn64'), damped('toreka-f3'))).toEqual({
      code: 'maker-scale',
    });
    const ramp = setOf('halvern-hn20', { 'ramp.up': '12.0' });
    const young = setOf('halvern-hn64', { 'ramp.up': '12.00', 'motor.baseFrequency': '50.00' });
    expect(why('ramp.up', ramp, young)).toEqual({
      code: 'untold',
      side: 'a',
      untold: { code: 'missing', what: 'frequency.maximum' },
    });
    const held = setOf('halvern-hn20', { 'stop.dcTimeAfter': '0.5' });
    const flowing = setOf('toreka-c7', { 'stop.dcTime': '0.5' });
    expect(why('stop.dcTimeAfter', held, flowing)).toMatchObject({ code: 'beside', meaning: 'stop.dcTime' });
    expect(
      compareAcross(bridge, held, flowing).rows.filter(({ meaning }) => meaning === 'stop.dcTime'),
    ).toEqual([]);
  });
});

describe('worked out by hand from the manuals', () => {
  it.each(sameOrNot)('%s: %s', (meaning, expected, a, b) => {
    const [left, right] = [setOf(...a), setOf(...b)];
    expect([meaning, kindOf(meaning, left, right)]).toEqual([meaning, expected]);
    const mirrored = MIRROR[expected] ?? expected;
    expect([meaning, kindOf(meaning, right, left)]).toEqual([meaning, mirrored]);
  });
});
