import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { defaultOf, factsOf, limitsOf, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { loadModels } from './shipped-models.ts';
import { Memory } from './memory.ts';
import { Motor } from './motor.ts';

const MODELS = [...loadModels(join(import.meta.dirname, '../../catalogue/models')).values()];
const OUT_OF_RANGE = 3;

const memoryOf = (model: Dictionary, values: Record<string, number> = {}) =>
  new Memory(model, model.ratings[0]?.id ?? '', model.regions[0]?.id ?? '', values);
const factsFor = (model: Dictionary) =>
  factsOf(model, { rating: model.ratings[0]?.id ?? '', region: model.regions[0]?.id ?? '' }) ?? {};
const withMeaning = (model: Dictionary, meaning: string): Parameter | undefined =>
  model.parameters.find((each) => each.meaning === meaning);

describe.each(MODELS.map((model) => [model.id, model] as const))('the firmware of %s', (_, model) => {
  const facts = factsFor(model);
  const refusals = model.line?.refusals;

  it('comes up with its defaults and loses what was not saved', () => {
    const memory = memoryOf(model);
    const setting = model.parameters.find(
      ({ form, access, keeping }) => form.kind === 'number' && access === 'write' && keeping === 'setting',
    ) as Parameter;
    const usual = defaultOf(setting, facts) ?? 0;
    expect(memory.get(setting.code)).toBe(usual);
    const { least, greatest } = limitsOf(setting, facts);
    const other = usual === greatest ? least : greatest;
    expect(memory.write(setting, other, false)).toBeUndefined();
    memory.recall();
    expect(memory.get(setting.code)).toBe(usual);
    memory.write(setting, other, false);
    memory.save();
    memory.recall();
    expect(memory.get(setting.code)).toBe(other);
  });

  it('refuses what its manual says it refuses, and takes the rest', () => {
    const memory = memoryOf(model);
    for (const parameter of model.parameters) {
      const usual = defaultOf(parameter, facts) ?? 0;
      const { greatest } = limitsOf(parameter, facts);
      if (parameter.access === 'read') {
        expect([parameter.code, memory.write(parameter, usual, false)]).toEqual([
          parameter.code,
          refusals?.readOnly,
        ]);
        continue;
      }
      expect([parameter.code, memory.write(parameter, usual, false)]).toEqual([parameter.code, undefined]);
      expect([parameter.code, memory.write(parameter, greatest + 1, false)]).toEqual([
        parameter.code,
        OUT_OF_RANGE,
      ]);
      const running = memory.write(parameter, usual, true);
      expect([parameter.code, running]).toEqual([
        parameter.code,
        parameter.access === 'write-stopped' ? refusals?.running : undefined,
      ]);
    }
  });

  it('puts back what a write puts back, once it changes, and nothing else', () => {
    for (const { when, toDefault } of model.effects) {
      const cause = model.parameters.find(({ code }) => code === when) as Parameter;
      const moved = Object.fromEntries(
        model.parameters
          .filter(
            ({ form, keeping, meaning }) =>
              form.kind === 'number' && keeping === 'setting' && !/lock/i.test(meaning ?? ''),
          )
          .map((parameter) => [parameter.code, limitsOf(parameter, facts).greatest]),
      );
      const memory = memoryOf(model, moved);
      const held = () => Object.fromEntries(model.parameters.map(({ code }) => [code, memory.get(code)]));
      const before = held();
      expect(memory.write(cause, memory.get(when), false)).toBeUndefined();
      expect(held()).toEqual(before);
      const { least, greatest } = limitsOf(cause, facts);
      const other = memory.get(when) === greatest ? least : greatest;
      expect(memory.write(cause, other, false)).toBeUndefined();
      for (const parameter of model.parameters) {
        if (parameter.code === when) continue;
        const back = toDefault.includes(parameter.code) ? defaultOf(parameter, facts) : undefined;
        expect([parameter.code, memory.get(parameter.code)]).toEqual([
          parameter.code,
          back ?? before[parameter.code],
        ]);
      }
    }
  });

  it('takes nothing but the lock while it is locked', () => {
    const lock = withMeaning(model, 'unit.lock');
    const other = model.parameters.find(
      ({ access, meaning }) => access === 'write' && !/lock/i.test(meaning ?? ''),
    );
    if (!lock || !other) throw new Error(model.id);
    const memory = memoryOf(model);
    memory.write(lock, 7, false);
    expect(memory.write(other, defaultOf(other, facts) ?? 0, false)).toBe(refusals?.locked);
    expect(memory.write(lock, 0, false)).toBeUndefined();
    expect(memory.write(other, defaultOf(other, facts) ?? 0, false)).toBeUndefined();
  });
});

describe('the motor', () => {
  const SECOND = 1000;

  it.each([
    // 50 Hz in 10 s to base frequency: 25 Hz after 5 s, whatever the greatest frequency.
    ['toreka-c7@1', { MA4: 500, RB2: 2000, PA1: 1000, RA1: 100 }, 25],
    // The same time counts to the greatest frequency of 100 Hz here: 50 Hz after 5 s.
    ['halvern-hn20@1', { '1/04': 500, '2/06': 1000, '3/04': 900, '2/01': 100 }, 50],
  ])('of %s follows its ramp as its maker counts it', (id, values, after) => {
    const model = MODELS.find((each) => each.id === id) as Dictionary;
    const motor = new Motor(memoryOf(model, values), 400, 0);
    motor.advance(5 * SECOND, true);
    expect(motor.readings().frequency).toBeCloseTo(after, 5);
  });

  it('of a model that keeps speeds in rpm turns as fast as they say', () => {
    const model = MODELS.find(({ id }) => id === 'toreka-c1@1') as Dictionary;
    const values = { MD: 50, ME: 1430, SD: 715, AA: 1, AG: 1500, AF: 0 };
    const motor = new Motor(memoryOf(model, values), 400, 0);
    motor.advance(60 * SECOND, true);
    expect(motor.readings().frequency).toBeCloseTo(25, 5);
  });
});
