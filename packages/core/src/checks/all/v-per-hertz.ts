// Voltage over frequency is the flux of the motor: too much overheats it, too little takes its torque. 87 Hz at √3 times the
// voltage is the same flux and meant.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { voltsPerHertz } from '../../motor/index.ts';

const LEAST = 0.9;
const MOST = 1.1;

export const vPerHertz: Check = {
  id: 'v-per-hertz',
  look(look) {
    const [volts, base] = [look.number('motor.ratedVoltage'), look.number('motor.baseFrequency')];
    const { plate } = look.ground;
    if (!volts || !base || !(base.value > 0)) return;
    const told = (plate?.ratings ?? []).flatMap(({ voltage, frequency }) =>
      voltage && frequency ? [voltsPerHertz(voltage, frequency)] : [],
    );
    if (told.length === 0) {
      look.untold.add('voltage and frequency of the plate');
      return;
    }
    const own = voltsPerHertz(volts.value, base.value);
    if (told.some((each) => own / each >= LEAST && own / each <= MOST)) return;
    const nearest = told.reduce((best, each) => (Math.abs(own - each) < Math.abs(own - best) ? each : best));
    look.find(
      said('v-per-hertz', {
        own: look.text(own, 'V/Hz', 0.01),
        plate: look.text(nearest, 'V/Hz', 0.01),
        percent: look.text((100 * own) / nearest, '%', 1),
        effect:
          own > nearest
            ? 'more flux than it is made for: it gets hot without a load'
            : 'less flux: less torque at every speed',
      }),
      { attention: 'stop', of: [volts, base] },
    );
  },
};
