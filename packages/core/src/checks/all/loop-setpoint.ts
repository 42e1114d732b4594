// A set-point, or the range in which the drive shows the loop, against what the transmitter measures.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import type { Look } from '../look.ts';
import { loopEnds } from '../loop-ends.ts';
import { meaningOf } from '../../values/index.ts';

const PERCENT = 100;
const NEAR = 0.02;

export const loopSetpoint: Check = {
  id: 'loop-setpoint',
  look(look) {
    const { reach, ground } = look;
    if (!reach.loop) return;
    const senders = ground.machine.analogs
      .filter(({ number }) => reach.usesOf(number).includes('loop'))
      .flatMap(({ terminal }) => reach.devicesAt(terminal));
    const sender = senders.find(({ device }) => device.kind === 'transmitter')?.device;
    if (sender?.kind !== 'transmitter') {
      look.untold.add('what the loop measures: no transmitter is wired to it');
      return;
    }
    const { low, high, unit } = sender.range;
    const [from, to] = [look.plain('loop.scaleLow'), look.plain('loop.scaleHigh')];
    const span = Math.abs(high - low);
    if (from.kind === 'number' && to.kind === 'number') {
      const off = Math.max(Math.abs(from.value - low), Math.abs(to.value - high));
      // Percent of the range is a scale of its own.
      const percent = from.value === 0 && to.value === PERCENT;
      if (!percent && off > NEAR * span)
        look.find(
          said('loop-scale', {
            shown: `${look.say(from)} to ${look.say(to)}`,
            device: sender.name,
            range: `${low} to ${high} ${unit}`.trim(),
          }),
          {
            ...{ at: 'range', attention: 'stop', of: [from, to] },
            mends: [{ 'loop.scaleLow': low, 'loop.scaleHigh': high }],
          },
        );
    }
    for (const name of ['loop.setpoint', 'loop.setpoint2']) {
      const setPoint = look.plain(name);
      if (setPoint.kind !== 'number') continue;
      if (name === 'loop.setpoint2' && reach.inputs('loop.second').length === 0) continue;
      if (name === 'loop.setpoint' && (look.choice('loop.setpointSource') ?? 'fixed') !== 'fixed') continue;
      if (setPoint.value < 0 || setPoint.value > PERCENT) {
        look.find(
          said('loop-setpoint', {
            what: look.term(name),
            value: look.text(low + ((high - low) * setPoint.value) / PERCENT, unit),
            percent: look.say(setPoint),
            device: sender.name,
            range: `${low} to ${high} ${unit}`.trim(),
          }),
          { at: name, attention: 'stop', of: [setPoint] },
        );
        continue;
      }
      const reached = reachedBy(look);
      if (reached && (setPoint.value < reached.low || setPoint.value > reached.high)) {
        const [low, high] = [look.text(reached.low, '%'), look.text(reached.high, '%')];
        look.find(said('loop-unreached', { what: look.term(name), percent: look.say(setPoint), low, high }), {
          ...{ at: name, attention: 'stop', of: [setPoint, ...reached.codes] },
        });
      }
    }
  },
};

function reachedBy({ reach, ground }: Look) {
  const input = ground.machine.analogs.find(({ number }) => reach.usesOf(number).includes('loop'));
  if (!input) return undefined;
  const { low, high } = loopEnds(ground, input.number);
  const codes = ['low', 'high'].map(
    (end) => ground.set.stated(meaningOf(`analog.${input.number}.${end}`))?.code,
  );
  return { low: Math.min(low, high), high: Math.max(low, high), codes };
}
