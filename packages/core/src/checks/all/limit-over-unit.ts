// A current limit above what the unit bears for a minute at its duty. Where a model lets its default follow the duty, that
// default is what it bears.

import { rawOfBound } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import { UnitRules } from '../../rules/index.ts';
import { meaningOf, showRaw } from '../../values/index.ts';
import type { Check } from '../check.ts';

export const limitOverUnit: Check = {
  id: 'limit-over-unit',
  look(look) {
    const { set } = look.ground;
    const limit = look.number('limit.current');
    if (!limit) return;
    const parameter = set.stated(meaningOf('limit.current'));
    const bound = parameter?.default;
    if (!parameter || !bound || !('fact' in bound) || !set.rating) {
      look.untold.add('how much more than its rated current the unit bears for a minute');
      return;
    }
    const held = new UnitRules(set.dictionary, set.rating).factsIn(set.readings);
    const bears = rawOfBound(parameter, bound, held);
    const raw = set.readings.get(parameter.code);
    if (bears === undefined || typeof raw !== 'number' || raw <= bears) return;
    const duty = look.plain('unit.duty');
    look.find(
      said('limit-over-unit', {
        limit: showRaw(parameter.form, raw),
        bears: showRaw(parameter.form, bears),
        duty: duty.kind === 'choice' ? ` in ${duty.option} duty` : '',
      }),
      { of: [parameter.code, duty], raws: [[{ code: parameter.code, raw: bears }]] },
    );
  },
};
