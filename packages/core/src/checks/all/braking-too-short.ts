// A ramp down that gives back more than motor and drive turn into heat, without a braking resistor and without lengthening the
// ramp: the bus voltage rises until the drive trips. Energy ½·J·ω², losses of the motor P_in − P_out at its rated point.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { inertiaOf, motorFacts } from '../motor-facts.ts';
import { brakeEnergy, lossesOf } from '../../motor/index.ts';

export const brakingTooShort: Check = {
  id: 'braking-too-short',
  look(look) {
    const ramp = look.number('ramp.down');
    if (!ramp || look.choice('stop.mode') === 'coast') return;
    const [resistor, bus] = [look.plain('brake.resistor'), look.choice('limit.busVoltage')];
    const fitted = resistor.kind === 'choice' && resistor.option !== 'none';
    if (fitted || (bus !== undefined && bus !== 'off')) return;
    const [motor, inertia] = [motorFacts(look), inertiaOf(look)];
    const rating = look.plateRating();
    if (!motor || !inertia || !rating) return;
    const losses = lossesOf(rating);
    if (losses === undefined) {
      look.untold.add('the losses of the motor: power, voltage, current and cos φ of its plate');
      return;
    }
    const given = ramp.value * motor.hertz.value;
    const energy = brakeEnergy(inertia.value, motor.rpm, 0);
    if (energy <= losses * given) return;
    look.find(
      said('braking-too-short', {
        time: look.text(given, 's', ramp.step * motor.hertz.value),
        energy: look.text(energy, 'J', 1),
        losses: look.text(losses, 'W', 1),
        needed: look.text(energy / losses, 's', 0.1),
      }),
      {
        of: [ramp, resistor],
        mends: [
          { 'ramp.down': (energy / losses) * (1.05 / motor.hertz.value) },
          { 'limit.busVoltage': 'lengthen' },
        ],
      },
    );
  },
};
