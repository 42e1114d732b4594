// The machine starts by itself when the supply comes back.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { maintainedStarts } from '../maintained-starts.ts';

export const startAtPowerUp: Check = {
  id: 'start-at-power-up',
  look(look) {
    const lock = look.choice('command.startLock');
    if (lock !== 'start') return;
    const hand = look.plain('command.powerUp');
    // In hand nothing starts at its contacts.
    if (hand.kind === 'choice' && hand.option === 'hand') return;
    const [start] = maintainedStarts(look);
    if (!start) return;
    look.find(said('start-at-power-up', { device: start.device, terminal: start.input.terminal }), {
      of: [look.plain('command.startLock'), start.input.code],
      mends: [{ 'command.startLock': 'wait' }],
    });
  },
};
