// After a power cycle the drive stands in hand, and its contacts are dead until somebody presses a key.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const handAtPowerUp: Check = {
  id: 'hand-at-power-up',
  look(look) {
    const mode = look.choice('command.powerUp');
    const source = look.choice('command.source');
    if (mode !== 'hand' || source === undefined || source === 'source.keypad') return;
    look.find(said('hand-at-power-up', { source: look.term(source) }), {
      of: [look.plain('command.powerUp'), look.plain('command.source')],
      mends: [{ 'command.powerUp': 'automatic' }, { 'command.powerUp': 'as-before' }],
    });
  },
};
