// A unit on a line that refuses to be written to over it.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const writeLocked: Check = {
  id: 'write-locked',
  look(look) {
    const lock = look.choice('network.writeLock');
    if (lock !== 'locked' || look.ground.address === 'keypad') return;
    if (look.ground.address === null) {
      look.untold.add('whether the unit is on a line');
      return;
    }
    look.find(said('write-locked', {}), {
      of: [look.plain('network.writeLock')],
      mends: [{ 'network.writeLock': 'allowed' }],
    });
  },
};
