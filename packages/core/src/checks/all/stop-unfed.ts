// Three wires with a stop that is never on: no start is ever kept.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const stopUnfed: Check = {
  id: 'stop-unfed',
  look(look) {
    const { reach, ground } = look;
    if (!reach.byTerminals || look.choice('command.wiring') !== 'three-wire') return;
    const stops = ground.machine.byFunction.get('stop') ?? [];
    if (stops.length === 0) {
      look.find(said('stop-missing', {}), { attention: 'stop', of: [look.plain('command.wiring')] });
      return;
    }
    if (!ground.wired) {
      look.untold.add('the wiring of the position is not kept');
      return;
    }
    const on = reach.onAtRest;
    if (!on || ground.machine.rules.answer('stop.input') !== 'needs-on') return;
    if (stops.some(({ terminal }) => on.has(terminal))) return;
    // Something that closes later may feed it, as long as something hangs there that can.
    const [stop] = stops;
    if (!stop) return;
    const devices = stops.flatMap(({ terminal }) => reach.devicesAt(terminal));
    const opens = devices.find(
      ({ device, contact }) => device.kind === 'contact' && contact && !contact.opens,
    );
    const hung = stops.some(({ terminal }) => reach.hasWire(terminal));
    if (hung && !opens) return;
    look.find(
      opens?.contact
        ? said('stop-closes', {
            device: opens.device.name,
            contact: opens.contact.name,
            terminal: stop.terminal,
          })
        : said('stop-unfed', { terminal: stop.terminal }),
      { attention: 'stop', of: [stop.code, look.plain('command.wiring')] },
    );
  },
};
