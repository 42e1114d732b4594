// A control loop that is on, and nothing that tells it the actual value: it goes to the end of its output.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const loopNoFeedback: Check = {
  id: 'loop-no-feedback',
  look(look) {
    const { reach, ground } = look;
    look.choice('loop.mode');
    if (!reach.loop) return;
    const feeding = ground.machine.analogs.filter(({ number }) => reach.usesOf(number).includes('loop'));
    if (feeding.length === 0) return;
    if (!ground.wired) {
      look.untold.add('what sends the actual value: the wiring is not kept');
      return;
    }
    const bare = feeding.filter(({ terminal }) => reach.devicesAt(terminal).length === 0);
    for (const { terminal, number } of bare)
      look.find(said('loop-no-feedback', { terminal }), {
        ...{ at: `signal ${number}`, attention: 'stop' },
        of: [look.plain('loop.mode'), look.plain('loop.feedback')],
      });
  },
};
