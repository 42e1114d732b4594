// Commands or a speed from where nothing can come.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import type { Look } from '../look.ts';

const STARTS = ['run.forward', 'run.reverse', 'enable', 'jog', 'jog.reverse', 'fire'];

export const sourceUnfed: Check = {
  id: 'source-unfed',
  look(look) {
    const { reach, ground } = look;
    look.choice('command.source');
    look.choice('speed.source');
    if (ground.address === 'keypad') network(look);
    if (!ground.wired) {
      look.untold.add('the wiring of the position is not kept');
      return;
    }
    if (reach.commands.size === 1 && reach.commands.has('source.terminals')) starts(look);
    for (const source of reach.speeds) {
      const number = /^source\.analog\.(\d+)$/.exec(source)?.[1];
      const input =
        number === undefined ? undefined : ground.machine.analogs.find((each) => each.number === number);
      if (
        number !== undefined &&
        reach.usesOf(number).includes('speed') &&
        input &&
        !feeds(look, input.terminal)
      )
        look.find(said('signal-unfed', { terminal: input.terminal, source: look.term(source) }), {
          ...{ at: `signal ${number}`, attention: 'stop', of: [look.plain('speed.source')] },
        });
    }
    if (reach.speeds.has('source.raise-lower') && reach.canAct('raise').length === 0)
      look.find(said('raise-unfed', {}), {
        ...{ at: 'raise', attention: 'stop', of: [look.plain('speed.source')] },
      });
  },
};

function network(look: Look): void {
  for (const [set, name] of [
    [look.reach.commands, 'command.source'],
    [look.reach.speeds, 'speed.source'],
  ] as const)
    if (set.has('source.network'))
      look.find(said('network-unfed', { what: look.term(name) }), {
        ...{ at: name, attention: 'stop', of: [look.plain(name)] },
      });
}

function starts(look: Look): void {
  if (STARTS.some((does) => look.reach.canAct(does).length > 0)) return;
  look.find(said('start-unfed', {}), {
    ...{ at: 'start', attention: 'stop', of: [look.plain('command.source')] },
  });
}

/** A wire that leads to something outside; a counting input may take its place. */
function feeds(look: Look, terminal: string): boolean {
  const { reach, ground } = look;
  if (reach.devicesAt(terminal).length > 0) return true;
  const counts = ground.machine.rules.answer('count.feeds');
  const number = ground.machine.analogs.find((each) => each.terminal === terminal)?.number ?? '';
  return counts === `analog-${number}` && reach.canAct('count').length > 0;
}
