// One function on two inputs. Where the model says what two of them do together it is a way to wire and nothing wrong.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const functionTwice: Check = {
  id: 'function-twice',
  look(look) {
    const { machine } = look.ground;
    if (machine.inputs.length > 0) look.sees();
    if (machine.rules.answer('function.twice') === 'either') return;
    for (const does of machine.byFunction.keys()) {
      if (does === undefined || does === 'none' || does === 'program') continue;
      const inputs = look.reach.inputs(does);
      if (inputs.length < 2) continue;
      look.find(
        said('function-twice', {
          does: look.term(does),
          inputs: inputs.map(({ terminal }) => terminal).join(' and '),
        }),
        { at: does, of: inputs.map(({ code }) => code) },
      );
    }
  },
};
