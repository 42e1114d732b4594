// An input that acts while it is open, and nothing on it: it acts from the moment that the supply comes.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const ACTS = ['external-fault', 'coast', 'quick-stop', 'motor.warm'];

export const externalOpen: Check = {
  id: 'external-open',
  look(look) {
    const { reach, ground } = look;
    const open = ACTS.flatMap((does) =>
      (ground.machine.byFunction.get(does) ?? [])
        .filter(({ opens }) => opens)
        .map((input) => ({ does, input })),
    );
    if (open.length > 0) look.sees();
    if (open.length > 0 && !ground.wired) look.untold.add('the wiring of the position is not kept');
    if (!ground.wired) return;
    for (const { does, input } of open) {
      if (reach.hasWire(input.terminal)) continue;
      look.find(said('external-open', { terminal: input.terminal, does: look.term(does) }), {
        ...{ at: `input ${input.number}`, attention: 'stop' },
        of: [input.code, look.plain(`input.${input.number}.sense`)],
        mends: [
          { [`input.${input.number}.sense`]: 'closed' },
          { [`input.${input.number}.function`]: 'none' },
        ],
      });
    }
  },
};
