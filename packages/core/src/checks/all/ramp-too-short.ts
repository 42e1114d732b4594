// A ramp that asks for more than the motor can give: t = J·2πΔn/(60·(T_max − T_load)). With nothing but the inertias that are
// told and no load at all it is the shortest time that is possible; a real load takes longer.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { inertiaOf, motorFacts } from '../motor-facts.ts';
import { accelerationTime } from '../../motor/index.ts';

export const rampTooShort: Check = {
  id: 'ramp-too-short',
  look(look) {
    const ramp = look.number('ramp.up');
    if (!ramp) return;
    const motor = motorFacts(look);
    const inertia = inertiaOf(look);
    const limit = look.number('limit.current');
    if (!motor || !inertia || !limit) return;
    const { hertz, rpm, torque, current } = motor;
    const most = torque * (limit.value / current.value);
    const needed = accelerationTime(inertia.value, rpm, most);
    const given = ramp.value * hertz.value;
    if (given >= needed) return;
    look.find(
      said('ramp-too-short', {
        time: look.text(given, 's', ramp.step * hertz.value),
        speed: look.text(rpm, 'rpm', 1),
        inertia: look.text(inertia.value * 10_000, 'kg·cm²'),
        torque: look.text(most, 'Nm', 0.1),
        needed: look.text(needed, 's', 0.01),
      }),
      { of: [ramp, limit, hertz], mends: [{ 'ramp.up': (needed * 1.05) / hertz.value }] },
    );
  },
};
