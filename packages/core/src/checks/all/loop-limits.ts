// Limits of a loop's output between which there is nothing to control with.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const loopLimits: Check = {
  id: 'loop-limits',
  look(look) {
    if (!look.reach.loop) return;
    const [low, high] = [look.number('loop.outputMinimum'), look.number('loop.outputMaximum')];
    const [minimum, maximum] = [look.number('frequency.minimum'), look.number('frequency.maximum')];
    if (!maximum) return;
    const lower = Math.max(low?.value ?? 0, minimum?.value ?? 0);
    const upper = Math.min(high?.value ?? maximum.value, maximum.value);
    const step = Math.max(maximum.step, low?.step ?? 0, high?.step ?? 0);
    if (upper - lower > step) return;
    look.find(said('loop-limits', { low: look.text(lower, 'Hz', 0.1), high: look.text(upper, 'Hz', 0.1) }), {
      attention: 'stop',
      of: [low, high, minimum, maximum],
    });
  },
};
