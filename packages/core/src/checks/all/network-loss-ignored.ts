// Commands come over the network, and the drive runs on when it is lost.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const networkLossIgnored: Check = {
  id: 'network-loss-ignored',
  look(look) {
    const { reach } = look;
    look.choice('command.source');
    const commands = [...reach.commands].some((each) => each.includes('network'));
    const speed = [...reach.speeds].some((each) => each.includes('network'));
    if (!commands && !speed) return;
    const [loss, watch] = [look.choice('network.loss'), look.plain('network.watch')];
    const unwatched = watch.kind === 'choice' && watch.option === 'off';
    if (!unwatched && loss !== 'ignore' && loss !== 'warn') return;
    look.find(
      unwatched
        ? said('network-unwatched', { what: commands ? 'Commands come' : 'The speed comes' })
        : said('network-loss-ignored', { what: commands ? 'Commands come' : 'The speed comes' }),
      {
        attention: 'stop',
        of: [look.plain('network.loss'), watch, look.plain('command.source')],
        mends: unwatched
          ? [{ 'network.watch': 5 }]
          : [{ 'network.loss': 'ramp' }, { 'network.loss': 'stop' }, { 'network.loss': 'fault' }],
      },
    );
  },
};
