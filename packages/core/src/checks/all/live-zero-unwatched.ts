// A signal with a live zero tells when its wire breaks, and nobody listens.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const LIVE = ['4-20-ma', '2-10-v'];

export const liveZeroUnwatched: Check = {
  id: 'live-zero-unwatched',
  look(look) {
    for (const input of look.ground.machine.analogs) {
      if (!LIVE.includes(input.signal ?? '') || look.reach.usesOf(input.number).length === 0) continue;
      const name = `analog.${input.number}.loss`;
      const loss = look.choice(name);
      if (loss !== 'ignore') continue;
      const hung = look.reach.devicesAt(input.terminal).length > 0;
      // As delivered, and nothing on it: the source is told elsewhere.
      if (look.ground.wired && !hung) continue;
      look.find(said('live-zero-unwatched', { terminal: input.terminal }), {
        ...{ at: `signal ${input.number}` },
        of: [look.plain(name), look.plain(`analog.${input.number}.signal`)],
        mends: [{ [name]: 'fault' }, { [name]: 'hold' }],
      });
    }
  },
};
