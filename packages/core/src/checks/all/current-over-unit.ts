// The motor takes more than the unit gives at its duty, in its cabinet and at its carrier frequency.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { deratedBy } from '../../rules/index.ts';

const HERTZ_PER_KILOHERTZ = 1000;
/** Below it nobody chooses a unit for its motor: heat that is not told could not explain it. */
const LEAST_SHARE = 0.8;

export const currentOverUnit: Check = {
  id: 'current-over-unit',
  look(look) {
    const { set, site } = look.ground;
    const current = look.number('motor.ratedCurrent');
    const unit = set.reference('unit.current');
    if (!current) return;
    if (!unit.ok) {
      look.untold.add('the rated current of the unit at its duty');
      return;
    }
    const carrier = look.number('carrier.frequency');
    const own = look.plain('site.ambient');
    const ambient = site.ambient ?? (own.kind === 'number' ? own.value : null);
    const { derating } = set.dictionary;
    const khz = carrier ? carrier.value / HERTZ_PER_KILOHERTZ : null;
    const left = unit.value.value * deratedBy(derating, ambient, khz).share;
    if (derating && ambient === null && derating.ambient.length > 0 && left * LEAST_SHARE < current.value)
      look.untold.add('how warm the cabinet gets');
    if (current.value - current.step / 2 <= left) return;
    const lowers = look.plain('carrier.auto');
    const byItself = lowers.kind === 'choice' && lowers.option === 'on';
    const slow = Math.min(...(derating?.carrier ?? []).map(({ at }) => at), khz ?? Infinity);
    const atSlow = unit.value.value * deratedBy(derating, ambient, slow).share;
    const facts = {
      current: look.say(current),
      left: look.text(left, 'A', 0.01),
      rated: look.text(unit.value.value, 'A'),
      ambient: ambient === null ? '' : look.text(ambient, '°C', 1),
      carrier: khz === null ? '' : look.text(khz, 'kHz'),
    };
    const saves = byItself && current.value - current.step / 2 <= atSlow;
    look.find(said(saves ? 'carrier-comes-down' : 'current-over-unit', facts), {
      attention: saves ? 'look' : 'stop',
      of: [current, carrier, unit.value.code],
      mends: Number.isFinite(slow) ? [{ 'carrier.frequency': slow * HERTZ_PER_KILOHERTZ }] : [],
    });
  },
};
