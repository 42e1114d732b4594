// Fire operation passes over faults; what the drive tries again by itself afterwards, nobody is there to see.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const fireRestart: Check = {
  id: 'fire-restart',
  look(look) {
    const [input] = look.reach.canAct('fire');
    if (!input) return;
    const count = look.number('restart.count');
    if (!count || count.value === 0) return;
    look.find(said('fire-restart', { terminal: input.terminal, count: look.say(count) }), {
      of: [count, input.code],
      mends: [{ 'restart.count': 0 }],
    });
  },
};
