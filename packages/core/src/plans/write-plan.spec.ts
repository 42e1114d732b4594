// Single cases by hand. That plans hold on units of every model is shown against the simulated plant, which shares no
// code with this: apps/server/src/writing/plans-on-units.spec.ts.

import { meaningOf } from '../values/index.ts';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Code, type Dictionary } from '../dictionary/index.ts';
import { defaultSet, type ParameterSet } from '../sets/index.ts';
import { SEEDED, wholeSet } from '../testing/arbitraries.ts';
import { allModels, facts, outfit, shippedModel } from '../testing/shipped-model.ts';
import { structuralCodes, UnitRules } from '../rules/index.ts';
import { describeUnreachable, planWrites, WRITE_PHASES } from './index.ts';

const codeOf = (meaning: string, model: Dictionary = shippedModel): Code => {
  const parameter = findMeaning(model, meaningOf(meaning));
  if (!parameter) throw new Error(meaning);
  return parameter.code;
};

const METHOD = codeOf('motor.controlMethod');
const LOCK = codeOf('unit.lock');
const GREATEST = codeOf('frequency.maximum');
const PRESET = codeOf('preset.contact.7');
const COUNTING = codeOf('input.7.function');
const FILTER = codeOf('input.7.filter');

const unit = (...changes: (readonly [Code, number])[]): ParameterSet => {
  const { dictionary, readings } = defaultSet(shippedModel, outfit) as ParameterSet;
  return { dictionary, readings: new Map([...readings, ...changes]) };
};
const plan = (current: ParameterSet, ...wanted: (readonly [Code, number | undefined])[]) =>
  planWrites(shippedModel, facts, current, new Map(wanted));
const told = ({ steps }: ReturnType<typeof plan>) =>
  steps.map(({ code, to, reason, phase }) => [code, to, reason.kind, phase]);

describe('a write plan', () => {
  it('goes by phases: unlock, structure, settings, what was measured, lock', () => {
    fc.assert(
      fc.property(wholeSet, wholeSet, (current, target) => {
        const { steps } = planWrites(shippedModel, facts, current, target.readings);
        const ranks = steps
          .filter(({ reason }) => reason.kind === 'asked' || reason.kind === 'unlocks')
          .map(({ phase }) => WRITE_PHASES.indexOf(phase));
        expect(ranks).toEqual([...ranks].sort());
      }),
      { ...SEEDED, numRuns: 30 },
    );
  });

  it('says why a line is written that nobody asked for', () => {
    const current = unit([METHOD, 0], [codeOf('command.source'), 2]);
    expect(told(plan(current, [METHOD, 2]))).toEqual([
      [METHOD, 2, 'asked', 'structure'],
      [codeOf('command.source'), 2, 'put-back-by', 'settings'],
    ]);
  });

  it('takes a lock off first and puts it on again last', () => {
    const code = codeOf('ramp.up');
    expect(told(plan(unit([LOCK, 77]), [code, 500]))).toEqual([
      [LOCK, 0, 'unlocks', 'unlock'],
      [code, 500, 'asked', 'settings'],
      [LOCK, 77, 'asked', 'lock'],
    ]);
    expect(told(plan(unit([LOCK, 77]), [LOCK, 12]))).toEqual([[LOCK, 12, 'asked', 'lock']]);
  });

  it('raises a limit before the values up to it, and names those that a lower limit takes along', () => {
    expect(told(plan(unit(), [PRESET, 6000], [GREATEST, 7000]))).toEqual([
      [GREATEST, 7000, 'asked', 'structure'],
      [PRESET, 6000, 'asked', 'settings'],
    ]);
    const lower = plan(unit([PRESET, 5000]), [GREATEST, 4500]);
    expect(lower.unreachable).toEqual([
      { code: PRESET, cause: { code: 'above-maximum', raw: 5000, limit: 4500 } },
    ]);
    expect(lower.predicted.readings.get(PRESET)).toBe(4500);
    expect(lower.undo.steps.map(({ code, to }) => [code, to])).toEqual([
      [GREATEST, 5000],
      [PRESET, 5000],
    ]);
  });

  it('writes what a function will keep to itself before that, or makes way for it', () => {
    expect(told(plan(unit(), [COUNTING, 23], [FILTER, 3]))).toEqual([
      [FILTER, 3, 'asked', 'settings'],
      [COUNTING, 23, 'asked', 'settings'],
    ]);
    const counting = unit([COUNTING, 23]);
    expect(told(plan(counting, [FILTER, 3]))).toEqual([
      [COUNTING, 14, 'makes-way', 'settings'],
      [FILTER, 3, 'asked', 'settings'],
      [COUNTING, 23, 'asked', 'settings'],
    ]);
  });

  it('tells what does nothing for the time being', () => {
    const resistance = codeOf('motor.statorResistance');
    expect(plan(unit(), [resistance, 4321]).idle).toEqual([{ code: resistance, by: codeOf('identify.use') }]);
    expect(plan(unit([codeOf('identify.use'), 1]), [resistance, 4321]).idle).toEqual([]);
  });

  it('names lines that cannot be written and plans the others', () => {
    const odd = plan(
      unit(),
      [codeOf('ramp.up'), 60_001],
      [codeOf('stop.mode'), 9],
      [codeOf('restart.faults'), 0x4000],
      [codeOf('monitor.current'), 100],
      ['77X' as Code, 1],
      [codeOf('ramp.down'), undefined],
      [codeOf('network.address'), 9],
      [codeOf('ramp.quick'), 300],
    );
    expect(odd.unreachable.map(({ cause }) => cause.code)).toEqual([
      'above-maximum',
      'no-such-option',
      'no-such-bit',
      'read-only',
      'unknown-code',
      'nothing-to-write',
      'own-address',
    ]);
    expect(odd.steps.map((step) => step.code)).toEqual([codeOf('ramp.quick')]);
    expect(describeUnreachable(odd.unreachable[0] as never, shippedModel)).toContain(
      '600.01 s is above the maximum value, 600.00 s',
    );
    for (const each of odd.unreachable) expect(describeUnreachable(each, shippedModel)).toMatch(/\.$/);
  });

  it('names a trigger instead of setting a unit back by it', () => {
    for (const { model, facts: own } of allModels) {
      const trigger = findMeaning(model, meaningOf('unit.resetTrigger'));
      if (!trigger) continue;
      const current = { dictionary: model.id, readings: new Map([[trigger.code, 0]]) };
      const { steps, unreachable } = planWrites(model, own, current, new Map([[trigger.code, 1]]));
      expect([steps, unreachable]).toEqual([[], [{ code: trigger.code, cause: { code: 'trigger' } }]]);
    }
  });

  it('names a circle of effects instead of writing for ever', () => {
    const [first, second] = [METHOD, codeOf('unit.duty')];
    const back = (when: Code, other: Code) =>
      ({ kind: 'puts-back', when, is: null, codes: [other], why: 'made up' }) as const;
    const circle: Dictionary = { ...shippedModel, effects: [back(first, second), back(second, first)] };
    const { unreachable } = planWrites(
      circle,
      facts,
      unit([first, 0], [second, 0]),
      new Map([
        [first, 2],
        [second, 1],
      ]),
    );
    expect(unreachable.map(({ cause }) => cause.code)).toContain('circle');
    expect(structuralCodes(circle)).toHaveLength(2);
  });
});

describe('a write', () => {
  const rules = new UnitRules(shippedModel, facts);
  const written = (set: ParameterSet, code: Code, raw: number) => {
    const after = rules.write(set.readings, code, raw);
    if (!after.ok) throw new Error(after.fault.code);
    return after.value;
  };

  it('of the value that is there already puts nothing back', () => {
    const current = unit([METHOD, 1], [codeOf('command.source'), 2]);
    expect(written(current, METHOD, 1)).toBe(current.readings);
  });

  it('does not change the readings it was given', () => {
    const current = unit([METHOD, 1], [codeOf('command.source'), 2]);
    expect(written(current, METHOD, 2).get(codeOf('command.source'))).toBe(1);
    expect(current.readings.get(codeOf('command.source'))).toBe(2);
  });

  it('of the region brings the defaults of that region, of the duty its maximum currents', () => {
    const other = written(unit(), codeOf('unit.region'), 1);
    expect(other.get(codeOf('motor.baseFrequency'))).toBe(6000);
    const normal = new Map(written(unit(), codeOf('unit.duty'), 1));
    const current = codeOf('motor.ratedCurrent');
    // HN64-15: 2 × 5.40 A in normal, 2 × 4.10 A in heavy duty.
    const high = rules.write(normal, current, 1080);
    expect(high.ok).toBe(true);
    expect(rules.write(unit().readings, current, 1080)).toMatchObject({ fault: { limit: 820 } });
    const heavy = rules.write(high.ok ? high.value : normal, codeOf('unit.duty'), 0);
    expect(heavy.ok && heavy.value.get(current)).toBe(820);
  });
});
