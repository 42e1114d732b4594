// The arithmetic of a motor: what follows from the numbers of its plate. All in base units (W, V, A, Hz, rpm, Nm, kg·m², s);
// formulas as IEC 60034-1 and every textbook have them.

import type { PlateRating } from './plate.ts';

const SECONDS_PER_MINUTE = 60;
const RADIANS = 2 * Math.PI;
/** Mechanical horsepower in watts. */
export const HORSEPOWER = 745.7;
const ROOT_3 = Math.sqrt(3);

/** n_s = 120·f/p, in rpm. */
export const synchronousSpeed = (hertz: number, poles: number): number => (120 * hertz) / poles;

/** Slip as a share of the synchronous speed: (n_s − n)/n_s. */
export const slipOf = (hertz: number, poles: number, rpm: number): number => {
  const synchronous = synchronousSpeed(hertz, poles);
  return (synchronous - rpm) / synchronous;
};

/** Beyond it speed and frequency do not belong to one motor. */
export const LARGEST_SLIP = 0.15;

/** Poles whose synchronous speed lies next above the rated one; nothing where no slip of a motor explains it. */
export function polesOf(hertz: number, rpm: number): number | undefined {
  if (!(hertz > 0) || !(rpm > 0)) return undefined;
  // A plate that gives the synchronous speed itself is rounded, or of a synchronous motor.
  const pairs = Math.max(1, Math.floor((SECONDS_PER_MINUTE * hertz) / rpm + 0.03));
  const slip = slipOf(hertz, 2 * pairs, rpm);
  return slip > LARGEST_SLIP || slip < -0.03 ? undefined : 2 * pairs;
}

/** T = P·60/(2π·n), in Nm: 9.55·P/n. */
export const ratedTorque = (watts: number, rpm: number): number =>
  (watts * SECONDS_PER_MINUTE) / (RADIANS * rpm);

/** S = √3·U·I, in VA. */
export const apparentPower = (volts: number, amps: number): number => ROOT_3 * volts * amps;

/** η = P/(√3·U·I·cos φ). */
export const efficiencyOf = (watts: number, volts: number, amps: number, powerFactor: number): number =>
  watts / (apparentPower(volts, amps) * powerFactor);

/** P_in − P_out at the rated point, in W; nothing where the plate does not tell enough, or contradicts itself. */
export function lossesOf({ power, voltage, current, powerFactor }: PlateRating): number | undefined {
  if (!power || !voltage || !current || !powerFactor) return undefined;
  const losses = apparentPower(voltage, current) * powerFactor - power;
  return losses > 0 ? losses : undefined;
}

/** I_0 ≈ I·√(1 − cos²φ): the part of the rated current that magnetises. An estimate; the no-load test tells it. */
export const noLoadCurrent = (amps: number, powerFactor: number): number =>
  amps * Math.sqrt(1 - powerFactor ** 2);

/** Volts for each hertz. */
export const voltsPerHertz = (volts: number, hertz: number): number => volts / hertz;

/** t = J·2πΔn/(60·T), in s, for a torque that is left over for accelerating. */
export const accelerationTime = (inertia: number, rpm: number, torque: number): number =>
  (inertia * RADIANS * rpm) / (SECONDS_PER_MINUTE * torque);

/** ½·J·(ω₁² − ω₂²), in J. */
export const brakeEnergy = (inertia: number, fromRpm: number, toRpm: number): number =>
  (inertia * ((RADIANS / SECONDS_PER_MINUTE) ** 2 * (fromRpm ** 2 - toRpm ** 2))) / 2;

/** Plates are rounded. */
const NEAR = 0.03;

/** √3 times the voltage at √3 times the frequency of a rating: the same flux, as for 87 Hz in delta. */
export const isRoot3Of = (
  { voltage, frequency }: PlateRating,
  own: { readonly volts: number; readonly hertz: number },
): boolean =>
  voltage !== undefined &&
  frequency !== undefined &&
  [own.volts / voltage, own.hertz / frequency].every((ratio) => Math.abs(ratio / ROOT_3 - 1) <= NEAR);
