import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { predictedCourse, rampsIn, type Point, type RampSetting } from './index.ts';

const SETTING: RampSetting = { up: 8, down: 5, top: 50, roundUp: 0, roundDown: 0 };
const EVERY = 0.05;

/** Standstill, up to a speed, and back, as a unit with this setting goes; read to a hundredth of a hertz. */
function course(setting: RampSetting, speed: number): readonly Point[] {
  const long = (setting.up ?? 0) + setting.roundUp + 4;
  const setpoint = Array.from(
    { length: Math.round((2 + long + (setting.down ?? 0) + setting.roundDown + 4) / EVERY) },
    (_, index) => {
      const at = index * EVERY;
      return { at, value: at >= 2 && at < 2 + long ? speed : 0 };
    },
  );
  return predictedCourse(setpoint, 0, setting).map(({ at, value }) => ({
    at,
    value: Math.round(value * 100) / 100,
  }));
}

describe('ramps of a trace', () => {
  it('are measured as the time for the whole way, within two percent of how they went', () => {
    const any = fc.record({
      up: fc.double({ min: 1, max: 30, noNaN: true }),
      down: fc.double({ min: 1, max: 30, noNaN: true }),
      speed: fc.double({ min: 15, max: 50, noNaN: true }),
    });
    fc.assert(
      fc.property(any, ({ up, down, speed }) => {
        const setting = { ...SETTING, up, down };
        const found = rampsIn(course(setting, speed), setting);
        expect(found.map(({ way }) => way)).toEqual(['up', 'down']);
        for (const { share } of found) expect(Math.abs((share ?? 0) - 1)).toBeLessThan(0.02);
      }),
      { ...SEEDED, numRuns: 60 },
    );
  });

  it('that took longer than set say by how much', () => {
    const [up] = rampsIn(course({ ...SETTING, up: 12 }, 40), SETTING);
    expect(up?.share).toBeCloseTo(1.5, 1);
  });

  it('with rounded corners are what their settings predict, however short the change', () => {
    for (const speed of [8, 20, 45]) {
      const setting = { ...SETTING, roundUp: 2, roundDown: 1.5 };
      for (const { share, predicted } of rampsIn(course(setting, speed), setting)) {
        expect(Math.abs((share ?? 0) - 1)).toBeLessThan(0.02);
        expect(predicted ?? 0).toBeGreaterThan(4.99);
      }
    }
  });

  it('are none where nothing moves, and noise makes none', () => {
    const noisy = Array.from({ length: 400 }, (_, at) => ({
      at: at * EVERY,
      value: 30 + ((at * 7) % 5) * 0.01,
    }));
    expect(rampsIn(noisy, SETTING)).toEqual([]);
  });
});

describe('the predicted course', () => {
  it('reaches a set-point in its share of the ramp, and later by its rounding', () => {
    const at = (points: readonly Point[], level: number) =>
      points.find(({ value }) => value >= level)?.at ?? 0;
    expect(at(course(SETTING, 40), 40) - 2).toBeCloseTo(0.8 * 8, 1);
    const rounded = { ...SETTING, roundUp: 2, roundDown: 2 };
    expect(at(course(rounded, 40), 39.99) - 2).toBeCloseTo(0.8 * 8 + 2, 0);
  });

  it('jumps where the ramp is 0, and stays where it is told nothing else', () => {
    const flat = [0, 1, 2].map((at) => ({ at, value: 30 }));
    expect(predictedCourse(flat, 30, SETTING).map(({ value }) => value)).toEqual([30, 30, 30]);
    expect(predictedCourse(flat, 0, { ...SETTING, up: 0 }).map(({ value }) => value)).toEqual([30, 30, 30]);
  });
});
