import { describe, expect, it } from '@jest/globals';
import { showAge, showDate, showSpan, showTime } from './dates.ts';

const NOW = new Date(2026, 10, 24, 14, 5).getTime();
const ago = (hours: number) => new Date(NOW - hours * 3_600_000).toISOString();

describe('dates', () => {
  it('are written as people here write them', () => {
    const iso = new Date(NOW).toISOString();
    expect(showTime(iso)).toBe('24 Nov 2026 14:05');
    expect(showDate(iso)).toBe('24 Nov 2026');
    expect(showDate(new Date(2026, 8, 3).toISOString())).toBe('3 Sep 2026');
  });

  it.each([
    [0, '0 min'],
    [0.2, '12 min'],
    [5, '5 h'],
    [47, '47 h'],
    [72, '3 days'],
    [24 * 100, '3 months'],
  ])('of %s hours ago are %s old', (hours, span) => {
    expect(showSpan(ago(hours), NOW)).toBe(span);
  });

  it('never lie in the future, even when clocks differ', () => {
    expect(showAge(ago(-3), NOW)).toBe('just now');
    expect(showAge(ago(3), NOW)).toBe('3 h ago');
  });
});
