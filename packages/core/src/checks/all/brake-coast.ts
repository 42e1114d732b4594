// A holding brake on a stop that lets go: it closes on a shaft that turns, and wears.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const brakeCoast: Check = {
  id: 'brake-coast',
  look(look) {
    const fitted = look.plain('brake.fitted');
    const has =
      (fitted.kind === 'choice' && fitted.option !== 'none') ||
      look.ground.machine.outputs.some(
        ({ does, closes, common }) =>
          does === 'brake-open' &&
          [closes, common].some(
            (end) => end !== undefined && (look.reach.hasWire(end) || !look.ground.wired),
          ),
      );
    if (!has) return;
    const mode = look.choice('stop.mode');
    if (mode !== 'coast') return;
    look.find(said('brake-coast', {}), {
      of: [look.plain('stop.mode'), fitted],
      mends: [{ 'stop.mode': 'ramp' }],
    });
  },
};
