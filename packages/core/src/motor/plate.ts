// A motor plate. Inside, every number is in the base unit of its quantity (W, V, A, Hz, rpm, Ω, H, kg·m², Nm, s); outside,
// in the unit of the trade. What the plate does not tell is not there; it is never zero.

import {
  fail,
  inBaseUnit,
  normalUnit,
  ok,
  parseDecimal,
  sameQuantity,
  toNumber,
  type Result,
} from '../values/index.ts';

/** Of the windings, IEC 60034-8. */
export const CONNECTIONS = ['star', 'delta'] as const;
/** Of the temperature of the windings. */
export const SENSORS = ['none', 'ptc', 'kty', 'pt1000', 'switch'] as const;

/** What a plate says of one supply: numbers differ between star and delta, 50 and 60 Hz. */
export interface PlateRating {
  readonly voltage?: number;
  readonly connection?: (typeof CONNECTIONS)[number];
  readonly frequency?: number;
  readonly power?: number;
  readonly current?: number;
  readonly speed?: number;
  /** cos φ */
  readonly powerFactor?: number;
}

export interface MotorBrake {
  readonly releaseDelay?: number;
  readonly setDelay?: number;
  readonly coilCurrent?: number;
  readonly coilVoltage?: number;
}

export interface MotorPlate {
  readonly ratings: readonly PlateRating[];
  readonly poles?: number;
  readonly inertia?: number;
  readonly stallTorque?: number;
  readonly stallCurrent?: number;
  readonly peakCurrent?: number;
  /** Of one winding between terminal and star point. */
  readonly resistance?: number;
  readonly inductance?: number;
  /** V at 1000 rpm. */
  readonly voltageConstant?: number;
  readonly maximumSpeed?: number;
  readonly thermalTime?: number;
  readonly sensor?: (typeof SENSORS)[number];
  readonly feedback?: string;
  readonly brake?: MotorBrake;
}

/** A field that holds a number, with the unit that the trade writes it in. */
export interface PlateField {
  readonly name: string;
  /** Base unit in which it is kept; empty for a bare number. */
  readonly base: string;
  /** Unit in which it is shown. */
  readonly unit: string;
}

/** What a plate says of one rating. `base` is the unit that is kept, `unit` the one on the screen. */
export const RATING_FIELDS = {
  voltage: { name: 'Voltage', base: 'V', unit: 'V' },
  frequency: { name: 'Frequency', base: 'Hz', unit: 'Hz' },
  power: { name: 'Power', base: 'W', unit: 'kW' },
  current: { name: 'Current', base: 'A', unit: 'A' },
  speed: { name: 'Speed', base: 'rpm', unit: 'rpm' },
  powerFactor: { name: 'cos φ', base: '', unit: '' },
} as const satisfies Record<string, PlateField>;

/** What a plate or a data sheet says of the motor, whatever the rating. */
export const MOTOR_FIELDS = {
  poles: { name: 'Poles', base: '', unit: '' },
  inertia: { name: 'Rotor inertia', base: 'kg·m²', unit: 'kg·cm²' },
  stallTorque: { name: 'Stall torque', base: 'Nm', unit: 'Nm' },
  stallCurrent: { name: 'Stall current', base: 'A', unit: 'A' },
  peakCurrent: { name: 'Peak current', base: 'A', unit: 'A' },
  resistance: { name: 'Winding resistance', base: 'Ω', unit: 'Ω' },
  inductance: { name: 'Winding inductance', base: 'H', unit: 'mH' },
  voltageConstant: { name: 'Voltage at 1000 rpm', base: 'V', unit: 'V' },
  maximumSpeed: { name: 'Maximum speed', base: 'rpm', unit: 'rpm' },
  thermalTime: { name: 'Thermal time constant', base: 's', unit: 's' },
} as const satisfies Record<string, PlateField>;

/** Of a holding brake. */
export const BRAKE_FIELDS = {
  releaseDelay: { name: 'Brake release delay', base: 's', unit: 'ms' },
  setDelay: { name: 'Brake set delay', base: 's', unit: 'ms' },
  coilCurrent: { name: 'Brake coil current', base: 'A', unit: 'A' },
  coilVoltage: { name: 'Brake coil voltage', base: 'V', unit: 'V' },
} as const satisfies Record<string, PlateField>;

export type RatingField = keyof typeof RATING_FIELDS;
export type MotorField = keyof typeof MOTOR_FIELDS;
export type BrakeField = keyof typeof BRAKE_FIELDS;

export type PlateFault =
  | { readonly code: 'not-a-number'; readonly text: string }
  | { readonly code: 'comma'; readonly text: string }
  | { readonly code: 'other-quantity'; readonly text: string; readonly unit: string }
  | { readonly code: 'not-positive'; readonly text: string };

const QUANTITY = /^([-+−]?[\d.,]+)\s*(.*)$/u;

/** Reads `1.5`, `1.5 kW` or `2 hp`; without a unit it is the field's own. The number comes in the base unit. */
export function parsePlateValue(field: PlateField, text: string): Result<number, PlateFault> {
  const match = QUANTITY.exec(text.trim());
  if (!match) return fail({ code: 'not-a-number', text });
  const number = parseDecimal(match[1] ?? '');
  if (!number.ok) return fail({ code: number.fault === 'comma' ? 'comma' : 'not-a-number', text });
  const unit = match[2] === '' ? field.unit : normalUnit(match[2] ?? '');
  const value = toBase(toNumber(number.value), unit, field);
  if (value === undefined) return fail({ code: 'other-quantity', text, unit: field.unit });
  return value > 0 ? ok(value) : fail({ code: 'not-positive', text });
}

function toBase(value: number, unit: string, { base }: PlateField): number | undefined {
  if (unit === base) return value;
  const [one, scaled] = [inBaseUnit(1, base), inBaseUnit(value, unit)];
  if (one === undefined || scaled === undefined || !sameQuantity(unit, base)) return undefined;
  return tidy(scaled / one);
}

/** Binary fractions show in the 16th digit: 0.75 kW are 750 W. */
const tidy = (value: number): number => Number(value.toPrecision(12));

/** In the trade's unit, with as many digits as the number has, eight at the most. */
export function showPlateValue({ base, unit }: PlateField, value: number): string {
  const one = base === unit ? 1 : (inBaseUnit(1, unit) ?? 1) / (inBaseUnit(1, base) ?? 1);
  const text = String(Number((value / one).toPrecision(8)));
  return unit === '' ? text : `${text} ${unit}`;
}
