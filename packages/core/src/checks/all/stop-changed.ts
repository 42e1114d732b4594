// The way of stopping is another than in the signed baseline: who relies on how the machine stops has to know.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { meaningOf } from '../../values/index.ts';

const STOPS = [
  'stop.mode',
  'stop.faultMode',
  'stop.quickMode',
  'stop.haltMode',
  'protect.external',
  'protect.sto',
];

export const stopChanged: Check = {
  id: 'stop-changed',
  look(look) {
    const { baseline } = look.ground;
    if (baseline === 'none') return;
    if (!baseline) {
      look.untold.add('the baseline');
      return;
    }
    for (const name of STOPS) {
      const [now, before] = [look.plain(name), baseline.get(meaningOf(name))];
      if (now.kind !== 'choice' || before.kind !== 'choice' || now.option === before.option) continue;
      look.find(
        said('stop-changed', { what: look.term(name), now: look.say(now), before: look.say(before) }),
        {
          ...{ at: name, of: [now], mends: [{ [name]: before.option }] },
        },
      );
    }
  },
};
