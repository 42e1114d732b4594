import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { defaultOf, findParameter, type Code, type Dictionary, type Facts } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { rawOf, SEEDED, settingsOf } from '../testing/arbitraries.ts';
import { allModels } from '../testing/shipped-model.ts';
import { planWrites, type WriteStep } from './index.ts';

/** A value for every setting, as a unit holds it. */
const wholeSetOf = (model: Dictionary, facts: Facts): fc.Arbitrary<ParameterSet> =>
  fc
    .tuple(
      ...settingsOf(model).map((parameter) =>
        rawOf(parameter, facts).map((raw) => [parameter.code, raw] as const),
      ),
    )
    .map((entries) => ({ dictionary: model.id, readings: new Map(entries) }));

/** What a unit of the model holds after the steps, by the statements of its dictionary and nothing of the planner's. */
function unitAfter(model: Dictionary, facts: Facts, current: ParameterSet, steps: readonly WriteStep[]) {
  const unit = new Map<Code, unknown>(current.readings);
  for (const { code, to } of steps) {
    const changes = unit.get(code) !== to;
    unit.set(code, to);
    if (!changes) continue;
    for (const { toDefault } of model.effects.filter(({ when }) => when === code)) {
      for (const other of toDefault) {
        const parameter = findParameter(model, other);
        const back = parameter && defaultOf(parameter, facts);
        if (back !== undefined) unit.set(other, back);
      }
    }
  }
  return unit;
}

describe.each(allModels.map(({ model, facts }) => [model.id, model, facts] as const))(
  'a write plan for %s',
  (_, model, facts) => {
    const writable = settingsOf(model).filter(({ access }) => access !== 'read');

    it('brings any set to any other, whatever the writes put back on the way', () => {
      fc.assert(
        fc.property(wholeSetOf(model, facts), wholeSetOf(model, facts), (current, target) => {
          const wanted = new Map(writable.map(({ code }) => [code, target.readings.get(code)]));
          const plan = planWrites(model, facts, current, wanted);
          const unit = unitAfter(model, facts, current, plan.steps);
          expect(plan.unreachable).toEqual([]);
          for (const { code } of writable) expect([code, unit.get(code)]).toEqual([code, wanted.get(code)]);
          expect(new Map([...plan.predicted.readings].sort())).toEqual(new Map([...unit].sort()));
        }),
        { ...SEEDED, numRuns: 25 },
      );
    });

    it('writes nothing where the unit holds what is wanted', () => {
      fc.assert(
        fc.property(wholeSetOf(model, facts), (set) => {
          const { steps, alreadyThere } = planWrites(model, facts, set, set.readings);
          expect(steps).toEqual([]);
          expect(alreadyThere.length).toBeGreaterThan(50);
        }),
        { ...SEEDED, numRuns: 5 },
      );
    });
  },
);
