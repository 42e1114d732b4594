// A speed that is asked for and lies in a band that the drive skips: it runs at the edge of the band instead.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const skipOverSpeed: Check = {
  id: 'skip-over-speed',
  look(look) {
    for (const band of ['1', '2', '3']) {
      const [from, to] = [look.number(`skip.${band}.from`), look.number(`skip.${band}.to`)];
      if (!from || !to || to.value <= from.value) continue;
      const holds = look.ground.machine.rules.answer('skip.holds');
      for (const { name, kind, plain } of look.reach.reachedSpeeds()) {
        // At the lower edge it is held anyway, and a jog is short.
        if (kind === 'jog' || plain.value <= from.value || plain.value > to.value) continue;
        const nearer = holds === 'nearest' && to.value - plain.value < plain.value - from.value;
        const edge = nearer ? to : from;
        look.find(
          said('skip-over-speed', {
            speed: look.term(name),
            asked: look.say(plain),
            from: look.say(from),
            to: look.say(to),
            runs: look.say(edge),
          }),
          { at: name, of: [plain, from, to], mends: [{ [name]: edge.value }] },
        );
      }
    }
  },
};
