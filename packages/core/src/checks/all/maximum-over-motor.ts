// The drive may turn the motor faster than its plate allows.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const SECONDS_PER_MINUTE = 60;

export const maximumOverMotor: Check = {
  id: 'maximum-over-motor',
  look(look) {
    const maximum = look.number('frequency.maximum');
    if (!maximum) return;
    const own = look.plain('motor.maximumSpeed');
    const fastest = look.ground.plate?.maximumSpeed ?? (own.kind === 'number' ? own.value : undefined);
    const poles = look.number('motor.poles');
    if (fastest === undefined) look.untold.add('the maximum speed of the motor is not on its plate');
    if (fastest === undefined || !poles || !(poles.value > 0)) return;
    const most = (fastest * poles.value) / 2 / SECONDS_PER_MINUTE;
    if (maximum.value - maximum.step / 2 <= most) return;
    look.find(
      said('maximum-over-motor', {
        maximum: look.say(maximum),
        rpm: look.text((maximum.value * SECONDS_PER_MINUTE * 2) / poles.value, 'rpm', 1),
        plate: look.text(fastest, 'rpm', 1),
      }),
      { attention: 'stop', of: [maximum, poles], mends: [{ 'frequency.maximum': most }] },
    );
  },
};
