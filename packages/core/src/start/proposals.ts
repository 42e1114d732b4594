// Values that follow from others: what is proposed, by which formula, from which numbers. A proposal never takes the place of what
// somebody typed; where one of its numbers is missing, it says which.
//
// Sources: T = 9550·P/n, t = J·2π·n/(60·(T_max − T_load)), W = ½·J·ω² (IEC 60034-1 for the rated point); overload protection at
// the rated current of the plate (IEC 60947-4-1); loop by internal model control for a first-order process with dead time:
// K = T/(k·(λ+θ)), T_i = min(T, 4·(λ+θ)), λ the larger of θ and T/3.

import { accelerationTime, brakeEnergy, lossesOf, ratedTorque, type PlateRating } from '../motor/index.ts';
import { deratedBy } from '../rules/index.ts';
import type { Derating } from '../dictionary/index.ts';
import { forPeople } from '../values/index.ts';
import type { Load } from './starting-point.ts';

export interface Proposal {
  /** Meaning that it is of. */
  readonly meaning: string;
  /** In the plain unit of the meaning, seconds for ramps; nothing where a number is missing. */
  readonly value: number | null;
  readonly unit: string;
  readonly formula: string;
  /** The formula with its numbers. */
  readonly worked: string | null;
  /** What would have to be told. */
  readonly missing: readonly string[];
  readonly remark: string;
}

export interface ProposalInput {
  readonly plate: PlateRating;
  /** Of rotor and load together at the shaft of the motor, in kg·m². */
  readonly inertia: number | undefined;
  /** Of the rated torque of the motor. */
  readonly loadShare: number;
  readonly load: Load;
  /** What the unit bears for a minute at its duty, in A; nothing where the model does not tell it. */
  readonly bears: number | undefined;
  /** Rated current of the unit at its duty, in A. */
  readonly unitCurrent: number | undefined;
  readonly heavy: boolean;
  readonly resistor: boolean;
  readonly derating: Derating | null;
  readonly ambient: number | null;
  /** As delivered, in Hz. */
  readonly carrier: number | undefined;
  /** Usual times of the duty, in s. */
  readonly usual: { readonly up: number | undefined; readonly down: number | undefined };
  readonly loop: LoopFacts | null;
}

export interface LoopFacts {
  /** Percent of the transmitter's range for each Hz. */
  readonly gain: number | undefined;
  /** Time constant and dead time of the process, in s. */
  readonly lag: number | undefined;
  readonly dead: number | undefined;
}

/** Share of the rated torque that a load takes when nobody has said it. */
export const USUAL_TORQUE: Readonly<Record<Load, number>> = {
  ...{ belt: 0.6, fan: 0.8, pump: 0.75, agitator: 0.7, hoist: 0.9, winder: 0.5, mill: 0.8, axis: 0.5 },
};
/** Overload for a minute that a duty allows (heavy 150 %, normal 120 %, as drives are rated). */
const OVERLOAD = { heavy: 1.5, normal: 1.2 } as const;
/** A proposed ramp is longer than the shortest that is possible by this. */
const MARGIN = 2;
/** And a proposed stop longer than the losses alone would take. */
const STOP_MARGIN = 1.2;
const HERTZ_PER_KILOHERTZ = 1000;
const DIGITS = 3;

const show = (value: number): string => forPeople(String(Number(value.toPrecision(DIGITS))));

/** Numbers that no machine has come to no proposal. */
const isNumber = ({ value, worked }: Proposal): boolean =>
  value !== null && Number.isFinite(value) && !/NaN|∞|Infinity/.test(worked ?? '');

export function proposalsOf(input: ProposalInput): readonly Proposal[] {
  const all = [
    ...[limitCurrent(input), overload(input), rampUp(input), rampDown(input), carrier(input)],
    ...loop(input),
  ];
  return all.map((each) => (isNumber(each) ? each : { ...each, value: null, worked: null }));
}

const waits = (
  about: Pick<Proposal, 'meaning' | 'unit' | 'formula'>,
  missing: readonly string[],
  remark = '',
): Proposal => ({ ...about, value: null, worked: null, missing, remark });

function limitCurrent({ plate, bears, heavy }: ProposalInput): Proposal {
  const factor = heavy ? OVERLOAD.heavy : OVERLOAD.normal;
  const about = {
    ...{ meaning: 'limit.current', unit: 'A' },
    formula: `the smaller of ${show(factor)} · I_motor and what the unit bears for a minute`,
  };
  const { current } = plate;
  if (current === undefined || bears === undefined)
    return waits(about, [
      ...(current === undefined ? ['current of the plate'] : []),
      ...(bears === undefined ? ['what the unit bears for a minute'] : []),
    ]);
  const worked = `the smaller of ${show(factor)} · ${show(current)} A and ${show(bears)} A`;
  return { ...about, value: Math.min(factor * current, bears), worked, missing: [], remark: '' };
}

function overload({ plate: { current } }: ProposalInput): Proposal {
  const about = { meaning: 'protect.overloadCurrent', unit: 'A', formula: 'I_motor' };
  if (current === undefined) return waits(about, ['current of the plate']);
  const remark = 'Trips by 1.2 times of it, not at 1.05 times.';
  return { ...about, value: current, worked: `${show(current)} A`, missing: [], remark };
}

/** As long as is usual for the duty, and never shorter than twice what motor and limit allow. */
function rampUp(input: ProposalInput): Proposal {
  const { plate, inertia, loadShare, usual } = input;
  const about = {
    ...{ meaning: 'ramp.up', unit: 's' },
    formula: `the longer of the usual time and ${MARGIN} · J · 2π · n / (60 · (T · I_max / I − T_load))`,
  };
  const { power, speed, current } = plate;
  const limit = limitCurrent(input).value;
  const missing = [
    ...(inertia === undefined ? ['inertia of rotor and load'] : []),
    ...(power === undefined || speed === undefined ? ['power and speed of the plate'] : []),
    ...(current === undefined || limit === null ? ['current of the plate'] : []),
  ];
  if (missing.length > 0 || !inertia || !power || !speed || !current || limit === null) {
    if (usual.up === undefined) return waits(about, missing);
    return { ...about, value: usual.up, worked: `${show(usual.up)} s, as usual`, missing, remark: TOO_SHORT };
  }
  const torque = ratedTorque(power, speed);
  const left = torque * (limit / current) - loadShare * torque;
  if (left <= 0)
    return waits(
      about,
      [],
      'The load takes all that the current limit lets the motor give: it does not start.',
    );
  const shortest = accelerationTime(inertia, speed, left);
  const value = Math.max(usual.up ?? 0, MARGIN * shortest);
  const numbers = `${show(inertia)} · 2π · ${show(speed)} / (60 · (${show(torque)} · ${show(limit)} / ${show(current)} − ${show(loadShare * torque)}))`;
  const worked =
    usual.up === undefined
      ? `${MARGIN} · ${numbers}`
      : `the longer of ${show(usual.up)} s and ${MARGIN} · ${numbers}`;
  return { ...about, value, worked, missing: [], remark: `Shortest possible: ${show(shortest)} s.` };
}
const TOO_SHORT = 'Whether it is too short for the load cannot be told without the inertia.';

function rampDown({ plate, inertia, usual, resistor }: ProposalInput): Proposal {
  const about = {
    ...{ meaning: 'ramp.down', unit: 's' },
    formula: resistor
      ? 'the usual time: the braking resistor takes the energy'
      : `the longer of the usual time and ${STOP_MARGIN} · ½ · J · ω² / losses of the motor`,
  };
  const losses = lossesOf(plate);
  const { speed } = plate;
  const missing = [
    ...(inertia === undefined ? ['inertia of rotor and load'] : []),
    ...(losses === undefined ? ['power, voltage, current and cos φ of the plate'] : []),
    ...(speed === undefined ? ['speed of the plate'] : []),
  ];
  const usually = usual.down;
  if (resistor || missing.length > 0 || !inertia || !losses || !speed) {
    if (usually === undefined) return waits(about, missing);
    const worked = `${show(usually)} s, as usual`;
    return {
      ...about,
      value: usually,
      worked,
      missing: resistor ? [] : missing,
      remark: resistor ? '' : BUS,
    };
  }
  const energy = brakeEnergy(inertia, speed, 0);
  const value = Math.max(usually ?? 0, (STOP_MARGIN * energy) / losses);
  const numbers = `${STOP_MARGIN} · ${show(energy)} J / ${show(losses)} W`;
  const worked = usually === undefined ? numbers : `the longer of ${show(usually)} s and ${numbers}`;
  return { ...about, value, worked, missing: [], remark: '' };
}
const BUS = 'Whether the bus voltage rises too far cannot be told without the inertia and the losses.';

/** As delivered where the unit bears the motor so; else the slowest that its model tells a share for. */
function carrier({ plate, unitCurrent, derating, ambient, carrier: delivered }: ProposalInput): Proposal {
  const about = {
    ...{ meaning: 'carrier.frequency', unit: 'Hz' },
    formula: 'as delivered where I_unit · k_heat · k_carrier ≥ I_motor, else the slowest',
  };
  const { current } = plate;
  if (current === undefined || unitCurrent === undefined || delivered === undefined)
    return waits(about, [
      ...(current === undefined ? ['current of the plate'] : []),
      ...(unitCurrent === undefined ? ['current of the unit'] : []),
    ]);
  const left = (hertz: number) =>
    unitCurrent * deratedBy(derating, ambient, hertz / HERTZ_PER_KILOHERTZ).share;
  const slow = Math.min(delivered, ...(derating?.carrier ?? []).map(({ at }) => at * HERTZ_PER_KILOHERTZ));
  const value = left(delivered) >= current ? delivered : slow;
  const worked = `${show(left(value))} A at ${show(value / HERTZ_PER_KILOHERTZ)} kHz for ${show(current)} A`;
  return { ...about, value, worked, missing: [], remark: '' };
}

function loop({ loop: facts }: ProposalInput): readonly Proposal[] {
  if (!facts) return [];
  const gain = {
    meaning: 'loop.gain',
    unit: 'Hz/%',
    formula: 'K = T / (k · (λ + θ)), λ the larger of θ and T/3',
  };
  const time = { meaning: 'loop.integralTime', unit: 's', formula: 'T_i, the smaller of T and 4 · (λ + θ)' };
  const { gain: k, lag, dead } = facts;
  const missing = [
    ...(k === undefined || !(k > 0) ? ['what the process gives at full speed'] : []),
    ...(lag === undefined || !(lag > 0) ? ['time constant of the process'] : []),
    ...(dead === undefined ? ['dead time of the process'] : []),
  ];
  if (missing.length > 0 || !k || !lag || dead === undefined)
    return [waits(gain, missing), waits(time, missing)];
  const aim = Math.max(dead, lag / 3);
  const remark = 'A beginning: a trace of a step tells whether it fits.';
  return [
    {
      ...{ ...gain, missing: [], remark },
      value: lag / (k * (aim + dead)),
      worked: `${show(lag)} s / (${show(k)} %/Hz · (${show(aim)} + ${show(dead)}) s)`,
    },
    {
      ...{ ...time, missing: [], remark },
      value: Math.min(lag, 4 * (aim + dead)),
      worked: `the smaller of ${show(lag)} s and 4 · (${show(aim)} + ${show(dead)}) s`,
    },
  ];
}
