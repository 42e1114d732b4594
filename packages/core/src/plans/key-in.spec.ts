import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findParameter, type Dictionary, type KeypadFacts } from '../dictionary/index.ts';
import { defaultSet, type ParameterSet } from '../sets/index.ts';
import { rawOf, SEEDED, settingsOf } from '../testing/arbitraries.ts';
import { allModels } from '../testing/shipped-model.ts';
import { UnitRules } from '../rules/index.ts';
import { editPresses, orderForKeys, planWrites, type WriteStep } from './index.ts';

const withKeypad = allModels.filter(({ model }) => model.keypad !== null);
const outfitOf = ({ ratings, regions }: Dictionary) => ({
  rating: ratings[0]?.id ?? '',
  region: regions[0]?.id ?? '',
});
const startOf = (model: Dictionary) => defaultSet(model, outfitOf(model)) as ParameterSet;

/** A plan towards some other values, as somebody asks for them. */
const plans = (model: Dictionary, facts: (typeof allModels)[number]['facts'], most: number) =>
  fc
    .subarray([...settingsOf(model)], { minLength: 1, maxLength: most })
    .chain((chosen) =>
      fc
        .tuple(...chosen.map((each) => rawOf(each, facts).map((raw) => [each.code, raw] as const)))
        .map((wanted) => planWrites(model, facts, startOf(model), new Map(wanted), 'keypad').steps),
    );

describe.each(withKeypad.map(({ model, facts }) => [model.id, model, facts] as const))(
  'a key-in sheet for %s',
  (_, model, facts) => {
    const held = (steps: readonly WriteStep[]) => {
      const rules = new UnitRules(model, facts);
      let { readings } = startOf(model);
      for (const { code, to } of steps) {
        const after = rules.write(readings, code, to);
        if (!after.ok) throw new Error(`${code} was refused: ${after.fault.code}`);
        readings = after.value;
      }
      return readings;
    };

    it('has every step once, leads to the same end, and never costs more keys than the plain order', () => {
      fc.assert(
        fc.property(plans(model, facts, 40), (steps) => {
          const order = orderForKeys(model, outfitOf(model), steps);
          if (!order) throw new Error('no keypad');
          const sheet = order.lines.map(({ step }) => step);
          expect(new Set(sheet)).toEqual(new Set(steps));
          expect(sheet).toHaveLength(steps.length);
          expect(held(sheet)).toEqual(held(steps));
          expect(order.presses).toBeLessThanOrEqual(order.plainPresses);
          const sum = order.lines.reduce((keys, { way, edit }) => keys + way + edit, 0);
          expect(sum).toBe(order.presses);
        }),
        { ...SEEDED, numRuns: 40, endOnFailure: true },
      );
    });

    it('is the best of all orders that lead there, while they can be counted', () => {
      fc.assert(
        fc.property(plans(model, facts, 5), (steps) => {
          fc.pre(steps.length <= 6);
          const end = held(steps);
          const best = Math.min(
            ...permutations(steps).flatMap((order) => {
              try {
                const reached = held(order);
                for (const [code, raw] of end) if (reached.get(code) !== raw) return [];
              } catch {
                return [];
              }
              // The same steps in a fixed order: nothing is free to move any more.
              return [orderForKeys(model, outfitOf(model), order)?.plainPresses ?? Infinity];
            }),
          );
          const { presses = 0 } = orderForKeys(model, outfitOf(model), steps) ?? {};
          // A step that bears on another stays before it even where the values happen to allow both.
          expect(presses).toBeGreaterThanOrEqual(best);
          if (steps.every(({ code }) => model.effects.every((effect) => effect.when !== code)))
            expect(presses).toBe(best);
        }),
        { ...SEEDED, numRuns: 10, endOnFailure: true },
      );
    });
  },
);

function permutations<T>(items: readonly T[]): T[][] {
  if (items.length < 2) return [[...items]];
  return items.flatMap((first, at) =>
    permutations([...items.slice(0, at), ...items.slice(at + 1)]).map((rest) => [first, ...rest]),
  );
}

describe('the keys for one value', () => {
  const keypad: KeypadFacts = {
    ...{ menuMove: 1, move: 1, wraps: true, enter: 1, back: 1 },
    ...{ digitMove: 1, digitStep: 1, optionStep: 1 },
  };
  const hn64 = allModels.find(({ model }) => model.id === 'halvern-hn64@1')?.model as Dictionary;
  const form = (code: string) => {
    const found = findParameter(hn64, code);
    if (!found) throw new Error(code);
    return found.form;
  };

  it.each([
    ['a ramp from 10.00 to 12.50 s: 2 and 5 up, along two digits', '01R', 1000, 1250, 2 + 2 + 7],
    ['a digit from 9 to 0 is one key', '01R', 900, 0, 2 + 2 + 1],
    ['the same value is entered and confirmed', '01R', 500, 500, 2],
    ['an option two further', '24R', 0, 2, 2 + 2],
    ['a value below zero from one above it', '22C', 100, -100, 2 + 1],
  ])('%s', (_, code, from, to, keys) => {
    expect(editPresses(keypad, form(code), from, to)).toBe(keys);
  });

  it('of a model without a keypad are nobody’s', () => {
    const servo = allModels.find(({ model }) => model.keypad === null);
    expect(servo && orderForKeys(servo.model, outfitOf(servo.model), [])).toBeUndefined();
  });
});
