// Measured values of the motor that its library does not explain: another motor, a loose terminal, or a cable counted in.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

/** Copper between cold and warm makes up to 35 % (20 to 110 °C, IEC 60228), and a cable a little more. */
const MOST = 1.4;
const LEAST = 0.85;

export const identifiedFar: Check = {
  id: 'identified-far',
  look(look) {
    const use = look.choice('identify.use');
    if (use !== 'identified') return;
    const own = look.number('motor.statorResistance');
    const plate = look.ground.plate?.resistance;
    if (plate === undefined) look.untold.add('the winding resistance of the motor is not in the library');
    if (!own || plate === undefined || look.codes(own).every((code) => look.reach.isDefault(code))) return;
    const ratio = own.value / plate;
    if (ratio <= MOST && ratio >= LEAST) return;
    look.find(
      said('identified-far', {
        own: look.say(own),
        plate: look.text(plate, 'Ω'),
        percent: look.text(100 * ratio, '%', 1),
      }),
      { of: [own, look.plain('identify.use')] },
    );
  },
};
