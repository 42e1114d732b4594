// A brake that is given less time than its plate says it needs: the load sinks, or the motor pulls against the lining.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const brakeTimes: Check = {
  id: 'brake-times',
  look(look) {
    const fitted = look.plain('brake.fitted');
    const has =
      (fitted.kind === 'choice' && fitted.option !== 'none') ||
      look.ground.machine.outputs.some(({ does }) => does === 'brake-open');
    if (!has) return;
    const brake = look.ground.plate?.brake;
    if (!brake || (brake.releaseDelay === undefined && brake.setDelay === undefined)) {
      look.untold.add('the times of the brake are not on the plate of the motor');
      return;
    }
    for (const [name, needs] of [
      ['brake.openDelay', brake.releaseDelay],
      ['brake.closeDelay', brake.setDelay],
    ] as const) {
      const own = look.number(name);
      if (!own || needs === undefined || own.value + own.step / 2 >= needs) continue;
      look.find(
        said('brake-times', {
          what: look.term(name),
          own: look.say(own),
          plate: look.text(needs, 's', own.step),
        }),
        { at: name, attention: 'stop', of: [own], mends: [{ [name]: needs }, { [name]: needs + own.step }] },
      );
    }
  },
};
