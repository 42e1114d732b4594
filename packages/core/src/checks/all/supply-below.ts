// A motor gets no more voltage than the supply has.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const ZONE_A = 0.95;
const ZONE_B = 0.9;

export const supplyBelow: Check = {
  id: 'supply-below',
  look(look) {
    const volts = look.number('motor.ratedVoltage');
    const { measuredVolts, nominalVolts } = look.ground.site;
    const supply = measuredVolts ?? nominalVolts;
    if (!volts) return;
    // A servo's voltage stands behind its bus and is not the mains.
    if (look.ground.machine.rules.list('priority').includes('enable')) return;
    if (supply === null) {
      look.untold.add('the voltage of the supply');
      return;
    }
    const share = supply / (volts.value - volts.step / 2);
    if (share >= ZONE_A) return;
    const base = look.plain('motor.baseFrequency');
    look.find(
      said('supply-below', {
        volts: look.say(volts),
        supply: look.text(supply, 'V'),
        measured: measuredVolts === null ? 'nominal' : 'measured',
        hertz: base.kind === 'number' ? look.text(base.value * share, 'Hz', 0.1) : '',
      }),
      { attention: share < ZONE_B ? 'stop' : 'look', of: [volts, base] },
    );
  },
};
