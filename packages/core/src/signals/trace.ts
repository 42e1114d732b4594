// A trace: up to six signals of one unit over time, as raw values with their true times. Where nothing came there is a gap, and
// never a line that looks as if something had been seen. Kept as small differences: ten minutes of six signals, twenty times a
// second, are about a tenth of a megabyte before they are deflated.

import { fail, ok, type Result } from '../values/index.ts';

export interface TraceSignal {
  /** As core/live names it: `frequency`. */
  readonly meaning: string;
  readonly code: string;
  readonly unit: string;
  /** A raw value times step over ten to the power of places is the value in its unit. */
  readonly step: number;
  readonly places: number;
}

export interface Trace {
  readonly signals: readonly TraceSignal[];
  /** In ms since the trace began, rising. */
  readonly times: readonly number[];
  /** By signal, then by time: raw values; nothing where that signal was not answered. */
  readonly values: readonly (readonly (number | null)[])[];
}

export interface Sample {
  readonly at: number;
  readonly values: readonly (number | null)[];
}

export const EMPTY = (signals: readonly TraceSignal[]): Trace => ({
  signals,
  times: [],
  values: signals.map(() => []),
});

export const MOST_SIGNALS = 6;
export const MOST_SECONDS = 600;
/** Two samples that are further apart than this many usual distances have a gap between them. */
const GAP_OF = 3;
const GAP_LEAST_MS = 250;

export const valueOf = ({ step, places }: TraceSignal, raw: number): number => (raw * step) / 10 ** places;

/** In its unit; nothing where it was not answered. */
export const valuesOf = ({ signals, values }: Trace, signal: number): readonly (number | null)[] => {
  const told = signals[signal];
  return (values[signal] ?? []).map((raw) => (raw === null || !told ? null : valueOf(told, raw)));
};

/** Index of each sample before which there is a gap. */
export function gapsIn(times: readonly number[]): readonly number[] {
  const spans = times.slice(1).map((at, index) => at - (times[index] ?? 0));
  const usual = [...spans].sort((a, b) => a - b)[Math.floor(spans.length / 2)] ?? 0;
  const most = Math.max(GAP_LEAST_MS, usual * GAP_OF);
  return spans.flatMap((span, index) => (span > most ? [index + 1] : []));
}

/** Of one signal: what of it is drawn as one line. */
export function stretchesOf(
  { times, values }: Trace,
  signal: number,
): readonly (readonly [from: number, to: number])[] {
  const gaps = new Set(gapsIn(times));
  const own = values[signal] ?? [];
  const found: [number, number][] = [];
  own.forEach((value, at) => {
    if (value === null) return;
    const last = found.at(-1);
    if (last && last[1] === at - 1 && !gaps.has(at)) last[1] = at;
    else found.push([at, at]);
  });
  return found;
}

const VERSION = 1;
const MISSING = 0;

/** Bytes of the samples; the signals stand beside them. Version, counts, then by sample the time and by signal the value, each as
 * a difference to the one before in base-128 digits, lowest first. */
export function packTrace({ signals, times, values }: Trace): Uint8Array {
  const bytes: number[] = [];
  const put = (number: number) => {
    let left = number;
    while (left >= 0x80) {
      bytes.push((left % 0x80) + 0x80);
      left = Math.floor(left / 0x80);
    }
    bytes.push(left);
  };
  put(VERSION);
  put(signals.length);
  put(times.length);
  let before = 0;
  for (const at of times) {
    put(at - before);
    before = at;
  }
  for (const own of values) {
    let last = 0;
    for (const value of own) {
      // 0 is nothing; a difference is twice its size, and one more where it is negative, and 1 more for the nothing.
      put(value === null ? MISSING : 1 + (value >= last ? (value - last) * 2 : (last - value) * 2 - 1));
      last = value ?? last;
    }
  }
  return Uint8Array.from(bytes);
}

/** What `packTrace` has made; a fault where the bytes are none of it. */
export function unpackTrace(signals: readonly TraceSignal[], bytes: Uint8Array): Result<Trace, 'damaged'> {
  let place = 0;
  let bad = false;
  const take = (): number => {
    let number = 0;
    for (let weight = 1; ; weight *= 0x80) {
      const byte = bytes[place];
      place += 1;
      if (byte === undefined || weight > 2 ** 42) {
        bad = true;
        return 0;
      }
      number += (byte % 0x80) * weight;
      if (byte < 0x80) return number;
    }
  };
  const [version, many, count] = [take(), take(), take()];
  if (bad || version !== VERSION || many !== signals.length || count > bytes.length) return fail('damaged');
  let before = 0;
  const times = Array.from({ length: count }, () => (before += take()));
  const values = signals.map(() => {
    let last = 0;
    return Array.from({ length: count }, () => {
      const told = take();
      if (told === MISSING) return null;
      const size = told - 1;
      last += size % 2 === 0 ? size / 2 : -(size + 1) / 2;
      return last;
    });
  });
  return bad || place !== bytes.length ? fail('damaged') : ok({ signals, times, values });
}

/** The sample at or before a time, for a cursor; nothing before the first, and nothing within a gap. */
export function sampleAt(
  { times }: Pick<Trace, 'times'>,
  at: number,
  gaps: readonly number[] = gapsIn(times),
): number | undefined {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((times[middle] ?? 0) <= at) low = middle + 1;
    else high = middle;
  }
  const last = times[low - 1];
  if (last === undefined) return undefined;
  return gaps.includes(low) && at - last > GAP_LEAST_MS ? undefined : low - 1;
}
