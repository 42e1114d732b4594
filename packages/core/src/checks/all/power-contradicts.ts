// Power, voltage, current and cos φ of one motor: η = P/(√3·U·I·cos φ) is below 1, and a motor below 0.5 is looked at twice
// (IEC 60034-1, IEC 60034-30-1).

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import { apparentPower, efficiencyOf } from '../../motor/index.ts';

const LEAST = 0.5;

export const powerContradicts: Check = {
  id: 'power-contradicts',
  look(look) {
    const [power, volts] = [look.number('motor.ratedPower'), look.number('motor.ratedVoltage')];
    const current = look.number('motor.ratedCurrent');
    if (!power || !volts || !current || !(volts.value > 0) || !(current.value > 0)) return;
    if (look.ground.machine.rules.list('priority').includes('enable')) return;
    const own = look.plain('motor.powerFactor');
    const onPlate = look.ground.plate ? look.plateRating()?.powerFactor : undefined;
    const factor = onPlate ?? (own.kind === 'number' ? own.value : undefined);
    // As far as steps let the numbers lie apart.
    const least = Math.max(0, power.value - power.step / 2);
    const most = { volts: volts.value + volts.step / 2, amps: current.value + current.step / 2 };
    const best = efficiencyOf(least, most.volts, most.amps, factor ?? 1);
    const facts = {
      power: look.text(power.value / 1000, 'kW'),
      apparent: look.text(apparentPower(volts.value, current.value) / 1000, 'kVA', 0.01),
      factor: factor === undefined ? 'not told' : look.text(factor, '', 0.01),
      efficiency: look.text(100 * efficiencyOf(power.value, volts.value, current.value, factor ?? 1), '%', 1),
    };
    const of = [power, volts, current, own];
    if (best > 1) look.find(said('power-over', facts), { attention: 'stop', of });
    else if (factor === undefined) look.untold.add('cos φ of the motor');
    else if (efficiencyOf(power.value, volts.value, current.value, factor) < LEAST && power.value > 0)
      look.find(said('power-under', facts), { of });
  },
};
