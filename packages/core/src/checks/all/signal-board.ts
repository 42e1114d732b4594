// The kind of an analog signal against the switch of its input on the board.

import { findParameter } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const signalBoard: Check = {
  id: 'signal-board',
  look(look) {
    const { machine, wired, set } = look.ground;
    for (const input of machine.analogs) {
      const board = machine.chart.switches.find(
        ({ agreesWith }) => agreesWith !== null && agreesWith === input.code,
      );
      if (!board || input.signal === undefined) continue;
      const uses = look.reach.usesOf(input.number);
      const hung = look.reach.devicesAt(input.terminal).length > 0;
      // A switch is seen only by who opens the cover: as delivered where nobody told otherwise.
      if (!hung && uses.length === 0) continue;
      if (!wired) {
        look.untold.add('where the switches of the board stand');
        continue;
      }
      const standing = machine.wiring.switches[board.id] ?? board.factory;
      const place = board.places.find(({ name }) => name === standing);
      const raw = input.code === null ? undefined : set.readings.get(input.code);
      if (!place?.agrees || typeof raw !== 'number' || place.agrees.includes(raw)) continue;
      const form = input.code === null ? undefined : findParameter(set.dictionary, input.code)?.form;
      const agreeing =
        form?.kind === 'option' ? form.options.filter((each) => place.agrees?.includes(each.raw)) : [];
      const signal = look.plain(`analog.${input.number}.signal`);
      const sender = look.reach
        .devicesAt(input.terminal)
        .find(({ device }) => device.kind === 'transmitter')?.device;
      const sent = sender?.kind === 'transmitter' ? sender.signal : undefined;
      look.find(
        said('signal-board', {
          terminal: input.terminal,
          signal: sayOption(form, raw),
          board: board.id,
          place: standing,
        }),
        {
          // Nobody reads it: it is wrong for the input, and for no speed.
          ...{ at: `signal ${input.number}`, attention: uses.length > 0 ? 'stop' : 'look', of: [signal] },
          // Where something else is sent, the switch has to be turned.
          mends: agreeing.flatMap(({ meaning }) =>
            meaning === undefined || (sent !== undefined && meaning !== sent)
              ? []
              : [{ [`analog.${input.number}.signal`]: meaning }],
          ),
        },
      );
    }
  },
};

type Form = NonNullable<ReturnType<typeof findParameter>>['form'];

const sayOption = (form: Form | undefined, raw: number): string =>
  (form?.kind === 'option' ? form.options.find((each) => each.raw === raw)?.text : undefined) ?? String(raw);
