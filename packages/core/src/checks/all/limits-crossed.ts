// Limits that exclude each other: whatever is asked for, one of them is broken.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const PAIRS = [
  ['frequency.minimum', 'frequency.maximum'],
  ['travel.minimum', 'travel.maximum'],
  ['loop.warnLow', 'loop.warnHigh'],
  ['skip.1.from', 'skip.1.to'],
  ['skip.2.from', 'skip.2.to'],
  ['skip.3.from', 'skip.3.to'],
] as const;

export const limitsCrossed: Check = {
  id: 'limits-crossed',
  look(look) {
    for (const [lower, upper] of PAIRS) {
      const [low, high] = [look.number(lower), look.number(upper)];
      if (!low || !high || low.value <= high.value) continue;
      // Both at nought is how some models say that there is none.
      const mends = lower.startsWith('skip') ? [] : [{ [lower]: high.value }, { [upper]: low.value }];
      look.find(
        said('limits-crossed', {
          lower: look.term(lower),
          low: look.say(low),
          upper: look.term(upper),
          high: look.say(high),
        }),
        { at: lower, attention: 'stop', of: [low, high], mends },
      );
    }
  },
};
