// A braking resistor that is set and cannot be there, or is too small for the chopper.

import { terminalsOf } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const resistorUnfitted: Check = {
  id: 'resistor-unfitted',
  look(look) {
    const setting = look.plain('brake.resistor');
    if (setting.kind !== 'choice' || setting.option !== 'fitted') return;
    const { set, outfit, machine, wired } = look.ground;
    const fit = set.dictionary.ratings.find(({ id }) => id === outfit.rating)?.fit;
    const mends = [{ 'brake.resistor': 'none' }];
    const ohms = look.plain('brake.resistorOhms');
    const least = fit?.leastResistorOhm ?? null;
    if (ohms.kind === 'number' && ohms.value > 0 && least !== null && ohms.value < least) {
      look.find(said('resistor-small', { ohms: look.say(ohms), least: look.text(least, 'Ω', 1) }), {
        at: 'ohms',
        attention: 'stop',
        of: [ohms, setting],
      });
      return;
    }
    const terminals = terminalsOf(machine.chart).filter(
      ({ kind, name }) => kind === 'power' && /resistor/i.test(name),
    );
    if (fit && least === null && terminals.length === 0) {
      look.find(said('resistor-impossible', {}), { attention: 'stop', of: [setting], mends });
      return;
    }
    // Power wires are kept by few; where one is, all of them are.
    const power = terminalsOf(machine.chart).filter(({ kind }) => kind === 'power');
    const keepsPower = wired && power.some(({ id }) => look.reach.hasWire(id));
    if (!keepsPower) look.untold.add('whether the resistor hangs there: no power wires are kept');
    else if (!terminals.some(({ id }) => look.reach.hasWire(id)))
      look.find(said('resistor-unfitted', { terminals: terminals.map(({ id }) => id).join(' and ') }), {
        ...{ attention: 'stop', of: [setting], mends },
      });
  },
};
