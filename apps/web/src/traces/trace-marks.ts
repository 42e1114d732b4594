// What is drawn of a trace: lanes by unit, and in each the lines of its signals as paths, thinned to what the width can show
// without losing a peak. The screen, the picture file and the drawing file are all made of these.

import { gapsIn, valueOf, type Trace } from '@drive-keep/core/signals';
import { bisectLeft } from 'd3-array';
import { scaleLinear, type ScaleLinear } from 'd3-scale';

export interface Layer {
  readonly name: string;
  readonly trace: Trace;
  /** In seconds: added to its times. */
  readonly shift: number;
  /** It was reckoned and not seen. */
  readonly reckoned?: boolean;
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
  /** In seconds. */
  readonly from: number;
  readonly to: number;
  readonly width: number;
  readonly height: number;
  readonly nameOf: (meaning: string) => string;
}

export function marksOf({ layers, from, to, width, height, nameOf }: Wish): Marks {
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
    const y = scaleLinear(rangeOf(layers, unit), [top + laneHeight, top]).nice(4);
    const lines = layers.flatMap(({ trace, name, shift, reckoned = false }, layer) =>
      trace.signals.flatMap((signal, index): MarkedLine[] => {
        if (signal.unit !== unit) return [];
        const place = [...meanings].indexOf(signal.meaning);
        const own = OWN[place] ?? 'third';
        const kind = reckoned ? 'reckoned' : layer === 0 ? own : place === 0 ? 'other' : 'other-second';
        const called = nameOf(signal.meaning) + (name === '' ? '' : `, ${name}`);
        return [{ meaning: signal.meaning, name: called, kind, path: pathOf(trace, index, shift, x, y) }];
      }),
    );
    return { unit, top, height: laneHeight, y, lines };
  });
  return { width, height, x, lanes };
}

/** What is the same wherever one looks: gaps, and the least and most of each signal. */
interface Known {
  readonly gaps: ReadonlySet<number>;
  readonly ranges: readonly (readonly [low: number, high: number])[];
}
const KNOWN = new WeakMap<Trace, Known>();

function knownOf(trace: Trace): Known {
  const known = KNOWN.get(trace);
  if (known) return known;
  const ranges = trace.signals.map((signal, index) => {
    let [low, high] = [Infinity, -Infinity];
    for (const raw of trace.values[index] ?? []) {
      if (raw === null) continue;
      if (raw < low) low = raw;
      if (raw > high) high = raw;
    }
    return [valueOf(signal, low), valueOf(signal, high)] as const;
  });
  const found = { gaps: new Set(gapsIn(trace.times)), ranges };
  KNOWN.set(trace, found);
  return found;
}

/** All that is ever seen, so that a lane does not jump while somebody moves through the trace. */
function rangeOf(layers: readonly Layer[], unit: string): [number, number] {
  const ranges = layers.flatMap(({ trace }) =>
    trace.signals.flatMap((signal, index) =>
      signal.unit === unit ? [knownOf(trace).ranges[index] ?? [0, 0]] : [],
    ),
  );
  const low = Math.min(...ranges.map(([least]) => least));
  const high = Math.max(...ranges.map(([, most]) => most));
  if (low > high) return [0, 1];
  // A signal that hardly moves is drawn as such.
  const room = Math.max((high - low) * 0.06, Math.abs(high) * 0.01, 0.5);
  return [low >= 0 && low < high / 3 ? Math.min(0, low) : low - room, high + room];
}

/** One line between gaps; of all samples in a column of the screen the least and the most. */
function pathOf(
  trace: Trace,
  index: number,
  shift: number,
  x: ScaleLinear<number, number>,
  y: ScaleLinear<number, number>,
): string {
  const { signals, times, values } = trace;
  const signal = signals[index];
  const own = values[index];
  if (!signal || !own) return '';
  const { gaps } = knownOf(trace);
  const [left = 0, right = 0] = x.domain().map((second) => (second - shift) * 1000);
  // One sample beyond each edge, so that lines go on to it.
  const [first, end] = [Math.max(0, bisectLeft(times, left) - 1), bisectLeft(times, right) + 1];
  const [x0, perMs] = [x(shift), (x(1) - x(0)) / 1000];
  const [y0, perRaw] = [y(0), ((y(1) - y(0)) * signal.step) / 10 ** signal.places];
  const path: string[] = [];
  let isOpen = false;
  let column = NaN;
  /** Raw values of the column: the least and the most, and which of them came first. */
  let [least, most, leastFirst] = [NaN, NaN, true];
  const point = (raw: number) => {
    path.push(`${isOpen ? 'L' : 'M'}${column} ${Math.round((y0 + raw * perRaw) * 2) / 2}`);
    isOpen = true;
  };
  const put = () => {
    if (Number.isNaN(least)) return;
    point(leastFirst ? least : most);
    if (most !== least) point(leastFirst ? most : least);
    least = most = NaN;
  };
  for (let at = first; at < Math.min(own.length, end); at += 1) {
    const raw = own[at];
    if (raw === null || raw === undefined || gaps.has(at)) {
      put();
      isOpen = false;
    }
    if (raw === null || raw === undefined) continue;
    const here = Math.round(x0 + (times[at] ?? 0) * perMs);
    if (here !== column) {
      put();
      column = here;
    }
    if (Number.isNaN(least)) [least, most, leastFirst] = [raw, raw, true];
    else if (raw < least) [least, leastFirst] = [raw, false];
    else if (raw > most) [most, leastFirst] = [raw, true];
  }
  put();
  return path.join('');
}
