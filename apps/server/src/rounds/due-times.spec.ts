import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { isQuiet, lastDue, nextDue, retryTime } from './due-times.ts';

const at = (text: string) => new Date(text);
const daily = { at: '02:00', days: [0, 1, 2, 3, 4, 5, 6] };
const schedule = fc.record({
  at: fc
    .tuple(fc.nat({ max: 23 }), fc.nat({ max: 59 }))
    .map(([hours, minutes]) => `${String(hours).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`),
  days: fc.uniqueArray(fc.nat({ max: 6 }), { minLength: 1 }),
});
const moment = fc.date({ min: at('2025-01-01T00:00'), max: at('2028-12-31T00:00'), noInvalidDate: true });

describe('due times', () => {
  it('are the newest before and the first after', () => {
    expect(lastDue(daily, at('2026-11-25T01:59'))).toEqual(at('2026-11-24T02:00'));
    expect(lastDue(daily, at('2026-11-25T02:00'))).toEqual(at('2026-11-25T02:00'));
    expect(nextDue(daily, at('2026-11-25T02:00'))).toEqual(at('2026-11-26T02:00'));
    // 29 November 2026 is a Sunday.
    expect(nextDue({ at: '06:00', days: [0] }, at('2026-11-25T12:00'))).toEqual(at('2026-11-29T06:00'));
    expect(lastDue({ at: '06:00', days: [] }, at('2026-11-25T12:00'))).toBeUndefined();
  });

  it('enclose every moment, with no due time in between', () => {
    fc.assert(
      fc.property(schedule, moment, (each, now) => {
        const [last, next] = [lastDue(each, now), nextDue(each, now)];
        if (!last || !next) throw new Error('a schedule with days has both');
        expect(last.getTime()).toBeLessThanOrEqual(now.getTime());
        expect(next.getTime()).toBeGreaterThan(now.getTime());
        expect(nextDue(each, last)).toEqual(next);
        expect(each.days).toContain(next.getDay());
      }),
      { seed: 640_712 },
    );
  });

  it('leave quiet hours alone, over midnight too', () => {
    const night = { from: '22:00', to: '05:00' };
    expect([isQuiet(night, at('2026-11-25T23:10')), isQuiet(night, at('2026-11-25T04:59'))]).toEqual([
      true,
      true,
    ]);
    expect([isQuiet(night, at('2026-11-25T05:00')), isQuiet(night, at('2026-11-25T21:59'))]).toEqual([
      false,
      false,
    ]);
    expect(isQuiet({ from: '05:30', to: '06:30' }, at('2026-11-25T06:00'))).toBe(true);
    expect(isQuiet({ from: '05:30', to: '05:30' }, at('2026-11-25T05:30'))).toBe(false);
    expect(isQuiet(null, at('2026-11-25T05:30'))).toBe(false);
  });

  it('come again after longer and longer pauses', () => {
    const now = at('2026-11-25T02:00');
    const minutes = [1, 2, 3, 4, 9].map(
      (tries) => (retryTime(tries, now).getTime() - now.getTime()) / 60_000,
    );
    expect(minutes).toEqual([1, 5, 15, 30, 60]);
  });
});
