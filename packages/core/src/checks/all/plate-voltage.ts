// A voltage of the motor that is on no plate of it: often the measured voltage of the supply, which is another thing.

import { said } from '../../findings/index.ts';
import { isRoot3Of } from '../../motor/index.ts';
import type { Check } from '../check.ts';

/** Zones of IEC 60034-1. */
const ZONE_A = 0.05;
const ZONE_B = 0.1;

export const plateVoltage: Check = {
  id: 'plate-voltage',
  look(look) {
    const volts = look.number('motor.ratedVoltage');
    const { plate, site } = look.ground;
    if (!volts) return;
    const told = plate?.ratings.flatMap(({ voltage }) => voltage ?? []) ?? [];
    if (told.length === 0) {
      look.untold.add('the plate of the motor is not in the library');
      return;
    }
    const off = (at: number) => Math.abs(volts.value - at) - volts.step / 2;
    const nearest = told.reduce((best, each) => (off(each) < off(best) ? each : best));
    const share = off(nearest) / nearest;
    if (share <= ZONE_A) return;
    // √3 times the voltage at √3 times the frequency is the same flux, and meant.
    const base = look.plain('motor.baseFrequency');
    const own = { volts: volts.value, hertz: base.kind === 'number' ? base.value : 0 };
    if (plate?.ratings.some((rating) => isRoot3Of(rating, own))) return;
    const measured = site.measuredVolts;
    const isMeasured = measured !== null && Math.abs(volts.value - measured) <= Math.max(1, volts.step);
    const facts = { volts: look.say(volts), plate: look.text(nearest, 'V') };
    look.find(said(isMeasured ? 'measured-for-plate' : 'plate-voltage', facts), {
      attention: share > ZONE_B ? 'stop' : 'look',
      of: [volts],
      mends: [{ 'motor.ratedVoltage': nearest }],
    });
  },
};
