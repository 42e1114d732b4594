// Speed, frequency and poles of one motor: n lies a little below 120·f/p.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { LARGEST_SLIP, polesOf, slipOf, synchronousSpeed } from '../../motor/index.ts';
import { meaningOf } from '../../values/index.ts';

export const speedPoles: Check = {
  id: 'speed-poles',
  look(look) {
    const [base, speed] = [look.number('motor.baseFrequency'), look.number('motor.ratedSpeed')];
    const kind = look.plain('motor.kind');
    // One with magnets has no slip, and its rated speed need not belong to its base frequency.
    if (!base || !speed || !(base.value > 0) || !(speed.value > 0)) return;
    if (kind.kind === 'choice' && kind.option === 'permanent-magnet') return;
    if (look.ground.machine.rules.list('priority').includes('enable')) return;
    const poles = look.plain('motor.poles');
    // A model that works them out of the plate cannot contradict it.
    const isGiven = look.ground.set.carrierOf(meaningOf('motor.poles'))?.kind === 'parameter';
    const given = isGiven && poles.kind === 'number' && poles.value > 0 ? poles : undefined;
    if (!given) {
      if (polesOf(base.value, speed.value) === undefined)
        look.find(said('speed-no-poles', { speed: look.say(speed), base: look.say(base) }), {
          ...{ attention: 'stop', of: [speed, base] },
        });
      return;
    }
    const slip = slipOf(base.value, given.value, speed.value);
    const slack = speed.step / 2 / synchronousSpeed(base.value, given.value);
    if (slip > -slack && slip - slack <= LARGEST_SLIP) return;
    const right = polesOf(base.value, speed.value);
    look.find(
      said('speed-poles', {
        speed: look.say(speed),
        poles: look.say(given),
        base: look.say(base),
        synchronous: look.text(synchronousSpeed(base.value, given.value), 'rpm', 1),
      }),
      {
        attention: 'stop',
        of: [speed, given, base],
        mends: right === undefined ? [] : [{ 'motor.poles': right }],
      },
    );
  },
};
