import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { defaultOf, findMeaning, findParameter, type Code, type Dictionary } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { SEEDED, settings, wholeSet } from '../testing/arbitraries.ts';
import { facts, shippedModel } from '../testing/shipped-model.ts';
import { applyWrite, describeUnreachable, planWrites, structuralCodes, type WritePlan } from './index.ts';

const codeOf = (meaning: string): Code => {
  const parameter = findMeaning(shippedModel, meaning);
  if (!parameter) throw new Error(meaning);
  return parameter.code;
};

const METHOD = codeOf('unit.controlMethod');

/** Carries a plan out on a plain map, with effects as the dictionary states them, and nothing of the planner's own. */
function carryOut(
  current: ParameterSet,
  plan: WritePlan,
  dictionary: Dictionary = shippedModel,
): Map<string, unknown> {
  const unit = new Map<string, unknown>(current.readings);
  for (const step of plan.steps) {
    const changed = unit.get(step.code) !== step.to;
    unit.set(step.code, step.to);
    for (const effect of dictionary.effects.filter((each) => changed && each.when === step.code)) {
      for (const code of effect.toDefault) {
        const parameter = findParameter(dictionary, code);
        const back = parameter && defaultOf(parameter, facts);
        if (back !== undefined) unit.set(code, back);
      }
    }
  }
  return unit;
}

describe('a write plan', () => {
  it('brings any set to any other, or says which lines it cannot reach', () => {
    fc.assert(
      fc.property(wholeSet, wholeSet, (current, target) => {
        const plan = planWrites(shippedModel, facts, current, target.readings);
        const unit = carryOut(current, plan);
        expect(plan.unreachable).toEqual([]);
        for (const { code } of settings)
          expect([code, unit.get(code)]).toEqual([code, target.readings.get(code)]);
        expect([...plan.predicted.readings].sort()).toEqual([...unit].sort());
      }),
      { ...SEEDED, numRuns: 60 },
    );
  });

  it('leaves alone what nobody asked for, even where a step puts it back on the way', () => {
    fc.assert(
      fc.property(
        wholeSet,
        wholeSet,
        fc.subarray(settings.map(({ code }) => code)),
        (current, target, asked) => {
          const wanted = new Map([...asked, METHOD].map((code) => [code, target.readings.get(code)]));
          const unit = carryOut(current, planWrites(shippedModel, facts, current, wanted));
          for (const { code } of settings) {
            const expected = wanted.has(code) ? target.readings.get(code) : current.readings.get(code);
            expect([code, unit.get(code)]).toEqual([code, expected]);
          }
        },
      ),
      { ...SEEDED, numRuns: 60 },
    );
  });

  it('writes nothing when the unit holds all of it already', () => {
    fc.assert(
      fc.property(wholeSet, (set) => {
        const plan = planWrites(shippedModel, facts, set, set.readings);
        expect(plan.steps).toEqual([]);
        expect(plan.alreadyThere).toHaveLength(set.readings.size);
      }),
      { ...SEEDED, numRuns: 10 },
    );
  });

  it('writes each parameter once at the most where effects do not run in a circle', () => {
    fc.assert(
      fc.property(wholeSet, wholeSet, (current, target) => {
        const codes = planWrites(shippedModel, facts, current, target.readings).steps.map(
          (step) => step.code,
        );
        expect(new Set(codes).size).toBe(codes.length);
      }),
      { ...SEEDED, numRuns: 30 },
    );
  });

  it('changes structure first and measured values last', () => {
    fc.assert(
      fc.property(wholeSet, wholeSet, (current, target) => {
        const rank = { structure: 0, settings: 1, measured: 2 };
        const ranks = planWrites(shippedModel, facts, current, target.readings).steps.map(
          (step) => rank[step.phase],
        );
        expect(ranks).toEqual([...ranks].sort());
      }),
      { ...SEEDED, numRuns: 30 },
    );
  });

  it('says why a line is written that nobody asked for', () => {
    const source = codeOf('command.source');
    const current: ParameterSet = {
      dictionary: shippedModel.id,
      readings: new Map([
        [METHOD, 0],
        [source, 2],
      ]),
    };
    const plan = planWrites(shippedModel, facts, current, new Map([[METHOD, 2]]));
    expect(plan.steps.map(({ code, to, reason }) => ({ code, to, reason }))).toEqual([
      { code: METHOD, to: 2, reason: { kind: 'asked' } },
      { code: source, to: 2, reason: { kind: 'put-back-by', by: METHOD } },
    ]);
  });

  it('names lines that cannot be written and plans the others', () => {
    const current: ParameterSet = {
      dictionary: shippedModel.id,
      readings: new Map([[codeOf('ramp.up'), 500]]),
    };
    const wanted = new Map<Code, number | undefined>([
      [codeOf('ramp.up'), 60_001],
      [codeOf('stop.mode'), 9],
      [codeOf('restart.faults'), 0x4000],
      [codeOf('monitor.current'), 100],
      ['77X' as Code, 1],
      [codeOf('ramp.down'), undefined],
      [codeOf('ramp.quick'), 300],
    ]);
    const plan = planWrites(shippedModel, facts, current, wanted);
    expect(plan.unreachable.map(({ cause }) => cause.code)).toEqual([
      'above-greatest',
      'no-such-option',
      'no-such-bit',
      'read-only',
      'unknown-code',
      'nothing-to-write',
    ]);
    expect(plan.steps.map((step) => step.code)).toEqual([codeOf('ramp.quick')]);
    expect(describeUnreachable(plan.unreachable[0] as never, shippedModel)).toContain(
      '600.01 s is above the greatest value, 600.00 s',
    );
  });

  it('names a circle of effects instead of writing for ever', () => {
    const [first, second] = [codeOf('unit.controlMethod'), codeOf('unit.duty')];
    const circle: Dictionary = {
      ...shippedModel,
      effects: [
        { when: first, toDefault: [second], why: 'made up' },
        { when: second, toDefault: [first], why: 'made up' },
      ],
    };
    const current: ParameterSet = {
      dictionary: circle.id,
      readings: new Map([
        [first, 0],
        [second, 0],
      ]),
    };
    const plan = planWrites(
      circle,
      facts,
      current,
      new Map([
        [first, 2],
        [second, 1],
      ]),
    );
    expect(plan.unreachable.map(({ cause }) => cause.code)).toContain('circle');
    expect(structuralCodes(circle)).toHaveLength(2);
  });
});

describe('a write', () => {
  it('of the value that is there already puts nothing back', () => {
    const readings = new Map([
      [METHOD, 1],
      [codeOf('command.source'), 2],
    ]);
    expect(applyWrite(shippedModel, facts, readings, METHOD, 1)).toBe(readings);
  });

  it('does not change the readings it was given', () => {
    const readings = new Map([
      [METHOD, 1],
      [codeOf('command.source'), 2],
    ]);
    const after = applyWrite(shippedModel, facts, readings, METHOD, 2);
    expect(readings.get(codeOf('command.source'))).toBe(2);
    expect(after.get(codeOf('command.source'))).toBe(1);
  });
});
