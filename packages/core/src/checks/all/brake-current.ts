// A brake coil that takes more than the output which switches it gives.

import { terminalsOf } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const MILLIAMPS = 1000;

export const brakeCurrent: Check = {
  id: 'brake-current',
  look(look) {
    const { machine, plate } = look.ground;
    const fitted = look.plain('brake.fitted');
    for (const terminal of terminalsOf(machine.chart)) {
      if (terminal.milliamps === null) continue;
      const output = machine.outputs.find(({ closes, opens, transistor }) =>
        [closes, opens, transistor?.terminal].includes(terminal.id),
      );
      const own = terminal.kind === 'brake' && fitted.kind === 'choice' && fitted.option !== 'none';
      if (!own && output?.does !== 'brake-open') continue;
      const hung = look.reach.devicesAt(terminal.id).map(({ device }) => device);
      const brake = hung.find(({ kind }) => kind === 'brake' || kind === 'load');
      // Where a contactor hangs in between, its coil counts.
      const coil =
        brake && 'milliamps' in brake
          ? { amps: brake.milliamps / MILLIAMPS, of: brake.name }
          : own && plate?.brake?.coilCurrent !== undefined
            ? { amps: plate.brake.coilCurrent, of: 'the plate of the motor' }
            : undefined;
      const told = look.plain('brake.coilCurrent');
      const coilOwn = own && told.kind === 'number' ? { amps: told.value, of: 'the set' } : undefined;
      const most = [coil, coilOwn].flatMap((each) => each ?? []);
      if (most.length === 0) look.untold.add('the current of the brake coil');
      const over = most.find(({ amps }) => amps * MILLIAMPS > (terminal.milliamps ?? Infinity));
      if (!over) continue;
      look.find(
        said('brake-current', {
          amps: look.text(over.amps, 'A'),
          of: over.of,
          terminal: terminal.id,
          most: look.text(terminal.milliamps / MILLIAMPS, 'A'),
        }),
        { at: terminal.id, attention: 'stop', of: [fitted, told, output?.code] },
      );
    }
  },
};
