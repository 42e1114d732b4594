// An input that counts, behind a filter that is longer than a pulse.

import { findParameter, terminalsOf } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const countFilter: Check = {
  id: 'count-filter',
  look(look) {
    const { dictionary, readings } = look.ground.set;
    const terminals = terminalsOf(look.ground.machine.chart);
    for (const input of look.reach.inputs('count')) {
      const code = terminals.find(({ id }) => id === input.terminal)?.filter;
      const parameter = code ? findParameter(dictionary, code) : undefined;
      const filter = parameter?.meaning ? look.number(parameter.meaning) : undefined;
      // Where counting takes the place of the filter, the model says so.
      const raw = input.code === null ? undefined : readings.get(input.code);
      const blocked = dictionary.effects.some(
        (effect) =>
          effect.kind === 'blocks' &&
          effect.when === input.code &&
          (effect.is === null || (typeof raw === 'number' && effect.is.includes(raw))) &&
          effect.codes.some((code) => filter?.codes.includes(code)),
      );
      if (blocked) continue;
      const scale = look.number('input.count.scale');
      if (!filter || !scale || !(scale.value > 0)) continue;
      const pulse = 1 / (2 * scale.value);
      if (filter.value <= pulse) continue;
      look.find(
        said('count-filter', {
          terminal: input.terminal,
          filter: look.text(filter.value * 1000, 'ms'),
          hertz: look.text(scale.value, 'Hz', 1),
          pulse: look.text(pulse * 1000, 'ms'),
        }),
        { at: `input ${input.number}`, attention: 'stop', of: [input.code, filter, scale] },
      );
    }
  },
};
