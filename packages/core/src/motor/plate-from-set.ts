// The plate that a drive's set tells of its motor, by meaning. Every number comes with the step in which that drive can
// tell it, as a plate that was typed in kilowatts is not known to the watt.

import type { Dictionary } from '../dictionary/index.ts';
import { tidy, type Bridge, type PlainSet } from '../meanings/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { inBaseUnit, type Meaning, meaningOf } from '../values/index.ts';
import { BRAKE_FIELDS, MOTOR_FIELDS, RATING_FIELDS } from './plate.ts';

export interface ToldValue {
  readonly code: string;
  /** In the base unit of the field. */
  readonly value: number;
  readonly step: number;
  /** The drive measured it on a motor that may have been cold or warm. */
  readonly measured: boolean;
}

export type PlateKey = keyof typeof RATING_FIELDS | keyof typeof MOTOR_FIELDS | keyof typeof BRAKE_FIELDS;

/** All fields of a plate by their keys. */
export const PLATE_FIELDS = { ...RATING_FIELDS, ...MOTOR_FIELDS, ...BRAKE_FIELDS } as const;

const MEANINGS: Readonly<Record<PlateKey, string | null>> = {
  voltage: 'motor.ratedVoltage',
  frequency: 'motor.baseFrequency',
  power: 'motor.ratedPower',
  current: 'motor.ratedCurrent',
  speed: 'motor.ratedSpeed',
  powerFactor: 'motor.powerFactor',
  poles: 'motor.poles',
  inertia: 'motor.inertia',
  stallTorque: 'motor.stallTorque',
  stallCurrent: 'motor.stallCurrent',
  peakCurrent: 'motor.peakCurrent',
  resistance: 'motor.statorResistance',
  inductance: 'motor.windingInductance',
  voltageConstant: 'motor.voltageConstant',
  maximumSpeed: 'motor.maximumSpeed',
  thermalTime: 'motor.thermalTime',
  releaseDelay: 'brake.openDelay',
  setDelay: 'brake.closeDelay',
  coilCurrent: 'brake.coilCurrent',
  coilVoltage: null,
};

/** What the set tells, by field. A value of zero says "not told": no plate has a zero on it. */
export function plateFromSet(
  bridge: Bridge,
  dictionary: Dictionary,
  set: ParameterSet,
): ReadonlyMap<PlateKey, ToldValue> {
  const plain = bridge.read(dictionary, null, set.readings);
  const told = new Map<PlateKey, ToldValue>();
  for (const [key, meaning] of Object.entries(MEANINGS) as [PlateKey, string | null][]) {
    const value = meaning === null ? undefined : toldBy(plain, key, meaningOf(meaning));
    if (value) told.set(key, value);
  }
  return told;
}

/** Only what a parameter states: what is derived from other values of the plate tells nothing new. */
function toldBy(set: PlainSet, key: PlateKey, meaning: Meaning): ToldValue | undefined {
  const carrier = set.carrierOf(meaning);
  const plain = set.get(meaning);
  if (carrier?.kind !== 'parameter' || plain.kind !== 'number' || plain.value === 0) return undefined;
  const { base } = PLATE_FIELDS[key];
  const scale = base === '' ? 1 : (inBaseUnit(1, plain.unit) ?? 1) / (inBaseUnit(1, base) ?? 1);
  return {
    code: carrier.parameter.code,
    value: tidy(plain.value * scale),
    step: tidy(plain.step * scale),
    measured: carrier.parameter.keeping === 'measured',
  };
}
