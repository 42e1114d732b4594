// A contact that is closed at rest where the function wants one that closes to act, or the other way round.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

/** What must not act while nobody has touched anything. */
const RESTS = [
  'run.forward',
  'run.reverse',
  'jog',
  'jog.reverse',
  'raise',
  'lower',
  'fault-reset',
  'external-fault',
  'coast',
  'quick-stop',
  'motor.warm',
  'fire',
  'pump.dry',
  'enable',
];

export const contactSense: Check = {
  id: 'contact-sense',
  look(look) {
    const { reach, ground } = look;
    if (ground.machine.inputs.length === 0) return;
    look.sees();
    if (!ground.wired) {
      look.untold.add('the wiring of the position is not kept');
      return;
    }
    const on = reach.onAtRest;
    if (!on) return;
    const acting = RESTS.flatMap((does) =>
      (ground.machine.byFunction.get(does) ?? []).map((input) => ({ does, input })),
    );
    for (const { does, input } of acting) {
      if (!on.has(input.terminal)) continue;
      const { number, terminal, opens } = input;
      const at = reach
        .devicesAt(terminal)
        .find(({ device, contact }) => device.kind === 'contact' && contact);
      // Selectors rest in one of their places, and what a machine does by itself is its own affair.
      if (!at?.contact) continue;
      look.find(
        said('contact-sense', {
          device: at.device.name,
          contact: at.contact.name,
          rests: at.contact.opens ? 'closed' : 'open',
          terminal,
          does: look.term(does),
          sense: opens ? 'open' : 'closed',
        }),
        {
          ...{ at: `input ${number}`, attention: 'stop' },
          of: [input.code, look.plain(`input.${number}.sense`)],
          mends: [{ [`input.${number}.sense`]: opens ? 'closed' : 'open' }],
        },
      );
    }
  },
};
