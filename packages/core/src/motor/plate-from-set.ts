// The plate that a drive's set tells of its motor, by meaning. Every number comes with the step in which that drive can
// tell it, as a plate that was typed in kilowatts is not known to the watt.

import { findMeaning, type Dictionary } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { inBaseUnit, isRaw, toDecimal, toNumber } from '../values/index.ts';
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

const MEANINGS: Readonly<Record<PlateKey, readonly string[]>> = {
  voltage: ['motor.ratedVoltage'],
  frequency: ['motor.baseFrequency'],
  power: ['motor.ratedPower'],
  current: ['motor.ratedCurrent', 'motor.ratedCurrentMilliampere'],
  speed: ['motor.ratedSpeed'],
  powerFactor: ['motor.powerFactor'],
  poles: ['motor.poles', 'motor.polePairs'],
  inertia: ['motor.inertia'],
  stallTorque: ['motor.stallTorque'],
  stallCurrent: ['motor.stallCurrent'],
  peakCurrent: ['motor.peakCurrent'],
  resistance: ['motor.statorResistance'],
  inductance: ['motor.windingInductance', 'motor.leakage'],
  voltageConstant: ['motor.voltageConstant'],
  maximumSpeed: ['motor.maximumSpeed'],
  thermalTime: ['motor.thermalTime'],
  releaseDelay: ['brake.openDelay'],
  setDelay: ['brake.closeDelay'],
  coilCurrent: ['brake.coilCurrent'],
  coilVoltage: [],
};

/** What the set tells, by field. A value of zero says "not told": no plate has a zero on it. */
export function plateFromSet(dictionary: Dictionary, set: ParameterSet): ReadonlyMap<PlateKey, ToldValue> {
  const told = new Map<PlateKey, ToldValue>();
  for (const [key, meanings] of Object.entries(MEANINGS) as [PlateKey, readonly string[]][]) {
    for (const meaning of meanings) {
      const value = told.has(key) ? undefined : toldBy(dictionary, set, key, meaning);
      if (value) told.set(key, value);
    }
  }
  return told;
}

function toldBy(
  dictionary: Dictionary,
  set: ParameterSet,
  key: PlateKey,
  meaning: string,
): ToldValue | undefined {
  const parameter = findMeaning(dictionary, meaning);
  const raw = parameter && set.readings.get(parameter.code);
  if (parameter?.form.kind !== 'number' || !isRaw(raw) || raw === 0) return undefined;
  const { form } = parameter;
  const { base } = PLATE_FIELDS[key];
  // A pole pair is two poles.
  const times = meaning === 'motor.polePairs' ? 2 : 1;
  const inBase = (number: number) =>
    base === '' ? number * times : (inBaseUnit(number, form.unit) ?? number) / (inBaseUnit(1, base) ?? 1);
  return {
    code: parameter.code,
    value: Number(inBase(toNumber(toDecimal(form, raw))).toPrecision(12)),
    step: inBase(toNumber(toDecimal(form, 1))),
    measured: parameter.keeping === 'measured',
  };
}
