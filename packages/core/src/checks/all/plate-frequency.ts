// The base frequency is not that of the plate. 87 Hz at 400 V for a motor of 230 V at 50 Hz in delta has the same flux and is
// meant: voltage over frequency decides.

import { said } from '../../findings/index.ts';
import { isRoot3Of } from '../../motor/index.ts';
import type { Check } from '../check.ts';

const SAME = 0.01;

export const plateFrequency: Check = {
  id: 'plate-frequency',
  look(look) {
    const base = look.number('motor.baseFrequency');
    const plate = base && look.plateRating();
    if (!plate) return;
    if (plate.frequency === undefined) {
      look.untold.add('the plate tells no frequency');
      return;
    }
    if (Math.abs(base.value - plate.frequency) <= Math.max(base.step / 2, SAME)) return;
    const volts = look.number('motor.ratedVoltage');
    const own = { volts: volts?.value ?? 0, hertz: base.value };
    if (look.ground.plate?.ratings.some((each) => isRoot3Of(each, own))) return;
    look.find(said('plate-frequency', { base: look.say(base), plate: look.text(plate.frequency, 'Hz') }), {
      attention: 'stop',
      of: [base, volts],
      mends: [{ 'motor.baseFrequency': plate.frequency }],
    });
  },
};
