// A value that this unit does not take: beyond its range at this rating, region and duty, or no option of its list. It came
// from a file, from another firmware, or from the time before another setting narrowed the range.

import { factsOf, limitsOf, type Parameter } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import { UnitRules } from '../../rules/index.ts';
import { showRaw } from '../../values/index.ts';
import type { Check } from '../check.ts';
import type { Look } from '../look.ts';

export const outsideRange: Check = {
  id: 'outside-range',
  look(look) {
    const { set, outfit } = look.ground;
    const facts = factsOf(set.dictionary, outfit);
    if (!facts) {
      look.untold.add('the rating of the unit');
      return;
    }
    if (set.readings.size > 0) look.sees();
    const rules = new UnitRules(set.dictionary, facts);
    const raws = new Map(
      [...set.readings].filter((each): each is [(typeof each)[0], number] => typeof each[1] === 'number'),
    );
    const held = rules.factsIn(raws);
    for (const parameter of set.dictionary.parameters) {
      const raw = raws.get(parameter.code);
      if (raw === undefined || parameter.keeping !== 'setting' || parameter.form.kind !== 'number') continue;
      // What another setting narrows is told by the check of that.
      const { minimum, maximum } = limitsOf(parameter, held);
      if (raw < minimum || raw > maximum) tell(look, parameter, raw, raw > maximum ? maximum : minimum);
    }
  },
};

function tell(look: Look, parameter: Parameter, raw: number, limit: number): void {
  const { code, name, form } = parameter;
  const facts = { what: name, code, value: showRaw(form, raw), limit: showRaw(form, limit) };
  look.find(raw > limit ? said('value-above-range', facts) : said('value-below-range', facts), {
    ...{ at: code, of: [code] },
    raws: [[{ code, raw: limit }]],
  });
}
