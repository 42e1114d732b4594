import { describe, expect, it } from '@jest/globals';
import type { Trace, TraceSignal } from '@drive-keep/core/signals';
import { svgOf, type Ink } from './trace-drawing.ts';
import { marksOf, type Layer } from './trace-marks.ts';

const signal = (meaning: string, unit: string): TraceSignal => ({
  meaning,
  code: meaning,
  unit,
  step: 1,
  places: 2,
});
const layer = (trace: Trace, shift = 0): Layer => ({ name: 'other', trace, shift });
const ramp: Trace = {
  signals: [signal('frequency', 'Hz'), signal('setpoint', 'Hz'), signal('current', 'A')],
  times: Array.from({ length: 4000 }, (_, at) => at * 50),
  values: [
    Array.from({ length: 4000 }, (_, at) => (at === 1234 ? 9000 : Math.min(5000, at * 2))),
    Array.from({ length: 4000 }, () => 5000),
    Array.from({ length: 4000 }, () => 250),
  ],
};
const marks = (layers: readonly Layer[], from = 0, to = 200) =>
  marksOf({ layers, from, to, width: 900, height: 400, nameOf: (meaning) => meaning });
const INK: Ink = { ink: '#111', soft: '#222', rule: '#333', plum: '#444', look: '#555', sheet: '#666' };

describe('what is drawn of a trace', () => {
  it('has a lane for each unit and a kind of line for each signal of it', () => {
    const { lanes } = marks([layer(ramp)]);
    expect(lanes.map(({ unit }) => unit)).toEqual(['Hz', 'A']);
    expect(lanes.map(({ lines }) => lines.map(({ meaning, kind }) => [meaning, kind]))).toEqual([
      [
        ['frequency', 'first'],
        ['setpoint', 'second'],
      ],
      [['current', 'first']],
    ]);
  });

  it('keeps a peak of one sample however far away one looks, in a few points for each column', () => {
    const [lane] = marks([layer(ramp)]).lanes;
    const path = lane?.lines[0]?.path ?? '';
    const heights = [...path.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map(([, y]) => Number(y));
    expect(Math.min(...heights)).toBeCloseTo(lane?.y(90) ?? 0, 0);
    expect(heights.length).toBeLessThan(900 * 2 * 4);
    expect(heights.length).toBeGreaterThan(500);
  });

  it('draws no line over a gap, nor where a signal was not answered', () => {
    const cut: Trace = {
      signals: [signal('frequency', 'Hz')],
      times: [0, 50, 100, 150, 3000, 3050, 3100],
      values: [[1, 2, null, 4, 5, 6, 7]],
    };
    const path = marks([layer(cut)], 0, 4).lanes[0]?.lines[0]?.path ?? '';
    expect(path.match(/M/g)).toHaveLength(3);
  });

  it('leaves out what is not in sight, and lays another trace into the same lanes', () => {
    const near = marks([layer(ramp)], 10, 11).lanes[0]?.lines[0]?.path ?? '';
    expect(near.match(/[ML]/g)?.length ?? 0).toBeLessThan(60);
    const { lanes } = marks([layer(ramp), layer({ ...ramp, signals: ramp.signals.slice(0, 1) }, 5)]);
    expect(lanes[0]?.lines.map(({ kind }) => kind)).toEqual(['first', 'second', 'other']);
    const guess = { ...layer({ ...ramp, signals: ramp.signals.slice(0, 1) }), reckoned: true };
    expect(marks([layer(ramp), guess]).lanes[0]?.lines.at(-1)?.kind).toBe('reckoned');
  });

  it('is a drawing by itself, with its names, and without a way to break out of it', () => {
    const svg = svgOf(
      { marks: marks([layer(ramp)]), ink: INK, markers: [{ at: 20, text: '<script>' }] },
      'A & B',
    );
    const parsed = new DOMParser().parseFromString(svg, 'image/svg+xml');
    expect(parsed.querySelector('parsererror')).toBeNull();
    expect(parsed.querySelectorAll('path')).toHaveLength(3);
    expect(parsed.querySelector('title')?.textContent).toBe('A & B');
    expect(svg).not.toContain('<script>');
  });
});
