// Current or voltage of the other connection of the windings: they lie apart by √3.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const NEAR = 0.03;
const ROOT_3 = Math.sqrt(3);

export const starForDelta: Check = {
  id: 'star-for-delta',
  look(look) {
    const { plate } = look.ground;
    const [volts, current] = [look.number('motor.ratedVoltage'), look.number('motor.ratedCurrent')];
    if (!volts || !current) return;
    const rating = look.plateRating();
    if (!rating || !plate) return;
    if (rating.current === undefined || rating.voltage === undefined) {
      look.untold.add('the plate tells no current or no voltage');
      return;
    }
    if (Math.abs(volts.value / rating.voltage - 1) > NEAR) return;
    const ratio = current.value / rating.current;
    const isOther = [ROOT_3, 1 / ROOT_3].some((each) => Math.abs(ratio / each - 1) <= NEAR);
    if (!isOther) return;
    look.find(
      said('star-for-delta', {
        current: look.say(current),
        volts: look.text(rating.voltage, 'V'),
        plate: look.text(rating.current, 'A'),
        connection: rating.connection ?? 'as it is connected',
      }),
      { attention: 'stop', of: [current, volts], mends: [{ 'motor.ratedCurrent': rating.current }] },
    );
  },
};
