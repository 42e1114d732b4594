import { meaningOf } from '../values/index.ts';
import { describe, expect, it } from '@jest/globals';
import { findMeaning, type Code, type Dictionary } from '../dictionary/index.ts';
import { defaultSet, type ParameterSet } from '../sets/index.ts';
import { allModels } from '../testing/shipped-model.ts';
import { otherRegionIn, planReset } from './index.ts';

const modelOf = (id: string): Dictionary => {
  const found = allModels.find(({ model }) => model.id === id);
  if (!found) throw new Error(id);
  return found.model;
};
const fan = modelOf('toreka-f3@1');
const RATING = fan.ratings[0]?.id ?? '';
const codeOf = (meaning: string, model = fan): Code => {
  const found = findMeaning(model, meaningOf(meaning));
  if (!found) throw new Error(meaning);
  return found.code;
};
const UP = codeOf('ramp.up');
const BASE = codeOf('motor.baseFrequency');
const ADDRESS = codeOf('network.address');
const LOCK = codeOf('unit.lock');

const held = (region: string, ...changes: (readonly [Code, number])[]): ParameterSet => {
  const base = defaultSet(fan, { rating: RATING, region });
  if (!base) throw new Error(region);
  return { ...base, readings: new Map([...base.readings, ...changes]) };
};
const reset = (
  current: ParameterSet,
  choice = { region: '50-hz', scope: 0 },
  back: ParameterSet['readings'] = new Map(),
) => {
  const plan = planReset(fan, RATING, current, choice, back);
  if (!plan) throw new Error('no reset');
  return plan;
};

describe('a reset plan', () => {
  it('goes by the procedure of the model: region, scope, trigger', () => {
    expect(reset(held('60-hz')).steps.map(({ code, to, busyMs }) => [code, to, busyMs])).toEqual([
      ['FU01', 0, 0],
      ['FU02', 0, 0],
      ['FU03', 618, 2500],
    ]);
  });

  it('says nothing of a default that nobody tells, and puts back what was wanted there whatever it was', () => {
    const untold: Dictionary = {
      ...fan,
      parameters: fan.parameters.map((each) =>
        each.code === UP ? { ...each, default: null, untold: ['default'] } : each,
      ),
    };
    const plan = planReset(
      untold,
      RATING,
      held('50-hz', [UP, 450]),
      { region: '50-hz', scope: 0 },
      new Map([[UP, 450]]),
    );
    expect(plan?.losses).toContainEqual({ code: UP, from: 450, to: undefined });
    expect(plan?.afterReset.readings.has(UP)).toBe(false);
    expect(plan?.back.steps.map(({ code, to }) => [code, to])).toEqual([[UP, 450]]);
    expect(plan?.back.predicted.readings.get(UP)).toBe(450);
  });

  it('takes a lock off first, as everything else would be refused', () => {
    const [first] = reset(held('50-hz', [LOCK, 7])).steps;
    expect(first).toMatchObject({ code: LOCK, from: 7, to: 0 });
  });

  it('loses what is not at the default of the region that is chosen, and nothing else', () => {
    const losses = (region: string) =>
      reset(held('50-hz', [UP, 450], [ADDRESS, 41]), { region, scope: 0 }).losses.map(({ code }) => code);
    expect(losses('50-hz')).toEqual([UP]);
    expect(losses('60-hz')).toEqual(expect.arrayContaining([UP, BASE]));
    expect(losses('60-hz')).not.toContain(ADDRESS);
  });

  it('leaves the menus that its scope does not cover', () => {
    const current = held(
      '50-hz',
      [UP, 450],
      [codeOf('loop.integralTime'), 77],
      [codeOf('motor.ratedCurrent'), 31],
    );
    const lost = (scope: number) => reset(current, { region: '50-hz', scope }).losses.map(({ code }) => code);
    expect(lost(2)).toEqual(['FP09', 'FU02']);
    expect(lost(1)).toEqual(expect.arrayContaining([UP, 'FP09']));
    expect(lost(1)).not.toContain('FM03');
  });

  it('brings back what was chosen, from the defaults that the unit then holds', () => {
    const current = held('60-hz', [UP, 450]);
    const { back, afterReset } = reset(current, { region: '50-hz', scope: 0 }, new Map([[UP, 450]]));
    expect(afterReset.readings.get(UP)).toBe(600);
    expect(back.steps.map(({ code, from, to }) => [code, from, to])).toEqual([[UP, 600, 450]]);
    expect(back.predicted.readings.get(BASE)).toBe(500);
  });

  it('has no writes where the model is reset at its keypad, and none at all where nothing is known', () => {
    const shipped = modelOf('halvern-hn64@1');
    // A manual that knows a combination of keys and nothing else.
    const procedures = shipped.procedures.map((each) => ({
      ...each,
      steps: each.steps.map((step) => ({ ...step, set: null })),
    }));
    const drive = { ...shipped, procedures };
    const outfit = { rating: 'HN64-15', region: '50-hz' };
    const current = defaultSet(drive, outfit);
    const plan =
      current && planReset(drive, outfit.rating, current, { region: '50-hz', scope: null }, new Map());
    expect([plan?.steps, plan?.procedure.steps.length]).toEqual([[], 2]);
    expect(
      current && planReset(drive, 'HN64-99', current, { region: '50-hz', scope: null }, new Map()),
    ).toBeUndefined();
  });
});

describe('the defaults of another region', () => {
  const own = { rating: RATING, region: '50-hz' };

  it('are recognised, with the parameters that tell', () => {
    const other = otherRegionIn(fan, own, held('60-hz'));
    expect([other?.region, other?.codes]).toEqual(['60-hz', expect.arrayContaining([UP, BASE])]);
  });

  it('are not seen in a unit of its own region, whatever one value of it is', () => {
    expect(otherRegionIn(fan, own, held('50-hz'))).toBeUndefined();
    expect(otherRegionIn(fan, own, held('50-hz', [BASE, 600]))).toBeUndefined();
  });

  it('are still seen where somebody has set some of them since', () => {
    expect(otherRegionIn(fan, own, held('60-hz', [UP, 450]))?.codes).not.toContain(UP);
    expect(otherRegionIn(fan, own, held('60-hz', [UP, 450]))?.region).toBe('60-hz');
  });
});
