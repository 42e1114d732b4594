// The overload protection lets the motor burn before it trips: it has to trip by 1.2 times and not at 1.05 times the current of the
// plate (IEC 60947-4-1). Where the library has no plate, the current that is set for the motor stands for it.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const LOOK = 1.05;
const STOP = 1.15;

export const overloadOverPlate: Check = {
  id: 'overload-over-plate',
  look(look) {
    const level = look.number('protect.overloadCurrent');
    const action = look.plain('protect.overloadAction');
    if (!level || (action.kind === 'choice' && action.option === 'off')) return;
    const own = look.number('motor.ratedCurrent');
    const rating = look.ground.plate ? look.plateRating() : undefined;
    const plate = rating?.current ?? own?.value;
    if (plate === undefined || !(plate > 0)) {
      look.untold.add('the current of the plate');
      return;
    }
    const share = (level.value - level.step / 2) / plate;
    if (share <= LOOK) return;
    look.find(
      said('overload-over-plate', {
        level: look.say(level),
        plate: look.text(plate, 'A'),
        percent: look.text((100 * level.value) / plate, '%', 1),
      }),
      {
        attention: share > STOP ? 'stop' : 'look',
        of: [level, ...(rating?.current === undefined ? [own] : [])],
        mends: [{ 'protect.overloadCurrent': plate }, { 'protect.overloadCurrent': plate - level.step / 2 }],
      },
    );
  },
};
