// Run contacts that stay closed until somebody opens them. What a controller switches is the controller's affair, and a button
// is forgotten by whatever stops the drive.

import type { DigitalInput } from '../behaviour/index.ts';
import type { Look } from './look.ts';

export interface MaintainedStart {
  readonly input: DigitalInput;
  readonly device: string;
}

export function maintainedStarts(look: Look): readonly MaintainedStart[] {
  const { reach, ground } = look;
  if (!reach.byTerminals) return [];
  const wiring = look.plain('command.wiring');
  if (wiring.kind === 'choice' && wiring.option === 'three-wire') return [];
  if (!ground.wired) {
    look.untold.add('the wiring of the position is not kept');
    return [];
  }
  return ['run.forward', 'run.reverse'].flatMap((does) =>
    reach.inputs(does).flatMap((input) => {
      const found = reach
        .devicesAt(input.terminal)
        .find(({ device }) => device.kind === 'selector' || (device.kind === 'contact' && !device.momentary));
      return found ? [{ input, device: found.device.name }] : [];
    }),
  );
}
