// The sense of a control loop against what its transmitter measures: below zero, in a flue or a suction line, more speed lowers.
// Otherwise only a change against the baseline tells.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { meaningOf } from '../../values/index.ts';

export const loopSense: Check = {
  id: 'loop-sense',
  look(look) {
    const { reach, ground } = look;
    const mode = look.plain('loop.mode');
    if (!reach.loop || mode.kind !== 'choice') return;
    const other = mode.option === 'raises' ? 'lowers' : 'raises';
    const { baseline } = ground;
    const before = baseline && baseline !== 'none' ? baseline.choice(meaningOf('loop.mode')) : undefined;
    const mends = [{ 'loop.mode': other }];
    if (before === other) {
      look.find(said('loop-sense-changed', { now: words(mode.option), before: words(before) }), {
        ...{ attention: 'stop', of: [mode], mends },
      });
      return;
    }
    const sender = ground.machine.analogs
      .filter(({ number }) => reach.usesOf(number).includes('loop'))
      .flatMap(({ terminal }) => reach.devicesAt(terminal))
      .find(({ device }) => device.kind === 'transmitter')?.device;
    if (sender?.kind !== 'transmitter') {
      look.untold.add('what the loop measures: no transmitter is wired to it');
      return;
    }
    const { low, high, unit } = sender.range;
    const suction = low < 0 && high <= 0;
    if (!suction || mode.option !== 'raises') return;
    look.find(said('loop-sense', { device: sender.name, range: `${low} to ${high} ${unit}`.trim() }), {
      ...{ attention: 'stop', of: [mode], mends },
    });
  },
};

const words = (option: string): string => (option === 'raises' ? 'more speed raises' : 'more speed lowers');
