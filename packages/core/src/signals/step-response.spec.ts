// Closed forms: a first-order system with a dead time, and a second-order system by its damping; any textbook of control has them.

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { stepFigures, type Point, type StepFigures } from './index.ts';

const STEP_AT = 5;
/** Repeatable noise with a deviation of 1. */
const noiseAt = (index: number): number => {
  const random = (seed: number) => Math.abs((Math.sin(seed * 12.9898) * 43_758.5453) % 1);
  return Math.sqrt(-2 * Math.log(1 - random(index + 1))) * Math.cos(2 * Math.PI * random(index * 7 + 3));
};

interface Wish {
  readonly seconds: number;
  readonly every?: number;
  readonly noise?: number;
  /** Every so manieth sample is lost. */
  readonly lose?: number;
  readonly from?: number;
  readonly to?: number;
}

function figures(answer: (seconds: number) => number, wish: Wish): StepFigures {
  const { seconds, every = 0.05, noise = 0, lose = 0, from = 20, to = 40 } = wish;
  const count = Math.round((STEP_AT + seconds) / every);
  const times = Array.from({ length: count }, (_, at) => at * every);
  const actual = times.flatMap((at, index): Point[] => {
    if (lose > 0 && index % lose === 0) return [];
    const share = at < STEP_AT ? 0 : answer(at - STEP_AT);
    return [{ at, value: from + (to - from) * share + noise * noiseAt(index) }];
  });
  const setpoint = times.map((at) => ({ at, value: at < STEP_AT ? from : to }));
  const told = stepFigures(actual, setpoint);
  if (!told.ok) throw new Error(told.why);
  return told.figures;
}

const first = (lag: number, dead: number) => (at: number) =>
  at < dead ? 0 : 1 - Math.exp(-(at - dead) / lag);
const second = (natural: number, damping: number) => (at: number) => {
  const free = Math.sqrt(1 - damping ** 2);
  const angle = Math.acos(damping);
  return 1 - (Math.exp(-damping * natural * at) / free) * Math.sin(natural * free * at + angle);
};

describe('the figures of a first-order answer', () => {
  it.each([
    [1, 0],
    [2, 0.5],
    [0.4, 1.2],
    [8, 0.2],
  ])('with a lag of %d s and a dead time of %d s are those of its closed form', (lag, dead) => {
    const got = figures(first(lag, dead), { seconds: 12 * lag + 2 * dead, every: lag / 50 });
    // 10 to 90 %: lag times ln 9. Into the band of p: lag times ln(1/p).
    expect(got.riseTime ?? 0).toBeCloseTo(lag * Math.log(9), 1);
    expect((got.settling5 ?? 0) / (dead + lag * Math.log(20))).toBeCloseTo(1, 1);
    expect((got.settling2 ?? 0) / (dead + lag * Math.log(50))).toBeCloseTo(1, 1);
    expect(Math.abs((got.deadTime ?? 0) - dead)).toBeLessThan(0.05 * lag);
    expect([got.overshoot, got.undershoot, got.peakAt, got.sense]).toEqual([0, 0, null, 'right']);
    expect(got.steadyError).toBeCloseTo(0, 2);
  });
});

describe('the figures of a second-order answer', () => {
  it.each([0.2, 0.35, 0.5, 0.7])('with a damping of %d are those of its closed form', (damping) => {
    const natural = 2;
    const got = figures(second(natural, damping), { seconds: 30, every: 0.01 });
    const free = natural * Math.sqrt(1 - damping ** 2);
    const overshoot = 100 * Math.exp((-damping * Math.PI) / Math.sqrt(1 - damping ** 2));
    expect(got.overshoot).toBeCloseTo(overshoot, 0);
    expect(got.peakAt ?? 0).toBeCloseTo(Math.PI / free, 1);
    // The first swing back is as far below the end value as the square of the overshoot's share.
    expect(got.undershoot).toBeCloseTo(100 * (overshoot / 100) ** 2, 0);
    // The envelope bounds the settling time from above.
    expect(got.settling5 ?? Infinity).toBeLessThanOrEqual(
      -Math.log(0.05 * Math.sqrt(1 - damping ** 2)) / (damping * natural) + 0.02,
    );
    expect(got.settling2 ?? 0).toBeGreaterThanOrEqual(got.settling5 ?? Infinity);
  });
});

describe('the figures of a step', () => {
  it('hold with noise and with missing samples, whichever way the step goes', () => {
    fc.assert(
      fc.property(
        fc.record({
          lag: fc.double({ min: 0.8, max: 5, noNaN: true }),
          noise: fc.double({ min: 0, max: 0.15, noNaN: true }),
          lose: fc.integer({ min: 2, max: 9 }),
          up: fc.boolean(),
        }),
        ({ lag, noise, lose, up }) => {
          const ends = up ? { from: 20, to: 40 } : { from: 40, to: 20 };
          const got = figures(first(lag, 0.3), { seconds: 12 * lag, noise, lose, ...ends });
          expect(Math.abs((got.riseTime ?? 0) / (lag * Math.log(9)) - 1)).toBeLessThan(0.12);
          expect(Math.abs(got.steadyError)).toBeLessThan(0.2);
          expect([got.sense, got.overshoot < 4]).toEqual(['right', true]);
        },
      ),
      { ...SEEDED, numRuns: 200 },
    );
  });

  it('say that a loop has the wrong sense, and how far from its set-point it stays', () => {
    const got = figures((at) => -first(1, 0)(at), { seconds: 20 });
    expect([got.sense, Math.round(got.steadyError)]).toEqual(['inverted', 40]);
    expect(figures((at) => 0.9 * first(1, 0)(at), { seconds: 20 }).steadyError).toBeCloseTo(2, 1);
  });

  it('are refused where there is no step, too little of it, or no answer', () => {
    const flat = Array.from({ length: 200 }, (_, at) => ({ at: at / 20, value: 20 + 0.1 * noiseAt(at) }));
    const still = flat.map(({ at }) => ({ at, value: 20 }));
    const stepped = flat.map(({ at }) => ({ at, value: at < 5 ? 20 : 40 }));
    expect(stepFigures(flat, still)).toEqual({ ok: false, why: 'no-step' });
    expect(stepFigures(flat, stepped)).toEqual({ ok: false, why: 'no-answer' });
    expect(stepFigures(flat.slice(98), stepped)).toEqual({ ok: false, why: 'too-short' });
  });
});
