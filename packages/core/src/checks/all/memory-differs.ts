// What was tried out and never saved: it is gone when the supply is.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const MOST_CODES = 6;

export const memoryDiffers: Check = {
  id: 'memory-differs',
  look(look) {
    const { unsaved, set } = look.ground;
    if (!set.dictionary.line?.save) return;
    if (unsaved === null) {
      look.untold.add('what stands in the permanent memory');
      return;
    }
    look.sees();
    if (unsaved.length === 0) return;
    const more = unsaved.length - MOST_CODES;
    const codes = unsaved.slice(0, MOST_CODES).join(', ') + (more > 0 ? ` and ${more} more` : '');
    look.find(said('memory-differs', { codes }), { of: unsaved });
  },
};
