// A unit with older firmware than its peers of the same model.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const firmwareOlder: Check = {
  id: 'firmware-older',
  look(look) {
    const { firmware, peers, set } = look.ground;
    const others = peers.filter((peer) => peer.set.dictionary.model === set.dictionary.model);
    if (others.length === 0) return;
    look.sees();
    if (firmware === null) {
      look.untold.add('the firmware of the unit');
      return;
    }
    const newer = others.filter((peer) => numberOf(peer.firmware) > numberOf(firmware));
    // One that is newer is the odd one; when most are, this one was left behind.
    if (newer.length === 0 || newer.length * 2 <= others.length) return;
    const [first] = [...newer].sort((a, b) => numberOf(b.firmware) - numberOf(a.firmware));
    if (!first) return;
    look.find(
      said('firmware-older', { own: firmware, count: newer.length, newest: first.firmware, tag: first.tag }),
      {},
    );
  },
};

const numberOf = (firmware: string): number => Number(firmware) || 0;
