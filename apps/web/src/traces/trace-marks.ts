// What is drawn of a trace: lanes by unit, and in each the lines of its signals as paths, thinned to what the width can show
// without losing a peak. The screen, the picture file and the drawing file are all made of these.

import { gapsIn, valueOf, type Point, type Trace } from '@drive-keep/core/signals';
import { extent } from 'd3-array';
import { scaleLinear, type ScaleLinear } from 'd3-scale';

export interface Layer {
  readonly name: string;
  readonly trace: Trace;
  /** In seconds: added to its times. */
  readonly shift: number;
}

/** A course that was reckoned and not seen. */
export interface Reckoned {
  readonly meaning: string;
  readonly points: readonly Point[];
}

export type LineKind = 'first' | 'second' | 'third' | 'other' | 'other-second' | 'reckoned';

export interface MarkedLine {
  readonly meaning: string;
  readonly name: string;
  readonly kind: LineKind;
  readonly path: string;
}

export interface Lane {
  readonly unit: string;
  readonly top: number;
  readonly height: number;
  readonly y: ScaleLinear<number, number>;
  readonly lines: readonly MarkedLine[];
}

export interface Marks {
  readonly width: number;
  readonly height: number;
  readonly x: ScaleLinear<number, number>;
  readonly lanes: readonly Lane[];
}

export const LEFT = 62;
export const RIGHT = 14;
const LANE_GAP = 16;
export const BOTTOM = 30;
const TOP = 38;
const OWN: readonly LineKind[] = ['first', 'second', 'third'];

interface Wish {
  readonly layers: readonly Layer[];
  readonly reckoned: readonly Reckoned[];
  /** In seconds. */
  readonly from: number;
  readonly to: number;
  readonly width: number;
  readonly height: number;
  readonly nameOf: (meaning: string) => string;
}

export function marksOf({ layers, reckoned, from, to, width, height, nameOf }: Wish): Marks {
  const x = scaleLinear([from, to], [LEFT, width - RIGHT]);
  const units = [...new Set(layers.flatMap(({ trace }) => trace.signals.map(({ unit }) => unit)))];
  const laneHeight = (height - TOP - BOTTOM - LANE_GAP * (units.length - 1)) / Math.max(1, units.length);
  const lanes = units.map((unit, at): Lane => {
    const top = TOP + at * (laneHeight + LANE_GAP);
    const meanings = new Set(
      layers.flatMap(({ trace }) =>
        trace.signals.filter((each) => each.unit === unit).map(({ meaning }) => meaning),
      ),
    );
    const guesses = reckoned.filter(({ meaning }) => meanings.has(meaning));
    const y = scaleLinear(rangeOf(layers, guesses, unit), [top + laneHeight, top]).nice(4);
    const lines = layers.flatMap(({ trace, name, shift }, layer) =>
      trace.signals.flatMap((signal, index): MarkedLine[] => {
        if (signal.unit !== unit) return [];
        const place = [...meanings].indexOf(signal.meaning);
        const kind = layer > 0 ? (place === 0 ? 'other' : 'other-second') : (OWN[place] ?? 'third');
        const called = layer > 0 ? `${nameOf(signal.meaning)}, ${name}` : nameOf(signal.meaning);
        return [{ meaning: signal.meaning, name: called, kind, path: pathOf(trace, index, shift, x, y) }];
      }),
    );
    const guessed = guesses.map(({ meaning, points }): MarkedLine => {
      const shown = points.filter((point) => point.at >= from - 1 && point.at <= to + 1);
      const path = shown
        .map((point, i) => `${i === 0 ? 'M' : 'L'}${round(x(point.at))} ${round(y(point.value))}`)
        .join('');
      return { meaning, name: `${nameOf(meaning)}, as its settings predict`, kind: 'reckoned', path };
    });
    return { unit, top, height: laneHeight, y, lines: [...lines, ...guessed] };
  });
  return { width, height, x, lanes };
}

const round = (value: number): number => Math.round(value * 10) / 10;

/** All that is ever seen, so that a lane does not jump while somebody moves through the trace. */
function rangeOf(layers: readonly Layer[], guesses: readonly Reckoned[], unit: string): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const { trace } of layers)
    trace.signals.forEach((signal, index) => {
      if (signal.unit !== unit) return;
      for (const raw of trace.values[index] ?? []) {
        if (raw === null) continue;
        const value = valueOf(signal, raw);
        if (value < low) low = value;
        if (value > high) high = value;
      }
    });
  const [least, most] = extent(
    guesses.flatMap(({ points }) => points),
    ({ value }) => value,
  );
  low = Math.min(low, least ?? low);
  high = Math.max(high, most ?? high);
  if (low > high) return [0, 1];
  // A signal that hardly moves is drawn as such.
  const room = Math.max((high - low) * 0.06, Math.abs(high) * 0.01, 0.5);
  return [low >= 0 && low < high / 3 ? Math.min(0, low) : low - room, high + room];
}

/** One line between gaps; of all samples in a column of the screen the first, least, most and last. */
function pathOf(
  { signals, times, values }: Trace,
  index: number,
  shift: number,
  x: ScaleLinear<number, number>,
  y: ScaleLinear<number, number>,
): string {
  const signal = signals[index];
  const own = values[index];
  if (!signal || !own) return '';
  const gaps = new Set(gapsIn(times));
  const [left, right] = [x.domain()[0] ?? 0, x.domain()[1] ?? 0];
  const path: string[] = [];
  let column = NaN;
  let held: { first: number; least: number; most: number; last: number } | undefined;
  let isOpen = false;
  const put = () => {
    if (!held) return;
    const { first, least, most, last } = held;
    for (const value of first === least && least === most && most === last
      ? [first]
      : [first, least, most, last]) {
      path.push(`${isOpen ? 'L' : 'M'}${column} ${round(y(value))}`);
      isOpen = true;
    }
    held = undefined;
  };
  for (let at = 0; at < own.length; at += 1) {
    const raw = own[at];
    const second = (times[at] ?? 0) / 1000 + shift;
    const ends = raw === null || raw === undefined || gaps.has(at);
    if (ends) {
      put();
      isOpen = false;
    }
    if (raw === null || raw === undefined) continue;
    const next = (times[at + 1] ?? times[at] ?? 0) / 1000 + shift;
    const previous = (times[at - 1] ?? times[at] ?? 0) / 1000 + shift;
    if (next < left || previous > right) continue;
    const value = valueOf(signal, raw);
    const here = Math.round(x(second) * 2) / 2;
    if (here !== column) {
      put();
      column = here;
    }
    held = held
      ? {
          first: held.first,
          least: Math.min(held.least, value),
          most: Math.max(held.most, value),
          last: value,
        }
      : { first: value, least: value, most: value, last: value };
  }
  put();
  return path.join('');
}
