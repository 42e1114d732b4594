// A channel of safe torque off that neither a link nor a relay closes: the drive is locked for ever.

import { terminalsOf } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const stoOpen: Check = {
  id: 'sto-open',
  look(look) {
    const { machine, wired } = look.ground;
    const channels = terminalsOf(machine.chart).filter(({ kind }) => kind === 'safe-input');
    if (channels.length === 0) return;
    look.sees();
    if (!wired) {
      look.untold.add('the wiring of the position is not kept');
      return;
    }
    const open = channels.filter(({ id }) => !look.reach.hasWire(id));
    if (open.length === 0) return;
    look.find(said('sto-open', { terminals: open.map(({ id }) => id).join(', ') }), { attention: 'stop' });
  },
};
