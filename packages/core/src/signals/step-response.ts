// Figures of a step response, as IEC 60050-351 names them: dead time, rise time from 10 to 90 % of the change, overshoot and
// undershoot in percent of it, settling time into a band of 2 and 5 % of it, steady error, and whether the loop's sense is right.
// All by the samples as they are: unevenly spaced, noisy, and with some missing.

/** In seconds and in the unit of the signal. */
export interface Point {
  readonly at: number;
  readonly value: number;
}

export interface StepFigures {
  /** When the set-point stepped, and from where to where. */
  readonly stepAt: number;
  readonly from: number;
  readonly to: number;
  /** Mean of the actual value before the step and at the end. */
  readonly before: number;
  readonly after: number;
  /** Standard deviation before the step: what is smaller counts as noise. */
  readonly noise: number;
  /** From the step until the actual value has left its noise; nothing where it never does. */
  readonly deadTime: number | null;
  readonly riseTime: number | null;
  /** In percent of the change, beyond the end value and back below it. */
  readonly overshoot: number;
  readonly undershoot: number;
  readonly peakAt: number | null;
  readonly settling2: number | null;
  readonly settling5: number | null;
  /** Set-point less actual value at the end. */
  readonly steadyError: number;
  /** `inverted`: the actual value went the other way, as with a loop of the wrong sense. */
  readonly sense: 'right' | 'inverted' | 'none';
}

/** Of the time after the step, at its end, over which the end value is the mean. */
const END_SHARE = 0.2;
/** Standard deviations above which something has happened. */
const LEAVES = 4;
const LEAST_POINTS = 8;
/** A change below this many standard deviations of the noise has no figures. */
const LEAST_CHANGE = 6;
/** Of the change: less beyond the end value is no overshoot that anybody could see. */
const LEAST_OVERSHOOT = 0.005;

export type StepFault =
  /** The set-point does not step within what was recorded. */
  | 'no-step'
  /** Too few samples before or after it. */
  | 'too-short'
  /** The actual value does not move out of its noise. */
  | 'no-answer';

export type StepResult =
  { readonly ok: true; readonly figures: StepFigures } | { readonly ok: false; readonly why: StepFault };

/** Where the set-point makes its largest step. */
export function stepIn(setpoint: readonly Point[]): { at: number; from: number; to: number } | undefined {
  let found: { at: number; from: number; to: number } | undefined;
  for (let index = 1; index < setpoint.length; index += 1) {
    const [one, next] = [setpoint[index - 1], setpoint[index]];
    if (!one || !next || one.value === next.value) continue;
    if (!found || Math.abs(next.value - one.value) > Math.abs(found.to - found.from))
      found = { at: next.at, from: one.value, to: next.value };
  }
  return found;
}

/** `step` says when and from where to where the set-point went; without it the largest step of `setpoint` counts. */
export function stepFigures(
  actual: readonly Point[],
  setpoint: readonly Point[],
  step = stepIn(setpoint),
): StepResult {
  if (!step) return { ok: false, why: 'no-step' };
  const earlier = actual.filter(({ at }) => at < step.at);
  const later = actual.filter(({ at }) => at >= step.at);
  if (earlier.length < LEAST_POINTS || later.length < LEAST_POINTS) return { ok: false, why: 'too-short' };
  const before = mean(earlier);
  const noise = deviation(earlier, before);
  const last = later.at(-1)?.at ?? step.at;
  const tail = later.filter(({ at }) => at >= last - (last - step.at) * END_SHARE);
  const after = mean(tail);
  const change = after - before;
  const wanted = Math.sign(step.to - step.from);
  const steadyError = step.to - after;
  if (Math.abs(change) <= Math.max(noise * LEAST_CHANGE, Number.EPSILON * 16))
    return { ok: false, why: 'no-answer' };
  const share = later.map(({ at, value }) => ({ at: at - step.at, value: (value - before) / change }));
  const beyond = noise / Math.abs(change);
  const left = crossing(share, Math.max(beyond * LEAVES, 0.01));
  const [ten, ninety] = [crossing(share, 0.1), crossing(share, 0.9)];
  const peak = share.reduce((most, each) => (each.value > most.value ? each : most), {
    at: 0,
    value: -Infinity,
  });
  const overshoot = peak.value - 1 > Math.max(beyond * LEAVES, LEAST_OVERSHOOT) ? (peak.value - 1) * 100 : 0;
  const lowest = share
    .filter(({ at }) => at > peak.at)
    .reduce((least, { value }) => Math.min(least, value), Infinity);
  const undershoot = overshoot > 0 && 1 - lowest > beyond * LEAVES ? (1 - lowest) * 100 : 0;
  return {
    ok: true,
    figures: {
      ...{ stepAt: step.at, from: step.from, to: step.to, before, after, noise, steadyError },
      deadTime: left ?? null,
      riseTime: ten === undefined || ninety === undefined ? null : ninety - ten,
      ...{ overshoot, undershoot, peakAt: overshoot > 0 ? peak.at : null },
      settling2: settling(share, 0.02, beyond),
      settling5: settling(share, 0.05, beyond),
      sense: wanted === 0 ? 'none' : Math.sign(change) === wanted ? 'right' : 'inverted',
    },
  };
}

const mean = (points: readonly Point[]): number =>
  points.reduce((sum, { value }) => sum + value, 0) / Math.max(1, points.length);

const deviation = (points: readonly Point[], around: number): number =>
  Math.sqrt(
    points.reduce((sum, { value }) => sum + (value - around) ** 2, 0) / Math.max(1, points.length - 1),
  );

/** When it first reaches a level, between the two samples around it. */
function crossing(points: readonly Point[], level: number): number | undefined {
  const index = points.findIndex(({ value }) => value >= level);
  const [after, before] = [points[index], points[index - 1]];
  if (!after) return undefined;
  if (!before || after.value === before.value) return after.at;
  return before.at + ((level - before.value) / (after.value - before.value)) * (after.at - before.at);
}

/** When it enters the band for good; a band that the noise fills is widened by it. */
function settling(points: readonly Point[], band: number, noise: number): number | null {
  const width = Math.max(band, noise * LEAVES);
  const outside = points.findLastIndex(({ value }) => Math.abs(value - 1) > width);
  if (outside === -1) return 0;
  if (outside === points.length - 1) return null;
  const [last, next] = [points[outside], points[outside + 1]];
  if (!last || !next) return null;
  const edge = last.value > 1 ? 1 + width : 1 - width;
  return last.at + ((edge - last.value) / (next.value - last.value)) * (next.at - last.at);
}
