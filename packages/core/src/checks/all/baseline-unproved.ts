// A baseline that was signed and never tried on the machine.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const baselineUnproved: Check = {
  id: 'baseline-unproved',
  look(look) {
    const { baseline, proved } = look.ground;
    if (baseline === 'none' || baseline === null) return;
    if (proved === null) {
      look.untold.add('whether the baseline was proved on the machine: no proof runs are kept');
      return;
    }
    look.sees();
    if (!proved) look.find(said('baseline-unproved', {}));
  },
};
