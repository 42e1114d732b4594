// A speed that can be chosen and is never run, because a limit cuts or lifts it.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const speedOutside: Check = {
  id: 'speed-outside',
  look(look) {
    const [minimum, maximum] = [look.number('frequency.minimum'), look.number('frequency.maximum')];
    const lifts = look.ground.machine.rules.answer('minimum.lifts');
    for (const { name, kind, plain } of look.reach.reachedSpeeds()) {
      const slack = plain.step / 2;
      const over = maximum && plain.value > maximum.value + slack ? maximum : undefined;
      const lifted = kind !== 'jog' || lifts === 'all';
      const under = lifted && minimum && plain.value < minimum.value - slack ? minimum : undefined;
      const limit = over ?? under;
      if (!limit) continue;
      const facts = {
        speed: look.term(name),
        asked: look.say(plain),
        limit: look.say(limit),
      };
      const mends = [{ [name]: limit.value }];
      look.find(over ? said('speed-above', facts) : said('speed-below', facts), {
        ...{ at: name, of: [plain, limit], mends },
      });
    }
  },
};
