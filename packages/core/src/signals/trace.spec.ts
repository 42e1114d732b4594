import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import {
  gapsIn,
  packTrace,
  sampleAt,
  stretchesOf,
  unpackTrace,
  type Trace,
  type TraceSignal,
} from './index.ts';

const signal = (meaning: string): TraceSignal => ({ meaning, code: meaning, unit: 'Hz', step: 1, places: 2 });

const anyTrace: fc.Arbitrary<Trace> = fc
  .record({
    many: fc.integer({ min: 1, max: 6 }),
    spans: fc.array(fc.integer({ min: 0, max: 70_000 }), { maxLength: 60 }),
  })
  .chain(({ many, spans }) => {
    let at = 0;
    const times = spans.map((span) => (at += span));
    const value = fc.oneof(fc.constant(null), fc.integer({ min: -(2 ** 31), max: 2 ** 32 - 1 }));
    const one = fc.array(value, { minLength: spans.length, maxLength: spans.length });
    const names = ['frequency', 'setpoint', 'current', 'torque', 'speed', 'power'];
    return fc
      .tuple(...Array.from({ length: many }, () => one))
      .map((values) => ({ signals: names.slice(0, many).map(signal), times, values }));
  });

describe('a trace', () => {
  it('comes back from its bytes as it was, whatever is missing of it', () => {
    fc.assert(
      fc.property(anyTrace, (trace) => {
        expect(unpackTrace(trace.signals, packTrace(trace))).toEqual({ ok: true, value: trace });
      }),
      SEEDED,
    );
  });

  it('that is cut short, longer or of other signals is damaged, and never another trace', () => {
    fc.assert(
      fc.property(anyTrace, fc.nat(), (trace, at) => {
        const bytes = packTrace(trace);
        expect(unpackTrace(trace.signals, bytes.subarray(0, at % bytes.length)).ok).toBe(false);
        expect(unpackTrace(trace.signals, Uint8Array.from([...bytes, 0])).ok).toBe(false);
        expect(unpackTrace([...trace.signals, signal('more')], bytes).ok).toBe(false);
      }),
      SEEDED,
    );
  });

  it('of ten minutes, six signals and twenty samples a second is below 100 kB', () => {
    const times = Array.from({ length: 12_000 }, (_, at) => at * 50 + (at % 3));
    const values = [0, 1, 2, 3, 4, 5].map((own) =>
      times.map((at) => Math.round(3000 + 800 * Math.sin(at / 9000 + own) + 6 * Math.sin(at * 1.7 + own))),
    );
    const packed = packTrace({ signals: ['a', 'b', 'c', 'd', 'e', 'f'].map(signal), times, values });
    expect(packed.length).toBeLessThan(100_000);
  });

  const times = [0, 50, 100, 150, 900, 950, 1000];
  const values = [[1, 2, null, 4, 5, 6, 7]];
  const trace: Trace = { signals: [signal('frequency')], times, values };

  it('has its gaps where nothing came, and a line only where something did', () => {
    expect(gapsIn(times)).toEqual([4]);
    expect(stretchesOf(trace, 0)).toEqual([
      [0, 1],
      [3, 3],
      [4, 6],
    ]);
  });

  it('is read by a cursor at the sample before it, and not within a gap', () => {
    expect([sampleAt(trace, -1), sampleAt(trace, 0), sampleAt(trace, 149), sampleAt(trace, 5000)]).toEqual([
      undefined,
      0,
      2,
      6,
    ]);
    expect(sampleAt(trace, 500)).toBeUndefined();
  });
});
