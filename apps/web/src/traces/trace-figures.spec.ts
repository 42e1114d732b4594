import { describe, expect, it } from '@jest/globals';
import type { Trace, TraceSignal } from '@drive-keep/core/signals';
import { figuresOf } from './trace-figures.ts';

const SETTINGS = { rampUp: 5, rampDown: 5, top: 50, roundUp: 0, roundDown: 0 };
const signal = (meaning: string, unit = 'Hz'): TraceSignal => ({
  meaning,
  code: meaning,
  unit,
  step: 1,
  places: 2,
});

function traceOf(course: Readonly<Record<string, (seconds: number) => number>>, unit = 'Hz'): Trace {
  const times = Array.from({ length: 400 }, (_, at) => at * 50);
  return {
    signals: Object.keys(course).map((meaning) => signal(meaning, unit)),
    times,
    values: Object.values(course).map((value) => times.map((at) => Math.round(value(at / 1000) * 100))),
  };
}
const ramp = (seconds: number) => Math.min(40, Math.max(0, seconds - 3) * 10);

describe('the figures of a trace', () => {
  it('are ramps where the set-point stood, with the course that the settings predict', () => {
    const { ramps, predicted, step } = figuresOf(
      traceOf({ frequency: ramp, setpoint: (seconds) => (seconds >= 3 ? 40 : 0) }),
      SETTINGS,
    );
    expect(ramps.map(({ way, share }) => [way, Math.round((share ?? 0) * 100)])).toEqual([['up', 100]]);
    expect((predicted?.values[0]?.at(-1) ?? 0) / 1000).toBeCloseTo(40, 1);
    expect(step).toBeUndefined();
  });

  it('are none where the set-point itself moved, or a loop drives without one', () => {
    expect(figuresOf(traceOf({ frequency: ramp, setpoint: ramp }), SETTINGS).ramps).toEqual([]);
    expect(figuresOf(traceOf({ frequency: ramp, loopActual: ramp }), SETTINGS).ramps).toEqual([]);
    expect(figuresOf(traceOf({ frequency: ramp }), SETTINGS).ramps).toHaveLength(1);
  });

  it('are not made up where the unit did not tell its ramps, or counts its set-point in percent', () => {
    expect(figuresOf(traceOf({ frequency: ramp }), { ...SETTINGS, top: null }).ramps).toEqual([]);
    const percent = traceOf({ frequency: ramp, setpoint: () => 80 }, '%');
    expect(figuresOf(percent, SETTINGS).predicted).toBeUndefined();
  });
});
