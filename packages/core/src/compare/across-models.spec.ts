import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Dictionary, type Facts } from '../dictionary/index.ts';
import { isUnreadable, parseRaw, type Reading } from '../values/index.ts';
import { allModels, shippedModel } from '../testing/shipped-model.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { compareAcross, type AcrossDifference, type ModelSet } from './across-models.ts';

const model = (name: string): { model: Dictionary; facts: Facts } => {
  const found = allModels.find(({ model: each }) => each.model === name);
  if (!found) throw new Error(name);
  return found;
};

function setOf(name: string, values: Readonly<Record<string, string>>): ModelSet {
  const { model: dictionary } = model(name);
  const readings = Object.entries(values).map(([meaning, text]) => {
    const parameter = findMeaning(dictionary, meaning);
    const raw = parameter && parseRaw(parameter.form, text);
    if (!parameter || !raw?.ok) throw new Error(`${meaning} ${text}`);
    return [parameter.code, raw.value] as const;
  });
  return { dictionary, set: { dictionary: dictionary.id, readings: new Map(readings) } };
}

function differenceOf(meaning: string, a: ModelSet, b: ModelSet): AcrossDifference['kind'] {
  return compareAcross(a, b).rows.find((row) => row.meaning === meaning)?.difference.kind ?? 'same';
}

const MIRROR: Readonly<Record<string, string>> = {
  greater: 'less',
  less: 'greater',
  'only-a': 'only-b',
  'only-b': 'only-a',
};

describe('two models by meaning', () => {
  it('a set differs from itself in nothing but what could not be read', () => {
    for (const { model: dictionary, facts } of allModels) {
      fc.assert(
        fc.property(anySetOf(dictionary, facts), (set) => {
          const { rows } = compareAcross({ dictionary, set }, { dictionary, set });
          for (const { a, difference } of rows)
            expect([difference.kind, isUnreadable(a?.reading)]).toEqual(['unreadable', true]);
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
          const a = { dictionary: one.model, set: x };
          const b = { dictionary: other.model, set: y };
          const exact = (left: ModelSet, right: ModelSet, flip: boolean) =>
            compareAcross(left, right)
              .rows.filter(({ difference }) => difference.kind !== 'counts-otherwise')
              .map(
                ({ meaning, difference: { kind } }) => `${meaning} ${flip ? (MIRROR[kind] ?? kind) : kind}`,
              )
              .sort();
          expect(exact(a, b, false)).toEqual(exact(b, a, true));
        }),
        { ...SEEDED, numRuns: 6 },
      );
    }
  });

  it('compares in engineering units: watts, kilowatts and horsepower', () => {
    const watts = (value: string) => setOf('halvern-hn64', { 'motor.ratedPower': value });
    expect(
      differenceOf('motor.ratedPower', watts('1500'), setOf('toreka-c7', { 'motor.ratedPower': '1.50' })),
    ).toBe('same');
    // 2 hp are 1491 W: within half a quarter horsepower of 1500 W, the coarser of the two steps.
    const hp = setOf('toreka-c1', { 'motor.ratedPower': '2.00' });
    expect(differenceOf('motor.ratedPower', watts('1500'), hp)).toBe('same');
    expect(differenceOf('motor.ratedPower', watts('1600'), hp)).toBe('less');
    expect(differenceOf('motor.ratedPower', hp, watts('1600'))).toBe('greater');
  });

  it('tells by how much in the unit of A', () => {
    const a = setOf('halvern-hn20', { 'input.filter': '20' });
    const b = setOf('halvern-hn64', { 'input.filter': '35' });
    const row = compareAcross(a, b).rows.find(({ meaning }) => meaning === 'input.filter');
    expect(row?.difference).toEqual({ kind: 'greater', by: 15 });
  });

  it('compares options by what they are, and says so where only the words differ', () => {
    const old = (value: string) => setOf('toreka-c1', { 'command.source': value });
    const young = setOf('halvern-hn64', { 'command.source': 'keypad' });
    expect(differenceOf('command.source', old('keys'), young)).toBe('same');
    expect(differenceOf('command.source', old('terminals'), young)).toBe('option');
    const stop = setOf('toreka-c1', { 'stop.mode': 'coasting' });
    expect(differenceOf('stop.mode', stop, setOf('halvern-hn64', { 'stop.mode': 'coast' }))).toBe(
      'other-words',
    );
  });

  it('takes ramps of the same steepness for the same, whatever speed they count to', () => {
    // To the maximum frequency of 60 Hz on one, to the base frequency of 50 Hz on the other.
    const old = setOf('halvern-hn20', {
      'ramp.up': '12.0',
      'frequency.maximum': '60.0',
      'motor.baseFrequency': '50.0',
    });
    const young = (time: string) =>
      setOf('halvern-hn64', { 'ramp.up': time, 'motor.baseFrequency': '50.00' });
    expect(differenceOf('ramp.up', old, young('10.00'))).toBe('same');
    expect(differenceOf('ramp.up', old, young('12.00'))).toBe('greater');
    const [row] = compareAcross(old, young('12.00')).rows.filter(({ meaning }) => meaning === 'ramp.up');
    expect(row?.countsTo).toEqual({ a: 60, b: 50 });
    // Without the frequency nobody can tell.
    expect(differenceOf('ramp.up', setOf('halvern-hn20', { 'ramp.up': '12.0' }), young('12.00'))).toBe(
      'counts-otherwise',
    );
  });

  it('never calls a gain equal to a band, nor hertz to percent', () => {
    const a = setOf('halvern-hn64', { 'frequency.maximum': '50.00' });
    const b = setOf('toreka-c7', { 'share.maximum': '50.0' });
    expect(differenceOf('frequency.maximum', a, b)).toBe('counts-otherwise');
    const gain = setOf('halvern-hn64', { 'loop.gain': '1.00' });
    const band = setOf('toreka-f3', { 'loop.bandWidth': '100' });
    expect(differenceOf('loop.gain', gain, band)).toBe('counts-otherwise');
    // Nor a gain to another maker's gain.
    expect(differenceOf('loop.gain', gain, setOf('toreka-c7', { 'loop.gain': '1.00' }))).toBe(
      'counts-otherwise',
    );
  });

  it('calls shares equal only where it is stated of what, and that is equal', () => {
    const drive = (model: string, limit: string, current: string) =>
      setOf(model, { 'limit.currentMotor': limit, 'motor.ratedCurrent': current });
    const one = drive('toreka-c1', '150', '3.6');
    expect(differenceOf('limit.currentMotor', one, drive('toreka-c7', '150', '3.60'))).toBe('same');
    expect(differenceOf('limit.currentMotor', one, drive('toreka-c7', '160', '3.60'))).toBe('greater');
    // 150 % of another motor, or of one that nobody knows.
    expect(differenceOf('limit.currentMotor', one, drive('toreka-c7', '150', '5.00'))).toBe(
      'counts-otherwise',
    );
    const unknown = setOf('toreka-c7', { 'limit.currentMotor': '150' });
    expect(differenceOf('limit.currentMotor', one, unknown)).toBe('counts-otherwise');
    // Of what a boost is a share, no model says.
    const boost = (model: string) => setOf(model, { 'motor.boost': '3.0' });
    expect(differenceOf('motor.boost', boost('halvern-hn20'), boost('halvern-hn64'))).toBe(
      'counts-otherwise',
    );
  });

  it('keeps missing, unreadable and zero apart', () => {
    const code = findMeaning(shippedModel, 'jog.speed')?.code ?? ('' as never);
    const jog = (...reading: Reading[]): ModelSet => ({
      dictionary: shippedModel,
      set: { dictionary: shippedModel.id, readings: new Map(reading.map((each) => [code, each])) },
    });
    const old = setOf('halvern-hn20', { 'jog.speed': '0.0' });
    expect(differenceOf('jog.speed', jog({ unreadable: 'refused' }), old)).toBe('unreadable');
    expect(differenceOf('jog.speed', jog(), old)).toBe('only-b');
    expect(differenceOf('jog.speed', jog(0), old)).toBe('same');
    expect(differenceOf('jog.speed', jog(0), setOf('halvern-hn20', {}))).toBe('only-a');
    expect(differenceOf('jog.speed', jog(), setOf('halvern-hn20', {}))).toBe('same');
  });
});
