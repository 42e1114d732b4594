// Ramps of a trace: how long each change of speed really took against what is set, and the course that the settings predict for
// the set-points that were seen. A measured ramp is told as the time for the whole way to which the setting counts.

import type { Point } from './step-response.ts';

export interface RampSetting {
  /** Seconds for the whole way; nothing where the model has no such setting. */
  readonly up: number | null;
  readonly down: number | null;
  /** Hz to which these times count. */
  readonly top: number;
  /** Seconds of rounding at each end; 0 for straight ramps. */
  readonly roundUp: number;
  readonly roundDown: number;
}

export interface MeasuredRamp {
  readonly way: 'up' | 'down';
  /** In seconds and Hz: where it begins and ends. */
  readonly from: Point;
  readonly to: Point;
  /** Seconds for the whole way, by its straight middle from 20 to 80 %. */
  readonly measured: number;
  readonly set: number | null;
  /** What the settings predict for this change, measured the same way: rounded corners make a short change slower. */
  readonly predicted: number | null;
  /** Measured over predicted. */
  readonly share: number | null;
}

/** Changes below this share of the whole way are no ramps. */
const LEAST_SHARE = 0.08;
/** A speed that stays within this share of the whole way for this long has arrived. */
const STILL_SHARE = 0.004;
const STILL_SECONDS = 0.35;
/** Points of a course that is reckoned for a measure. */
const PREDICTED = 400;

/** Every change of speed from one steady value to another. */
export function rampsIn(frequency: readonly Point[], setting: RampSetting): readonly MeasuredRamp[] {
  const still = setting.top * STILL_SHARE;
  const plateaus = plateausOf(frequency, still);
  const found: MeasuredRamp[] = [];
  for (let index = 1; index < plateaus.length; index += 1) {
    const [one, next] = [plateaus[index - 1], plateaus[index]];
    if (!one || !next) continue;
    const way = next.value - one.value;
    if (Math.abs(way) < setting.top * LEAST_SHARE) continue;
    const points = frequency.filter(({ at }) => at >= one.to && at <= next.from);
    const measured = wholeTime(points, one.value, way, setting.top);
    if (measured === undefined) continue;
    const set = way > 0 ? setting.up : setting.down;
    const predicted = set === null || set === 0 ? null : predictedTime(one.value, next.value, setting);
    found.push({
      way: way > 0 ? 'up' : 'down',
      from: { at: one.to, value: one.value },
      to: { at: next.from, value: next.value },
      measured,
      set,
      predicted,
      share: predicted === null ? null : measured / predicted,
    });
  }
  return found;
}

interface Plateau {
  readonly from: number;
  readonly to: number;
  readonly value: number;
}

function plateausOf(points: readonly Point[], still: number): readonly Plateau[] {
  const found: Plateau[] = [];
  let begin = 0;
  let [low, high] = [Infinity, -Infinity];
  const close = (end: number) => {
    const [first, last] = [points[begin], points[end]];
    if (first && last && last.at - first.at >= STILL_SECONDS)
      found.push({
        from: first.at,
        to: last.at,
        value: points[Math.floor((begin + end) / 2)]?.value ?? first.value,
      });
  };
  points.forEach(({ value }, at) => {
    const [least, most] = [Math.min(low, value), Math.max(high, value)];
    if (most - least <= still) {
      [low, high] = [least, most];
      return;
    }
    close(at - 1);
    begin = at;
    [low, high] = [value, value];
  });
  close(points.length - 1);
  return found;
}

/** The same measure of the course that the settings predict. */
function predictedTime(from: number, to: number, setting: RampSetting): number | null {
  const long = (setting.up ?? 0) + (setting.down ?? 0) + setting.roundUp + setting.roundDown + 1;
  const wanted = Array.from({ length: PREDICTED + 1 }, (_, index) => ({
    at: (index * long) / PREDICTED,
    value: to,
  }));
  return wholeTime(predictedCourse(wanted, from, setting), from, to - from, setting.top) ?? null;
}

/** Seconds for the whole way by the middle of this change; nothing where too few samples lie in it. */
function wholeTime(points: readonly Point[], from: number, way: number, top: number): number | undefined {
  const at = (share: number): number | undefined => {
    const level = from + way * share;
    const index = points.findIndex(({ value }) => (way > 0 ? value >= level : value <= level));
    const [after, before] = [points[index], points[index - 1]];
    if (!after || !before || after.value === before.value) return undefined;
    return before.at + ((level - before.value) / (after.value - before.value)) * (after.at - before.at);
  };
  const [begin, end] = [at(0.2), at(0.8)];
  if (begin === undefined || end === undefined || end <= begin) return undefined;
  return ((end - begin) / (0.6 * Math.abs(way))) * top;
}

/** Course of the frequency by the set-points that were seen: straight ramps, or with rounded corners. */
export function predictedCourse(
  setpoint: readonly Point[],
  start: number,
  setting: RampSetting,
): readonly Point[] {
  let value = start;
  let rate = 0;
  return setpoint.map(({ at, value: target }, index) => {
    const before = setpoint[index - 1];
    if (before) ({ value, rate } = moved(value, rate, before.value, at - before.at, setting));
    else if (setting.up === 0) value = target;
    return { at, value };
  });
}

const FINE_SECONDS = 0.01;

function moved(
  from: number,
  speed: number,
  target: number,
  seconds: number,
  setting: RampSetting,
): { value: number; rate: number } {
  let [value, rate] = [from, speed];
  for (let left = seconds; left > 1e-9; left -= FINE_SECONDS) {
    const step = Math.min(FINE_SECONDS, left);
    const way = target - value;
    if (way === 0) return { value, rate: 0 };
    const rises = way > 0;
    const time = rises ? setting.up : setting.down;
    const rounding = rises ? setting.roundUp : setting.roundDown;
    if (time === null || time === 0) return { value: target, rate: 0 };
    const most = setting.top / time;
    if (rounding === 0) rate = most;
    else {
      const ending = Math.max(Math.sqrt((2 * Math.abs(way) * most) / rounding), most / 50);
      rate = Math.min(most, rate + (most / rounding) * step, ending);
    }
    value = Math.abs(way) <= rate * step ? target : value + Math.sign(way) * rate * step;
  }
  return { value, rate };
}
