// The kind of an analog signal against what sends it: current read as voltage, or a live zero that is not one.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const isCurrent = (kind: string): boolean => kind.endsWith('-ma');
const NAMES: Readonly<Record<string, string>> = {
  '0-10-v': '0 to 10 V',
  '2-10-v': '2 to 10 V',
  '0-20-ma': '0 to 20 mA',
  '4-20-ma': '4 to 20 mA',
  'bipolar-10-v': '−10 to 10 V',
};

export const signalSender: Check = {
  id: 'signal-sender',
  look(look) {
    const { machine, wired } = look.ground;
    for (const input of machine.analogs) {
      const uses = look.reach.usesOf(input.number);
      if (uses.length > 0 && !wired) look.untold.add('what sends the analog signal: the wiring is not kept');
      const sender = look.reach
        .devicesAt(input.terminal)
        .map(({ device }) => device)
        .find(({ kind }) => kind === 'transmitter' || kind === 'potentiometer');
      if (!sender || input.signal === undefined) continue;
      const sent = sender.kind === 'transmitter' ? sender.signal : '0-10-v';
      if (sent === input.signal || uses.length === 0) continue;
      const facts = {
        device: sender.name,
        sent: NAMES[sent] ?? sent,
        terminal: input.terminal,
        read: NAMES[input.signal] ?? input.signal,
      };
      const name = `analog.${input.number}.signal`;
      const other = isCurrent(sent) !== isCurrent(input.signal);
      look.find(said(other ? 'signal-other-kind' : 'signal-other-zero', facts), {
        ...{ at: `signal ${input.number}`, attention: 'stop' },
        of: [look.plain(name), input.code],
        mends: [{ [name]: sent }, { [name]: sent, [`analog.${input.number}.liveZero`]: 'on' }],
      });
    }
  },
};
