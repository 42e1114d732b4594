// Nothing looks after the heat of the motor: neither the drive's own model of it nor a sensor in the windings.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

export const overloadOff: Check = {
  id: 'overload-off',
  look(look) {
    const action = look.plain('protect.overloadAction');
    if (action.kind !== 'choice' || action.option !== 'off') return;
    const sensor = look.plain('protect.sensor');
    if (sensor.kind === 'choice' && sensor.option !== 'none') return;
    if (look.reach.inputs('motor.warm').length > 0) return;
    if (look.reach.inputs('external-fault').some(({ terminal }) => hasSensor(terminal))) return;
    look.find(said('overload-off', {}), {
      attention: 'stop',
      of: [action, sensor],
      mends: [{ 'protect.overloadAction': 'fault' }],
    });

    function hasSensor(terminal: string): boolean {
      return look.reach.devicesAt(terminal).some(({ device }) => device.kind === 'sensor');
    }
  },
};
