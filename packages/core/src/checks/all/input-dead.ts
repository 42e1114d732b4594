// A function on an input that the drive never asks, because commands or the speed come from elsewhere.

import { said } from '../../findings/index.ts';
import type { DigitalInput } from '../../behaviour/index.ts';
import type { Check } from '../check.ts';
import type { Look } from '../look.ts';

/** Functions by the word that a model's rule `source.dead` has for them. */
const COMMANDS: readonly (readonly [string, 'run' | 'direction' | 'jog' | 'enable' | 'stop'])[] = [
  ['run.forward', 'run'],
  ['run.reverse', 'run'],
  ['stop', 'stop'],
  ['direction', 'direction'],
  ['jog', 'jog'],
  ['jog.reverse', 'jog'],
  ['enable', 'enable'],
];

export const inputDead: Check = {
  id: 'input-dead',
  look(look) {
    const { reach, ground } = look;
    const { rules } = ground.machine;
    look.choice('command.source');
    const dead = rules.list('source.dead');
    if (reach.commands.size > 0 && !reach.byTerminals)
      for (const [does, word] of COMMANDS)
        if (dead.includes(word))
          tell(look, does, 'commands', [...reach.commands].join(' and '), 'command.source');
    const ramps = look.plain('ramp.secondBy');
    if (ramps.kind === 'choice' && ramps.option === 'frequency')
      tell(look, 'ramps.second', 'the choice of ramps', 'the frequency', 'ramp.secondBy');
    if (reach.speeds.size === 0) return;
    const from = [...reach.speeds].join(' and ');
    const isLoop = reach.loop || reach.speeds.has('source.loop');
    if (!reach.speeds.has('source.presets') && rules.answer('preset.acts') === 'source-only')
      for (const does of ground.machine.presets) tell(look, does, 'the speed', from, 'speed.source');
    if (!reach.speeds.has('source.raise-lower'))
      for (const does of ['raise', 'lower']) tell(look, does, 'the speed', from, 'speed.source');
    if (!isLoop)
      for (const does of ['loop.off', 'loop.second'])
        tell(look, does, 'the speed', 'no control loop', 'loop.mode');
  },
};

function tell(look: Look, does: string, what: string, from: string, by: string): void {
  for (const input of look.reach.inputs(does)) {
    if (!isMeant(look, input)) continue;
    look.find(
      said('input-dead', {
        input: input.number,
        terminal: input.terminal,
        does: look.term(does),
        what,
        from: from
          .split(' and ')
          .map((each) => (each.startsWith('source.') ? `the ${look.term(each)}` : each))
          .join(' and '),
      }),
      {
        at: `input ${input.number}`,
        of: [input.code, look.plain(by)],
        // Who commands a servo from a controller did not forget to choose its contacts.
        mends: [
          ...(from === 'source.keypad' && by === 'command.source' ? [{ [by]: 'source.terminals' }] : []),
          { [`input.${input.number}.function`]: 'none' },
        ],
      },
    );
  }
}

/** Something that can be worked hangs there, or somebody chose the function. A link is neither. */
const isMeant = ({ reach }: Look, { terminal, code }: DigitalInput): boolean =>
  reach.devicesAt(terminal).length > 0 || (code !== null && !reach.isDefault(code));
