// Automatic restarts after a fault together with a run contact that stays closed: the machine starts again with nobody near.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { maintainedStarts } from '../maintained-starts.ts';

export const restartMaintained: Check = {
  id: 'restart-maintained',
  look(look) {
    const count = look.number('restart.count');
    if (!count || count.value === 0) return;
    const [start] = maintainedStarts(look);
    if (!start) return;
    look.find(
      said('restart-maintained', {
        count: look.say(count),
        device: start.device,
        terminal: start.input.terminal,
      }),
      { of: [count, start.input.code, look.plain('command.wiring')], mends: [{ 'restart.count': 0 }] },
    );
  },
};
