import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { defaultOf, factsOf, limitsOf, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { loadModels } from './shipped-models.ts';
import { Memory } from './memory.ts';
import { Machine } from './machine.ts';
import { USUAL_LOAD } from './load.ts';
import { Settings } from './settings.ts';

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

  it('comes up with its defaults and loses what was not saved, unless its manual says that it keeps all at once', () => {
    const memory = memoryOf(model);
    const setting = model.parameters.find(
      ({ form, access, keeping }) => form.kind === 'number' && access === 'write' && keeping === 'setting',
    ) as Parameter;
    const usual = defaultOf(setting, facts) ?? 0;
    expect(memory.get(setting.code)).toBe(usual);
    const { minimum, maximum } = limitsOf(setting, facts);
    const other = usual === maximum ? minimum : maximum;
    expect(memory.write(setting, other, false)).toBeUndefined();
    memory.recall();
    expect(memory.get(setting.code)).toBe(
      ['halvern-hn20@1', 'toreka-c1@1'].includes(model.id) ? other : usual,
    );
    memory.write(setting, other, false);
    memory.save();
    memory.recall();
    expect(memory.get(setting.code)).toBe(other);
  });

  it('refuses what its manual says it refuses, and takes the rest', () => {
    const memory = memoryOf(model);
    for (const parameter of model.parameters) {
      const usual = defaultOf(parameter, facts) ?? 0;
      const { maximum } = limitsOf(parameter, facts);
      if (parameter.access === 'read') {
        expect([parameter.code, memory.write(parameter, usual, false)]).toEqual([
          parameter.code,
          refusals?.readOnly,
        ]);
        continue;
      }
      // What another function holds for itself is the subject of its own test below.
      if (model.effects.some((each) => each.kind === 'blocks' && each.codes.includes(parameter.code)))
        continue;
      expect([parameter.code, memory.write(parameter, usual, false)]).toEqual([parameter.code, undefined]);
      expect([parameter.code, memory.write(parameter, maximum + 1, false)]).toEqual([
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

  const parameterOf = (code: string): Parameter => {
    const found = model.parameters.find((each) => each.code === code);
    if (!found) throw new Error(code);
    return found;
  };
  const choicesOf = ({ form, ...parameter }: Parameter): readonly number[] => {
    if (form.kind === 'option') return form.options.map(({ raw }) => raw);
    const { minimum, maximum } = limitsOf({ form, ...parameter }, facts);
    return [minimum, maximum];
  };

  it.each(model.effects.map((effect) => [`${effect.when} ${effect.kind}: ${effect.why}`, effect] as const))(
    'plays the manual: %s',
    (_, effect) => {
      const cause = parameterOf(effect.when);
      const tied = effect.is ?? choicesOf(cause);
      const to = tied.find((raw) => raw !== defaultOf(cause, facts)) ?? tied[0] ?? 0;
      const from = choicesOf(cause).find((raw) => raw !== to && !effect.is?.includes(raw)) ?? 0;
      const memory = memoryOf(model, { [cause.code]: from });
      const change = () => expect(memory.write(cause, to, false)).toBeUndefined();
      switch (effect.kind) {
        case 'puts-back': {
          const moved = effect.codes.map(parameterOf).filter((each) => each.form.kind === 'number');
          for (const each of moved) memory.force(each.code, limitsOf(each, facts).minimum);
          expect(memory.write(cause, from, false)).toBeUndefined();
          for (const each of moved) expect(memory.get(each.code)).toBe(limitsOf(each, facts).minimum);
          change();
          const region =
            cause.meaning === 'unit.region' ? model.regions[to]?.facts : chosenFacts(model, cause.code, to);
          for (const code of effect.codes)
            expect([code, memory.get(code)]).toEqual([
              code,
              defaultOf(parameterOf(code), { ...facts, ...region }),
            ]);
          return;
        }
        case 'sets':
          change();
          for (const { code, raw } of effect.values) expect([code, memory.get(code)]).toEqual([code, raw]);
          return;
        case 'narrows': {
          const { minimum, maximum } = limitsOf(cause, facts);
          const far = effect.bound === 'maximum' ? minimum : maximum;
          change();
          expect(memory.write(cause, far, false)).toBeUndefined();
          for (const code of effect.codes) {
            const { minimum: own } = limitsOf(parameterOf(code), facts);
            expect(memory.get(code)).toBeLessThanOrEqual(Math.max(far, own));
            expect([code, memory.write(parameterOf(code), far + 1, false)]).toEqual([code, OUT_OF_RANGE]);
          }
          return;
        }
        case 'blocks':
          change();
          for (const code of effect.codes)
            expect([code, memory.write(parameterOf(code), memory.get(code), false)]).toEqual([
              code,
              model.line?.refusals.locked,
            ]);
          return;
        case 'chooses':
        case 'idles':
          change();
      }
    },
  );

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

/** Output frequency after so many seconds of a run command from elsewhere; with the first preset where no target is told. */
function frequencyAfter(memory: Memory, seconds: number, target?: number): number {
  const settings = new Settings(memory);
  const asked = target ?? settings.hertz('preset.1') ?? 0;
  const machine = new Machine(
    { memory, settings, wired: undefined },
    USUAL_LOAD,
    400,
    0,
    () => ({ runs: true, target: asked }),
    (kind) => {
      throw new Error(`tripped: ${kind}`);
    },
  );
  machine.advance(seconds * 1000);
  return machine.train.readings().frequency;
}

describe('the motor', () => {
  it.each([
    // 50 Hz in 10 s to base frequency: 25 Hz after 5 s, whatever the maximum frequency.
    ['toreka-c7@1', { MA4: 500, RB2: 2000, PA1: 1000, RA1: 100 }, 25],
    // The same time counts to the maximum frequency of 100 Hz here: 50 Hz after 5 s.
    ['halvern-hn20@1', { '1/04': 500, '2/06': 1000, '3/04': 900, '2/01': 100 }, 50],
  ])('of %s follows its ramp as its maker counts it', (id, values, after) => {
    const model = MODELS.find((each) => each.id === id) as Dictionary;
    expect(frequencyAfter(memoryOf(model, values), 5, after * 1.5)).toBeCloseTo(after, 5);
  });

  it('of a model that keeps speeds in rpm turns as fast as they say', () => {
    const model = MODELS.find(({ id }) => id === 'toreka-c1@1') as Dictionary;
    const values = { MD: 50, ME: 1430, SD: 715, AA: 30, AG: 1500, AF: 0 };
    // 715 revolutions of two pole pairs a minute.
    expect(frequencyAfter(memoryOf(model, values), 60)).toBeCloseTo((715 * 2) / 60, 5);
  });
});

/** Facts that an option of this parameter brings with it, where they are told as such and not by another fact's name. */
function chosenFacts(model: Dictionary, code: string, raw: number): Readonly<Record<string, string>> {
  const options = model.effects.flatMap((each) =>
    each.kind === 'chooses' && each.when === code ? each.options : [],
  );
  const told = Object.entries(options.find((each) => each.raw === raw)?.facts ?? {});
  return Object.fromEntries(told.filter(([, text]) => !text.startsWith('@')));
}
