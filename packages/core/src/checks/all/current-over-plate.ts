// The drive lets the motor have more than its plate allows.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

/** Less is how plates and steps are rounded; IEC 60947-4-1 lets a protection stand at 105 %. */
const LOOK = 1.05;
const STOP = 1.15;

export const currentOverPlate: Check = {
  id: 'current-over-plate',
  look(look) {
    const current = look.number('motor.ratedCurrent');
    const plate = current && look.plateRating();
    if (!plate) return;
    if (plate.current === undefined) {
      look.untold.add('the plate tells no current');
      return;
    }
    const share = (current.value - current.step / 2) / plate.current;
    if (share <= LOOK) return;
    look.find(
      said('current-over-plate', {
        current: look.say(current),
        plate: look.text(plate.current, 'A'),
        percent: look.text((100 * current.value) / plate.current, '%', 1),
      }),
      {
        attention: share > STOP ? 'stop' : 'look',
        of: [current],
        mends: [{ 'motor.ratedCurrent': plate.current }],
      },
    );
  },
};
