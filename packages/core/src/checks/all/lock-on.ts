// A lock code that is on: nothing can be written to the unit, nor put back after it was changed, before somebody knows it.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const lockOn: Check = {
  id: 'lock-on',
  look(look) {
    const lock = look.plain('unit.lock');
    if (lock.kind !== 'number' || lock.value === 0) return;
    const asDelivered = look.codes(lock).some((code) => look.reach.isDefault(code));
    look.find(asDelivered ? said('lock-default', {}) : said('lock-on', {}), {
      of: [lock],
      mends: [{ 'unit.lock': 'off' }],
    });
  },
};
