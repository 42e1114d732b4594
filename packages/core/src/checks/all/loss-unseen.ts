// A transmitter that tells of its own failure by a current which the drive takes for a good signal: below 3.6 mA or above 21 mA
// (NAMUR NE 43) against the threshold of the model.

import { lostBelow } from '../../behaviour/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const lossUnseen: Check = {
  id: 'loss-unseen',
  look(look) {
    for (const input of look.ground.machine.analogs) {
      if (input.signal !== '4-20-ma' || input.loss === 'ignore') continue;
      if (look.reach.usesOf(input.number).length === 0) continue;
      const sender = look.reach
        .devicesAt(input.terminal)
        .find(({ device }) => device.kind === 'transmitter')?.device;
      if (sender?.kind !== 'transmitter') continue;
      const threshold = lostBelow(look.ground.machine, input);
      if (sender.failsAt === null) look.untold.add(`which current ${sender.name} gives when it has failed`);
      if (threshold === undefined) look.untold.add('below which current the drive takes the signal for lost');
      if (sender.failsAt === null || threshold === undefined || sender.failsAt < threshold) continue;
      look.find(
        said('loss-unseen', {
          device: sender.name,
          fails: look.text(sender.failsAt, 'mA'),
          threshold: look.text(threshold, 'mA'),
          terminal: input.terminal,
        }),
        { at: `signal ${input.number}`, of: [look.plain(`analog.${input.number}.loss`)] },
      );
    }
  },
};
