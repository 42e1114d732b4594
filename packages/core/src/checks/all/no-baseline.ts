// Nobody has signed what this position should hold: no drift is ever seen.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const noBaseline: Check = {
  id: 'no-baseline',
  look(look) {
    if (look.ground.baseline !== null) look.sees();
    if (look.ground.baseline === 'none') look.find(said('no-baseline', {}));
  },
};
