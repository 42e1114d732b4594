// Units of the trade: how they are spelled, and exact conversion between those of one quantity. A file may give seconds
// where the dictionary has milliseconds; the value is converted and said to be, never taken for the other unit.

import { formatDecimal, parseDecimal, type Decimal } from './decimal.ts';
import type { NumberForm } from './form.ts';

interface Scale {
  readonly quantity: string;
  /** One of the unit is `times / over` of the quantity's base unit. */
  readonly times: bigint;
  readonly over: bigint;
}

const scale = (quantity: string, times: number, over = 1): Scale => ({
  quantity,
  times: BigInt(times),
  over: BigInt(over),
});

const SCALES: Readonly<Record<string, Scale>> = {
  ms: scale('time', 1, 1000),
  s: scale('time', 1),
  min: scale('time', 60),
  h: scale('time', 3600),
  mA: scale('current', 1, 1000),
  A: scale('current', 1),
  mV: scale('voltage', 1, 1000),
  V: scale('voltage', 1),
  kV: scale('voltage', 1000),
  W: scale('power', 1),
  kW: scale('power', 1000),
  // Mechanical horsepower of 550 ft·lbf/s is 745.69987 W; nameplates count with 745.7.
  hp: scale('power', 7457, 10),
  Hz: scale('frequency', 1),
  kHz: scale('frequency', 1000),
  mΩ: scale('resistance', 1, 1000),
  Ω: scale('resistance', 1),
  kΩ: scale('resistance', 1000),
  µH: scale('inductance', 1, 1_000_000),
  mH: scale('inductance', 1, 1000),
  H: scale('inductance', 1),
  mNm: scale('torque', 1, 1000),
  Nm: scale('torque', 1),
  '‰': scale('share', 1, 1000),
  '%': scale('share', 1, 100),
  'kg·cm²': scale('inertia', 1, 10_000),
  'kg·m²': scale('inertia', 1),
  Wh: scale('energy', 1),
  kWh: scale('energy', 1000),
  rpm: scale('speed', 1),
  'rpm/s': scale('speed for each second', 1),
  '%/s': scale('share for each second', 1, 100),
};

const SPELLINGS: Readonly<Record<string, string>> = {
  sec: 's',
  secs: 's',
  second: 's',
  seconds: 's',
  msec: 'ms',
  millisecond: 'ms',
  milliseconds: 'ms',
  minute: 'min',
  minutes: 'min',
  hr: 'h',
  hrs: 'h',
  hour: 'h',
  hours: 'h',
  amp: 'A',
  amps: 'A',
  ampere: 'A',
  amperes: 'A',
  volt: 'V',
  volts: 'V',
  watt: 'W',
  watts: 'W',
  hertz: 'Hz',
  ohm: 'Ω',
  ohms: 'Ω',
  uh: 'µH',
  percent: '%',
  'r/min': 'rpm',
  '1/min': 'rpm',
  'min-1': 'rpm',
  'min⁻¹': 'rpm',
  kgcm2: 'kg·cm²',
  'kgcm²': 'kg·cm²',
  'kg cm²': 'kg·cm²',
  'kg*cm2': 'kg·cm²',
  kgm2: 'kg·m²',
  'kgm²': 'kg·m²',
  'kg m²': 'kg·m²',
  'kg*m2': 'kg·m²',
  'n·m': 'Nm',
  '°': '°',
  degc: '°C',
  deg: '°',
};

const BY_CASELESS: ReadonlyMap<string, string> = new Map([
  // Milli and mega differ by case alone; nobody's drive counts in mega.
  ...Object.keys(SCALES).map((unit) => [unit.toLowerCase(), unit] as const),
  ...Object.entries(SPELLINGS),
]);

/** The unit as this project spells it: `Sec` is `s`, `OHM` is `Ω`. A unit that is not known stays as it is. */
export function normalUnit(text: string): string {
  const trimmed = text.trim().replace(/μ/g, 'µ').replace(/Ω/g, 'Ω');
  if (SCALES[trimmed]) return trimmed;
  return BY_CASELESS.get(trimmed.toLowerCase()) ?? trimmed;
}

/** Units that are not converted into one another here, and are units all the same. */
const OTHER_UNITS = new Set(
  '° °C °F µF bar mbar Pa kPa l/s l/min m³/s m³/h m/s m/min mm cm m µs kHz VA kVA var kbaud baud Bd Bit/s inc ppr dB'.split(
    ' ',
  ),
);

/** True for a unit of the trade, however it is spelled. */
export const isKnownUnit = (text: string): boolean =>
  SCALES[normalUnit(text)] !== undefined || OTHER_UNITS.has(normalUnit(text));

/** True where a value in one unit can be told in the other. */
export function sameQuantity(a: string, b: string): boolean {
  const [from, to] = [SCALES[normalUnit(a)], SCALES[normalUnit(b)]];
  return normalUnit(a) === normalUnit(b) || (from !== undefined && from.quantity === to?.quantity);
}

/**
 * The raw value of a decimal in another unit of the same quantity, rounded half away from zero to the form's step;
 * `exact` tells whether it had to be. Nothing for another quantity or a number beyond 15 digits.
 */
export function rawInUnit(
  form: NumberForm,
  value: Decimal,
  unit: string,
): { readonly raw: number; readonly exact: boolean } | undefined {
  const from = SCALES[normalUnit(unit)];
  const to = SCALES[normalUnit(form.unit)];
  if (!from || !to || from.quantity !== to.quantity) return undefined;
  const { step, places } = form.resolution;
  const above = BigInt(value.digits) * from.times * to.over * 10n ** BigInt(places);
  const below = from.over * to.times * BigInt(step) * 10n ** BigInt(value.places);
  const size = above < 0n ? -above : above;
  const rounded = (size * 2n + below) / (below * 2n);
  const raw = Number(above < 0n ? -rounded : rounded);
  if (!Number.isSafeInteger(raw)) return undefined;
  return { raw: raw === 0 ? 0 : raw, exact: size % below === 0n };
}

/** A decimal in another unit of the same quantity; nothing where it is another quantity, or not exact in 12 places. */
export function inUnit(number: string, from: string, to: string): string | undefined {
  const value = parseDecimal(number);
  const [a, b] = [SCALES[normalUnit(from)], SCALES[normalUnit(to)]];
  if (!value.ok || !a || !b || a.quantity !== b.quantity) return undefined;
  for (let places = 0; places <= MOST_PLACES; places += 1) {
    const above = BigInt(value.value.digits) * a.times * b.over * 10n ** BigInt(places);
    const below = a.over * b.times * 10n ** BigInt(value.value.places);
    if (above % below !== 0n) continue;
    const digits = Number(above / below);
    return Number.isSafeInteger(digits) ? formatDecimal({ digits, places }) : undefined;
  }
  return undefined;
}

const MOST_PLACES = 12;

/** The value in the base unit of its quantity (s, A, V, W, Hz …), for ratios and drawing; nothing for another unit. */
export function inBaseUnit(value: number, unit: string): number | undefined {
  const known = SCALES[normalUnit(unit)];
  return known && (value * Number(known.times)) / Number(known.over);
}
