// One analog signal on its way: what is measured, what the sender gives, what the drive makes of it. Each number follows from the
// share of the sender's range, and the share from each number.

import { curveAt, type CurvePoint } from '../meanings/index.ts';
import { fail, ok, type Result } from '../values/index.ts';

/** Start and end of a signal, in mA or V. */
export const SIGNAL_RANGES = {
  '0-10-v': { low: 0, high: 10, unit: 'V' },
  '2-10-v': { low: 2, high: 10, unit: 'V' },
  '0-20-ma': { low: 0, high: 20, unit: 'mA' },
  '4-20-ma': { low: 4, high: 20, unit: 'mA' },
  'bipolar-10-v': { low: -10, high: 10, unit: 'V' },
} as const;
export type AnalogSignal = keyof typeof SIGNAL_RANGES;

export interface SignalScaling {
  /** What the sender gives, and what the drive is set to read. */
  readonly sent: AnalogSignal;
  readonly read: AnalogSignal;
  /** What the sender measures at the start and at the end of its signal. */
  readonly range: { readonly low: number; readonly high: number; readonly unit: string };
  /** The resistance across which a current is measured, or made a voltage, in ohms; nothing where it is not known. */
  readonly shuntOhm: number | null;
  /** Steps of the drive's own display of the signal for each percent. */
  readonly rawPerPercent: number;
  /** Speed in Hz over the share that the drive sees; nothing where the signal does not give the speed. */
  readonly curve: readonly CurvePoint[] | null;
  readonly limits: { readonly minimum: number; readonly maximum: number } | null;
  /** Actual value of the loop at both ends, in percent of its range; nothing where it is none. */
  readonly loop: { readonly low: number; readonly high: number } | null;
  /** In mA or V: below it the drive takes the signal for lost. Nothing where it is not watched, or not told. */
  readonly lostBelow: number | null;
}

export interface SignalPoint {
  /** Of the sender's range; 0 at its start, 1 at its end, beyond where the sender goes on. */
  readonly share: number;
  readonly process: number;
  /** In mA or V, as the sender gives it. */
  readonly sent: number;
  /** V across the shunt, for a current with one. */
  readonly shunt: number | null;
  /** In mA or V, as it is at the input of the drive. */
  readonly atInput: number;
  /** What the drive makes of it, in percent of the signal that it is set to read; below zero and above 100 it saturates. */
  readonly seen: number;
  readonly raw: number;
  /** The speed after the limits. */
  readonly hertz: number | null;
  readonly limited: 'minimum' | 'maximum' | null;
  /** Actual value of the loop, in percent of its range. */
  readonly actual: number | null;
  readonly lost: boolean;
}

export type ScalingFault =
  /** A voltage into an input that reads a current. */
  | 'voltage-into-current'
  /** A current into an input that reads a voltage, and no resistance that makes one of it. */
  | 'no-shunt'
  /** Both ends of a range, or of the curve, are the same: no way back. */
  | 'flat'
  /** No signal gives it. */
  | 'out-of-reach';

const PERCENT = 100;
const PER_MILLI = 1000;
const isCurrent = (signal: AnalogSignal): boolean => SIGNAL_RANGES[signal].unit === 'mA';

/** Twelve digits: binary fractions do not show, and every step of a drive does. */
const tidy = (value: number): number => Number(value.toPrecision(12)) + 0;

/** Why nothing arrives as it should; nothing where it does. */
export function faultOf({ sent, read, shuntOhm }: SignalScaling): ScalingFault | undefined {
  if (isCurrent(sent) === isCurrent(read)) return undefined;
  if (isCurrent(read)) return 'voltage-into-current';
  return shuntOhm === null ? 'no-shunt' : undefined;
}

/** The whole way for a share of the sender's range. */
export function pointAt(scaling: SignalScaling, share: number): Result<SignalPoint, ScalingFault> {
  const { sent, range } = scaling;
  const ends = SIGNAL_RANGES[sent];
  const given = tidy(ends.low + (ends.high - ends.low) * share);
  const point = arriving(scaling, given);
  if (!point.ok) return point;
  return ok({ ...point.value, share, process: tidy(range.low + (range.high - range.low) * share) });
}

/** From what the sender gives on: also for a wire that is broken, where it gives nothing. */
function arriving(
  scaling: SignalScaling,
  sent: number,
): Result<Omit<SignalPoint, 'share' | 'process'>, ScalingFault> {
  const fault = faultOf(scaling);
  if (fault) return fail(fault);
  const { read, shuntOhm, curve, limits, loop, rawPerPercent, lostBelow } = scaling;
  const shunt = isCurrent(scaling.sent) && shuntOhm !== null ? tidy((sent * shuntOhm) / PER_MILLI) : null;
  const converted = isCurrent(scaling.sent) && !isCurrent(read);
  const atInput = converted ? (shunt ?? 0) : sent;
  const ends = SIGNAL_RANGES[read];
  const seen = tidy((atInput - ends.low) / (ends.high - ends.low));
  const held = Math.max(0, Math.min(1, seen));
  const asked = curve ? tidy(curveAt({ points: curve }, held)) : null;
  const { hertz, limited } = within(asked, limits);
  return ok({
    ...{ sent, shunt, atInput, hertz, limited },
    seen: tidy(seen * PERCENT),
    raw: Math.round(seen * PERCENT * rawPerPercent),
    actual: loop ? tidy(loop.low + (loop.high - loop.low) * held) : null,
    lost: lostBelow !== null && atInput < lostBelow,
  });
}

function within(
  asked: number | null,
  limits: SignalScaling['limits'],
): Pick<SignalPoint, 'hertz' | 'limited'> {
  if (asked === null || !limits) return { hertz: asked, limited: null };
  const size = Math.abs(asked);
  const sign = asked < 0 ? -1 : 1;
  if (size < limits.minimum) return { hertz: sign * limits.minimum, limited: 'minimum' };
  if (size > limits.maximum) return { hertz: sign * limits.maximum, limited: 'maximum' };
  return { hertz: asked, limited: null };
}

/** What arrives with a broken wire, or with the input shorted: nothing. */
export const broken = (
  scaling: SignalScaling,
): Result<Omit<SignalPoint, 'share' | 'process'>, ScalingFault> => arriving(scaling, 0);

export type SignalField =
  'process' | 'percent' | 'sent' | 'shunt' | 'atInput' | 'seen' | 'raw' | 'hertz' | 'actual';

/** The share at which a field has this value; of several the lowest. */
export function shareOf(
  scaling: SignalScaling,
  field: SignalField,
  value: number,
): Result<number, ScalingFault> {
  const ends = SIGNAL_RANGES[scaling.sent];
  const between = (low: number, high: number): Result<number, ScalingFault> =>
    high === low ? fail('flat') : ok(tidy((value - low) / (high - low)));
  switch (field) {
    case 'process':
      return between(scaling.range.low, scaling.range.high);
    case 'percent':
      return ok(value / PERCENT);
    case 'sent':
      return between(ends.low, ends.high);
    default:
      return searched(scaling, field, value);
  }
}

/** Every further number is straight between the corners of its way. */
function searched(scaling: SignalScaling, field: SignalField, value: number): Result<number, ScalingFault> {
  const corners = cornersOf(scaling);
  if (!corners.ok) return corners;
  const of = (share: number): number | null => {
    const point = pointAt(scaling, share);
    if (!point.ok || field === 'percent') return null;
    // Whole steps of a display are no way back: their middle is taken.
    return field === 'raw' ? point.value.seen * scaling.rawPerPercent : point.value[field];
  };
  const near = 1e-9 * Math.max(1, Math.abs(value));
  for (const [at, from] of corners.value.entries()) {
    const to = corners.value[at + 1];
    const [a, b] = [of(from), to === undefined ? null : of(to)];
    if (a === null) return fail('out-of-reach');
    if (Math.abs(a - value) <= near) return ok(tidy(from));
    if (b === null || to === undefined || a === b) continue;
    const part = (value - a) / (b - a);
    if (part >= 0 && part <= 1) return ok(tidy(from + (to - from) * part));
  }
  return fail('out-of-reach');
}

/** How far beyond its range a sender goes, by NAMUR NE 43 and a little more. */
const BEYOND = 0.25;

/** Shares at which the way bends: ends of the signal, of what the drive reads, of the curve, and where limits begin. */
export function cornersOf(scaling: SignalScaling): Result<readonly number[], ScalingFault> {
  const fault = faultOf(scaling);
  if (fault) return fail(fault);
  const { sent, read, shuntOhm, curve, limits } = scaling;
  const [given, taken] = [SIGNAL_RANGES[sent], SIGNAL_RANGES[read]];
  const converted = isCurrent(sent) && !isCurrent(read);
  /** The share of the sender at which the drive sees this share. */
  const shareSeen = (seen: number): number => {
    const atInput = taken.low + (taken.high - taken.low) * seen;
    const sentThen = converted ? (atInput * PER_MILLI) / (shuntOhm ?? 1) : atInput;
    return (sentThen - given.low) / (given.high - given.low);
  };
  const shares = new Set<number>([-BEYOND, 0, 1, 1 + BEYOND, shareSeen(0), shareSeen(1)]);
  const points = curve ?? [];
  for (const { signal } of points) shares.add(shareSeen(signal));
  for (const [at, a] of points.entries()) {
    const b = points[at + 1];
    if (!b || a.value === b.value || !limits) continue;
    for (const limit of [limits.minimum, limits.maximum, -limits.minimum, -limits.maximum, 0]) {
      const part = (limit - a.value) / (b.value - a.value);
      if (part > 0 && part < 1) shares.add(shareSeen(a.signal + (b.signal - a.signal) * part));
    }
  }
  const sorted = [...shares]
    .map((share) => tidy(share))
    .filter((share) => share >= -BEYOND && share <= 1 + BEYOND)
    .sort((a, b) => a - b);
  return ok([...new Set(sorted)]);
}
