// The numbers of a position for the sheet of its motor: the plate from the library, or what the drive is set to, with the drive,
// the supply and the cabinet beside it.

import { ratingFor, type MotorSheetInput } from '../motor/index.ts';
import { deratedBy } from '../rules/index.ts';
import { meaningOf } from '../values/index.ts';
import type { Ground } from './ground.ts';

const CM2_PER_M2 = 10_000;
const HERTZ_PER_KILOHERTZ = 1000;

/** `plate` where the library has it, else `set`. */
export function motorInputOf(ground: Ground, of: 'plate' | 'set'): MotorSheetInput {
  const { set, plate, site } = ground;
  const value = (name: string): number | undefined => {
    const plain = set.get(meaningOf(name));
    return plain.kind === 'number' ? plain.value : undefined;
  };
  const own = {
    power: value('motor.ratedPower'),
    voltage: value('motor.ratedVoltage'),
    current: value('motor.ratedCurrent'),
    frequency: value('motor.baseFrequency'),
    speed: value('motor.ratedSpeed'),
    powerFactor: value('motor.powerFactor'),
    poles: set.stated(meaningOf('motor.poles')) ? value('motor.poles') : undefined,
  };
  const rating = plate && ratingFor(plate, own.voltage);
  const onPlate = rating ? { ...rating, poles: plate.poles } : own;
  const carrierHertz = value('carrier.frequency');
  const carrier = carrierHertz === undefined ? undefined : carrierHertz / HERTZ_PER_KILOHERTZ;
  const ambient = site.ambient ?? value('site.ambient');
  const { byHeat, byCarrier } = deratedBy(set.dictionary.derating, ambient ?? null, carrier ?? null);
  const unit = set.reference('unit.current');
  const load = value('tuning.loadInertia');
  const [ramp, base] = [value('ramp.down'), own.frequency];
  return {
    ...pick(of === 'plate' ? onPlate : own),
    inertia: plate?.inertia,
    loadInertia: load === undefined ? undefined : load / CM2_PER_M2,
    supply: site.measuredVolts ?? site.nominalVolts ?? undefined,
    unitCurrent: unit.ok ? unit.value.value : undefined,
    limitCurrent: value('limit.current'),
    rampDown: ramp === undefined || base === undefined ? undefined : ramp * base,
    ...{ ambient, carrier, byHeat, byCarrier },
  };
}

/** A plate has more on it than the sheet asks for. */
const pick = ({
  power,
  voltage,
  current,
  frequency,
  speed,
  powerFactor,
  poles,
}: MotorSheetInput): MotorSheetInput => ({
  ...{ power, voltage, current, frequency, speed, powerFactor, poles },
});
