// A hanging load and a stop that lets go, with no brake to hold it.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const STOPS = ['stop.mode', 'stop.faultMode', 'stop.quickMode', 'stop.shutdownMode'];

export const hangingCoast: Check = {
  id: 'hanging-coast',
  look(look) {
    const weight = look.plain('tuning.weight');
    if (weight.kind !== 'number' || weight.value === 0) return;
    const fitted = look.plain('brake.fitted');
    if (fitted.kind === 'nothing') {
      look.untold.add('whether there is a holding brake');
      return;
    }
    if (fitted.kind === 'choice' && fitted.option !== 'none') return;
    const coasting = STOPS.filter((name) => {
      const plain = look.plain(name);
      return plain.kind === 'choice' && plain.option === 'coast';
    });
    look.find(
      said('hanging-coast', {
        weight: look.say(weight),
        stops: ['safe torque off', ...coasting.map((name) => look.term(name))].join(', '),
      }),
      { attention: 'stop', of: [weight, fitted, ...coasting.map((name) => look.plain(name))] },
    );
  },
};
