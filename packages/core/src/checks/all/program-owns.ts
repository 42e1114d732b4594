// A contact on an input that belongs to the user program of the drive, and a function of the drive beside it that never acts.

import { said } from '../../findings/index.ts';
import { terminalsOf } from '../../dictionary/index.ts';
import type { Check } from '../check.ts';

export const programOwns: Check = {
  id: 'program-owns',
  look(look) {
    const { machine } = look.ground;
    const mode = look.plain('program.mode');
    const stands = mode.kind === 'choice' && mode.option === 'stopped';
    for (const { kind, id } of terminalsOf(machine.chart)) {
      const input =
        kind === 'digital-input' ? machine.inputs.find(({ terminal }) => terminal === id) : undefined;
      if (!input) continue;
      const owner = look.plain(`input.${input.number}.owner`);
      if (owner.kind !== 'choice' || owner.option !== 'program') continue;
      const own = look.plain(`input.${input.number}.function`);
      const chosen = own.kind === 'choice' && own.option !== 'none' && own.option !== 'program';
      const meant = chosen && input.code !== null && !look.reach.isDefault(input.code);
      const facts = { terminal: id, does: own.kind === 'choice' ? look.term(own.option) : '' };
      const more = { at: `input ${input.number}`, of: [owner, input.code, mode] };
      if (meant) look.find(said('program-owns', facts), more);
      else if (stands && look.reach.devicesAt(id).length > 0) look.find(said('program-stands', facts), more);
    }
  },
};
