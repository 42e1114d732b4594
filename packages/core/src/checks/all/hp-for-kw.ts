// Horsepower that was typed for kilowatts, or the other way round.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { HORSEPOWER } from '../../motor/index.ts';

const NEAR = 0.03;
const WATTS_PER_KILOWATT = 1000;

export const hpForKw: Check = {
  id: 'hp-for-kw',
  look(look) {
    const power = look.number('motor.ratedPower');
    const plate = power && look.plateRating();
    if (!plate) return;
    if (plate.power === undefined) {
      look.untold.add('the plate tells no power');
      return;
    }
    const ratio = power.value / plate.power;
    const swapped = [WATTS_PER_KILOWATT / HORSEPOWER, HORSEPOWER / WATTS_PER_KILOWATT].some(
      (each) => Math.abs(ratio / each - 1) <= NEAR + power.step / 2 / power.value,
    );
    // A step as wide as the ratio itself tells nothing.
    if (!swapped || Math.abs(power.value - plate.power) <= power.step) return;
    look.find(
      said('hp-for-kw', {
        power: look.text(power.value / WATTS_PER_KILOWATT, 'kW'),
        plate: look.text(plate.power / WATTS_PER_KILOWATT, 'kW'),
        ratio: look.text(ratio, '', 0.001),
      }),
      { attention: 'stop', of: [power], mends: [{ 'motor.ratedPower': plate.power }] },
    );
  },
};
