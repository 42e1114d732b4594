// A contact for a direction that the way of wiring, or the allowed direction, does not let act.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const runContradicts: Check = {
  id: 'run-contradicts',
  look(look) {
    const { reach, ground } = look;
    if (!reach.byTerminals) return;
    const wiring = look.choice('command.wiring');
    const hung = (does: string) =>
      reach.inputs(does).filter(({ terminal, code }) => {
        const devices = reach.devicesAt(terminal);
        return devices.length > 0 || (!ground.wired && code !== null && !reach.isDefault(code));
      });
    const tell = (does: string, code: 'direction-unread' | 'direction-forbidden', by: string) => {
      for (const input of hung(does))
        look.find(
          said(code, { terminal: input.terminal, does: look.term(does), by: look.say(look.plain(by)) }),
          { at: `input ${input.number}`, of: [input.code, look.plain(by)] },
        );
    };
    if (wiring === 'separate') tell('direction', 'direction-unread', 'command.wiring');
    if (wiring === 'direction') tell('run.reverse', 'direction-unread', 'command.wiring');
    if (wiring === 'three-wire' && ground.machine.rules.answer('three-wire.direction') === 'ignored')
      tell('direction', 'direction-unread', 'command.wiring');
    const allowed = look.choice('direction.allowed');
    if (allowed === 'forward')
      for (const does of ['run.reverse', 'direction', 'jog.reverse'])
        tell(does, 'direction-forbidden', 'direction.allowed');
    if (allowed === 'reverse') tell('run.forward', 'direction-forbidden', 'direction.allowed');
  },
};
