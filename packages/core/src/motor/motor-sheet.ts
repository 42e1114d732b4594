// The sheet of a motor: everything that follows from its plate, its supply, its load and its drive, each line with its formula and
// the numbers put in. What is not told is named, and its line stays open.

import { forPeople } from '../values/index.ts';
import {
  accelerationTime,
  apparentPower,
  brakeEnergy,
  efficiencyOf,
  HORSEPOWER,
  LARGEST_SLIP,
  noLoadCurrent,
  polesOf,
  ratedTorque,
  slipOf,
  synchronousSpeed,
  voltsPerHertz,
} from './calculate.ts';

/** In base units: W, V, A, Hz, rpm, kg·m², Nm, s; what is not known is left out. */
export interface MotorSheetInput {
  readonly power?: number | undefined;
  readonly voltage?: number | undefined;
  readonly current?: number | undefined;
  readonly frequency?: number | undefined;
  readonly speed?: number | undefined;
  readonly powerFactor?: number | undefined;
  /** As the plate has them; worked out where it does not. */
  readonly poles?: number | undefined;
  readonly inertia?: number | undefined;
  readonly loadInertia?: number | undefined;
  readonly loadTorque?: number | undefined;
  readonly supply?: number | undefined;
  /** Rated current of the unit at its duty, and its current limit. */
  readonly unitCurrent?: number | undefined;
  readonly limitCurrent?: number | undefined;
  readonly rampDown?: number | undefined;
  /** °C, kHz, m above the sea. */
  readonly ambient?: number | undefined;
  readonly carrier?: number | undefined;
  readonly altitude?: number | undefined;
  /** Shares in percent that heat and carrier leave, by the model of the unit. */
  readonly byHeat?: number | undefined;
  readonly byCarrier?: number | undefined;
}

export type MotorSheetField = keyof MotorSheetInput;

export interface MotorSheetLine {
  readonly id: string;
  readonly name: string;
  readonly formula: string;
  /** The formula with its numbers; nothing where one of them is missing. */
  readonly worked: string | null;
  readonly result: string | null;
  /** The same as a number in its base unit, for whoever computes on. */
  readonly value: number | null;
  readonly missing: readonly MotorSheetField[];
  readonly attention: 'look' | 'stop' | null;
  readonly remark: string;
}

const ROOT_3 = Math.sqrt(3);
const PERCENT = 100;
const LEAST_EFFICIENCY = 0.5;
const FLAT_METRES = 1000;
/** Thinner air cools less: one percent each 100 m above 1000 m, where a model does not say otherwise (IEC 61800-2). */
const PER_100_METRES = 1;
const SUPPLY_LOW = 0.95;

const DIGITS = 4;
/** Four digits, no binary fractions. */
const show = (value: number): string => forPeople(String(Number(value.toPrecision(DIGITS))));
const quantity = (value: number, unit: string): string =>
  unit === '' ? show(value) : `${show(value)} ${unit}`;

/** Of numbers that no motor has: what comes of them is none. */
const NO_NUMBER = /NaN|Infinity/;

interface Worked {
  readonly value: number;
  readonly unit: string;
  readonly worked: string;
  readonly attention?: 'look' | 'stop' | null;
  readonly remark?: string;
}

export function motorSheet(input: MotorSheetInput): readonly MotorSheetLine[] {
  return [...ofSpeed(input), ...ofPower(input), ...ofDriving(input)];
}

/** One line; `work` is asked only where everything that it needs is there. */
function line<const N extends readonly MotorSheetField[]>(
  input: MotorSheetInput,
  about: { readonly id: string; readonly name: string; readonly formula: string },
  needs: N,
  work: (numbers: { readonly [K in keyof N]: number }) => Worked | undefined,
): MotorSheetLine {
  // No plate has a zero on it; only a load may take no torque.
  const isTold = (name: MotorSheetField) =>
    (input[name] ?? 0) > 0 || (name === 'loadTorque' && input[name] === 0);
  const missing = needs.filter((name) => !isTold(name));
  const numbers = needs.map((name) => input[name] ?? Number.NaN) as { readonly [K in keyof N]: number };
  const found = missing.length === 0 ? work(numbers) : undefined;
  const finite =
    found !== undefined &&
    Number.isFinite(found.value) &&
    !NO_NUMBER.test(`${found.worked}${found.remark ?? ''}`);
  return {
    ...about,
    worked: finite ? found.worked : null,
    result: finite ? quantity(found.value, found.unit) : null,
    value: finite ? found.value : null,
    missing,
    attention: finite ? (found.attention ?? null) : missing.length === 0 ? 'stop' : null,
    remark: finite
      ? (found.remark ?? '')
      : missing.length === 0
        ? 'These numbers do not belong to one motor.'
        : '',
  };
}

function ofSpeed(input: MotorSheetInput): readonly MotorSheetLine[] {
  const told = input.poles;
  const derived =
    input.frequency !== undefined && input.speed !== undefined
      ? polesOf(input.frequency, input.speed)
      : undefined;
  const poles = told ?? derived;
  const withPoles = { ...input, poles };
  return [
    line(
      input,
      { id: 'poles', name: 'Poles', formula: 'p = 2 · ⌊60 · f / n⌋' },
      ['frequency', 'speed'],
      ([f, n]) =>
        derived === undefined
          ? undefined
          : {
              ...{ value: derived, unit: '', worked: `2 · ⌊60 · ${show(f)} / ${show(n)}⌋` },
              attention: told !== undefined && told !== derived ? 'stop' : null,
              remark: told !== undefined && told !== derived ? `The plate says ${show(told)}.` : '',
            },
    ),
    line(
      withPoles,
      { id: 'synchronous', name: 'Synchronous speed', formula: 'nₛ = 120 · f / p' },
      ['frequency', 'poles'],
      ([f, p]) => ({ value: synchronousSpeed(f, p), unit: 'rpm', worked: `120 · ${show(f)} / ${show(p)}` }),
    ),
    line(
      withPoles,
      { id: 'slip', name: 'Slip', formula: 's = (nₛ − n) / nₛ' },
      ['frequency', 'poles', 'speed'],
      ([f, p, n]) => {
        const [slip, synchronous] = [slipOf(f, p, n), synchronousSpeed(f, p)];
        const odd = slip < 0 || slip > LARGEST_SLIP;
        return {
          ...{ value: PERCENT * slip, unit: '%' },
          worked: `(${show(synchronous)} − ${show(n)}) / ${show(synchronous)}`,
          attention: odd ? 'stop' : null,
          remark: odd ? 'No motor has that slip.' : `${quantity(f * slip, 'Hz')} at full load.`,
        };
      },
    ),
    line(
      input,
      { id: 'torque', name: 'Rated torque', formula: 'T = 60 · P / (2π · n)' },
      ['power', 'speed'],
      ([p, n]) => ({ value: ratedTorque(p, n), unit: 'Nm', worked: `60 · ${show(p)} / (2π · ${show(n)})` }),
    ),
  ];
}

function ofPower(input: MotorSheetInput): readonly MotorSheetLine[] {
  return [
    line(
      input,
      { id: 'flux', name: 'Volts for each hertz', formula: 'U / f' },
      ['voltage', 'frequency'],
      ([u, f]) => ({
        ...{ value: voltsPerHertz(u, f), unit: 'V/Hz', worked: `${show(u)} / ${show(f)}` },
      }),
    ),
    line(
      input,
      { id: 'delta', name: 'In the other connection', formula: 'U · √3 or U / √3' },
      ['voltage', 'current'],
      ([u, i]) => ({
        ...{ value: u / ROOT_3, unit: 'V', worked: `${show(u)} / √3` },
        remark: `With ${quantity(i * ROOT_3, 'A')} in delta; or ${quantity(u * ROOT_3, 'V')} with ${quantity(i / ROOT_3, 'A')} in star.`,
      }),
    ),
    line(
      input,
      { id: '87-hz', name: 'At √3 times the voltage', formula: 'f · √3, P · √3' },
      ['frequency', 'voltage', 'power'],
      ([f, u, p]) => ({
        ...{ value: f * ROOT_3, unit: 'Hz', worked: `${show(f)} · √3` },
        remark: `The same flux at ${quantity(u * ROOT_3, 'V')}, and ${quantity((p * ROOT_3) / 1000, 'kW')}, if insulation and speed allow it.`,
      }),
    ),
    line(input, { id: 'horsepower', name: 'Horsepower', formula: 'P / 745.7 W' }, ['power'], ([p]) => ({
      ...{ value: p / HORSEPOWER, unit: 'hp', worked: `${show(p)} / 745.7` },
      remark: `${quantity(p / 1000, 'kW')}.`,
    })),
    line(
      input,
      { id: 'efficiency', name: 'Efficiency', formula: 'η = P / (√3 · U · I · cos φ)' },
      ['power', 'voltage', 'current', 'powerFactor'],
      ([p, u, i, factor]) => {
        const share = efficiencyOf(p, u, i, factor);
        const [over, low] = [share > 1, share < LEAST_EFFICIENCY];
        return {
          ...{ value: PERCENT * share, unit: '%' },
          worked: `${show(p)} / (√3 · ${show(u)} · ${show(i)} · ${show(factor)})`,
          attention: over ? 'stop' : low ? 'look' : null,
          remark: over
            ? 'It would give more than it takes: one of the numbers is not of this motor.'
            : low
              ? 'Below what motors have: one of the numbers may be of another connection.'
              : `It takes ${quantity(apparentPower(u, i) / 1000, 'kVA')}.`,
        };
      },
    ),
    line(
      input,
      { id: 'no-load', name: 'No-load current, about', formula: 'I₀ ≈ I · √(1 − cos²φ)' },
      ['current', 'powerFactor'],
      ([i, factor]) => ({
        ...{ value: noLoadCurrent(i, factor), unit: 'A', worked: `${show(i)} · √(1 − ${show(factor)}²)` },
        remark: 'An estimate; a run without load tells it.',
      }),
    ),
    line(
      input,
      { id: 'supply', name: 'Full flux up to', formula: 'f · U_supply / U' },
      ['frequency', 'supply', 'voltage'],
      ([f, supply, u]) => ({
        ...{ value: (f * supply) / u, unit: 'Hz', worked: `${show(f)} · ${show(supply)} / ${show(u)}` },
        attention: supply / u < SUPPLY_LOW ? 'look' : null,
        remark: supply / u < SUPPLY_LOW ? 'Above it the motor loses torque: its supply is too low.' : '',
      }),
    ),
  ];
}

function ofDriving(input: MotorSheetInput): readonly MotorSheetLine[] {
  const inertia =
    input.inertia === undefined && input.loadInertia === undefined
      ? undefined
      : (input.inertia ?? 0) + (input.loadInertia ?? 0);
  const all = { ...input, inertia };
  return [
    unitLine(input),
    line(
      { ...all, loadTorque: input.loadTorque },
      {
        id: 'acceleration',
        name: 'Shortest ramp up',
        formula: 't = J · 2π · n / (60 · (T · I_max / I − T_load))',
      },
      ['inertia', 'speed', 'power', 'current', 'limitCurrent', 'loadTorque'],
      ([j, n, p, i, most, load]) => {
        const torque = ratedTorque(p, n) * (most / i);
        const left = torque - load;
        if (left <= 0) return undefined;
        return {
          ...{ value: accelerationTime(j, n, left), unit: 's' },
          worked: `${show(j)} · 2π · ${show(n)} / (60 · (${show(torque)} − ${show(load)}))`,
          remark: `To ${quantity(n, 'rpm')} with ${quantity(left, 'Nm')} left for it.`,
        };
      },
    ),
    line(
      all,
      { id: 'braking', name: 'Energy of a stop', formula: 'W = ½ · J · (2π · n / 60)²' },
      ['inertia', 'speed'],
      ([j, n]) => {
        const energy = brakeEnergy(j, n, 0);
        const ramp = input.rampDown;
        return {
          ...{ value: energy, unit: 'J', worked: `½ · ${show(j)} · (2π · ${show(n)} / 60)²` },
          remark:
            ramp === undefined || ramp <= 0
              ? ''
              : `Over ${quantity(ramp, 's')} that is ${quantity(energy / ramp, 'W')} in the middle, less the losses of motor and drive.`,
        };
      },
    ),
  ];
}

function unitLine(input: MotorSheetInput): MotorSheetLine {
  const { ambient, carrier, altitude = 0, byHeat = PERCENT, byCarrier = PERCENT } = input;
  const byAir = Math.max(0, PERCENT - (PER_100_METRES * Math.max(0, altitude - FLAT_METRES)) / 100);
  const told = [
    ...(byHeat < PERCENT ? [`${show(byHeat)} % at ${quantity(ambient ?? 0, '°C')}`] : []),
    ...(byCarrier < PERCENT ? [`${show(byCarrier)} % at ${quantity(carrier ?? 0, 'kHz')}`] : []),
    ...(byAir < PERCENT ? [`${show(byAir)} % at ${quantity(altitude, 'm')}`] : []),
  ];
  return line(
    input,
    { id: 'unit', name: 'What the unit gives', formula: 'I_unit · k_heat · k_carrier · k_height' },
    ['unitCurrent', 'current'],
    ([unit, motor]) => {
      const left = (unit * byHeat * byCarrier * byAir) / PERCENT ** 3;
      const shares = told.map((each) => each.split(' ')[0] ?? '');
      return {
        ...{ value: left, unit: 'A', worked: [show(unit), ...shares.map((each) => `${each} %`)].join(' · ') },
        attention: left < motor ? 'stop' : null,
        remark: [
          told.length > 0 ? `${told.join(', ')}.` : '',
          left < motor
            ? `The motor takes ${quantity(motor, 'A')}: too much for it.`
            : `The motor takes ${quantity(motor, 'A')}.`,
        ]
          .join(' ')
          .trim(),
      };
    },
  );
}
