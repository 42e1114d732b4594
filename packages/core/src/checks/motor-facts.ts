// What the set says of its motor, where it says enough for a torque.

import type { PlainNumber } from '../meanings/index.ts';
import { ratedTorque } from '../motor/index.ts';
import type { Look } from './look.ts';

export interface MotorFacts {
  readonly hertz: PlainNumber;
  /** Rated speed. */
  readonly rpm: number;
  /** Rated torque, in Nm. */
  readonly torque: number;
  readonly current: PlainNumber;
}

export function motorFacts(look: Look): MotorFacts | undefined {
  const [power, speed] = [look.number('motor.ratedPower'), look.number('motor.ratedSpeed')];
  const [hertz, current] = [look.number('motor.baseFrequency'), look.number('motor.ratedCurrent')];
  if (!power || !speed || !hertz || !current) return undefined;
  if (!(speed.value > 0) || !(current.value > 0) || !(power.value > 0)) return undefined;
  return { hertz, current, rpm: speed.value, torque: ratedTorque(power.value, speed.value) };
}

/** Of the rotor by the plate, and of the load where the set tells it, in kg·m². */
export function inertiaOf(look: Look): { readonly value: number } | undefined {
  const rotor = look.ground.plate?.inertia;
  if (rotor === undefined) {
    look.untold.add('the inertia of the motor is not on its plate');
    return undefined;
  }
  const load = look.plain('tuning.loadInertia');
  const told = load.kind === 'number' ? load.value / 10_000 : 0;
  return { value: rotor + told };
}
