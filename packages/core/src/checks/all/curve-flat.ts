// A signal that gives the speed and cannot move it: its whole range lies outside the limits, or both ends are the same.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const curveFlat: Check = {
  id: 'curve-flat',
  look(look) {
    const [minimum, maximum] = [look.number('frequency.minimum'), look.number('frequency.maximum')];
    for (const { number, terminal } of look.ground.machine.analogs) {
      if (!look.reach.usesOf(number).includes('speed')) continue;
      const curve = look.plain(`analog.${number}.curve`);
      if (curve.kind !== 'curve') {
        if (curve.kind === 'nothing' && curve.why.code !== 'other-use')
          look.untold.add(`${look.term(`analog.${number}.curve`)}: ${look.say(curve)}`);
        continue;
      }
      if (!minimum || !maximum) continue;
      const speeds = curve.points.map(({ value }) => Math.abs(value));
      const crosses =
        curve.points.some(({ value }) => value < 0) && curve.points.some(({ value }) => value > 0);
      const low = crosses ? 0 : Math.min(...speeds);
      const high = Math.max(...speeds);
      const cut = (value: number) => Math.min(Math.max(value, minimum.value), maximum.value);
      if (cut(high) - cut(low) > curve.step) continue;
      look.find(
        said('curve-flat', {
          terminal,
          curve: look.say(curve),
          minimum: look.say(minimum),
          maximum: look.say(maximum),
        }),
        { at: `signal ${number}`, attention: 'stop', of: [curve, minimum, maximum] },
      );
    }
  },
};
