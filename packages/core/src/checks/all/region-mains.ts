// The region or the mains that the unit is set for against the supply that it hangs on.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

/** Options of `unit.mains` are nominal voltages; a supply within a tenth belongs to one. */
const TOLERANCE = 0.1;

export const regionMains: Check = {
  id: 'region-mains',
  look(look) {
    const { hertz, nominalVolts } = look.ground.site;
    const region = look.choice('unit.region');
    if (region !== undefined && hertz === null) look.untold.add('the frequency of the supply');
    if (region !== undefined && hertz !== null && region !== `${hertz}-hz`)
      look.find(
        said('region-mains', { region: region.replace('-hz', ' Hz'), supply: look.text(hertz, 'Hz', 1) }),
        { at: 'region', of: [look.plain('unit.region')], mends: [{ 'unit.region': `${hertz}-hz` }] },
      );
    const mains = look.choice('unit.mains');
    if (mains === undefined) return;
    if (nominalVolts === null) {
      look.untold.add('the voltage of the supply');
      return;
    }
    if (Math.abs(Number(mains) / nominalVolts - 1) <= TOLERANCE) return;
    look.find(said('mains-other', { mains: `${mains} V`, supply: look.text(nominalVolts, 'V', 1) }), {
      ...{ at: 'mains', attention: 'stop', of: [look.plain('unit.mains')] },
    });
  },
};
