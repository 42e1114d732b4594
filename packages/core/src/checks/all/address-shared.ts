// Two units with one address on one line answer at once; and one that is set to another address than the register knows is not
// found there after its next restart.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const addressShared: Check = {
  id: 'address-shared',
  look(look) {
    const { address, sharesAddress } = look.ground;
    if (address === 'keypad') return;
    const own = look.number('network.address');
    if (!own) return;
    if (address === null) {
      look.untold.add('the line of the unit');
      return;
    }
    if (sharesAddress.length > 0)
      look.find(said('address-shared', { address: look.say(own), tags: sharesAddress.join(', ') }), {
        ...{ at: 'shared', attention: 'stop', of: [own] },
      });
    if (own.value === address) return;
    look.find(said('address-other', { own: look.say(own), register: String(address) }), {
      ...{ at: 'register', of: [own], mends: [{ 'network.address': address }] },
    });
  },
};
