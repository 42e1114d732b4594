import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import {
  broken,
  cornersOf,
  faultOf,
  pointAt,
  shareOf,
  SIGNAL_RANGES,
  type AnalogSignal,
  type SignalField,
  type SignalScaling,
} from './index.ts';

const plain: SignalScaling = {
  ...{ sent: '4-20-ma', read: '4-20-ma', range: { low: 0, high: 10, unit: 'bar' }, shuntOhm: 250 },
  ...{ rawPerPercent: 10, loop: null, lostBelow: null, limits: null },
  curve: [
    { signal: 0, value: 0 },
    { signal: 1, value: 50 },
  ],
};
const at = (scaling: SignalScaling, share: number) => {
  const point = pointAt(scaling, share);
  if (!point.ok) throw new Error(point.fault);
  return point.value;
};

describe('a signal on its way', () => {
  // Worked by hand: the middle of 4 to 20 mA is 12 mA, 3 V across 250 Ω, 25 Hz of 50.
  it.each([
    [0, 0, 4, 1, 0, 0],
    [0.5, 5, 12, 3, 500, 25],
    [1, 10, 20, 5, 1000, 50],
    [-0.025, -0.25, 3.6, 0.9, -25, 0],
    [1.0625, 10.625, 21, 5.25, 1063, 50],
  ])('at %s of its range', (share, process, sent, shunt, raw, hertz) => {
    expect(at(plain, share)).toMatchObject({ process, sent, shunt, raw, hertz });
  });

  it('reads a live zero wrong where the drive does not know of it', () => {
    const draught: SignalScaling = { ...plain, read: '0-20-ma', range: { low: -100, high: 0, unit: 'Pa' } };
    // 4 mA of 20 is a fifth: the start of the range is read as 20 %, and a broken wire as 0 %.
    expect(at(draught, 0)).toMatchObject({ process: -100, seen: 20, hertz: 10 });
    const none = broken(draught);
    expect(none.ok && none.value).toMatchObject({ sent: 0, seen: 0, hertz: 0, lost: false });
    expect(at(draught, 0.5)).toMatchObject({ process: -50, sent: 12, seen: 60 });
  });

  it('makes a voltage of a current across 500 Ω, and says where it cannot', () => {
    const across: SignalScaling = { ...plain, read: '2-10-v', shuntOhm: 500 };
    expect(at(across, 0.5)).toMatchObject({ sent: 12, shunt: 6, atInput: 6, seen: 50, hertz: 25 });
    expect(faultOf({ ...across, shuntOhm: null })).toBe('no-shunt');
    expect(faultOf({ ...plain, sent: '0-10-v' })).toBe('voltage-into-current');
    expect(pointAt({ ...plain, sent: '0-10-v' }, 0.5)).toEqual({ ok: false, fault: 'voltage-into-current' });
  });

  it('is lost below its threshold, and held by the limits of the drive', () => {
    const watched: SignalScaling = { ...plain, lostBelow: 3, limits: { minimum: 6, maximum: 45 } };
    const none = broken(watched);
    expect(none.ok && none.value).toMatchObject({ lost: true, hertz: 6, limited: 'minimum' });
    expect(at(watched, 0)).toMatchObject({ lost: false, hertz: 6, limited: 'minimum' });
    expect(at(watched, 1)).toMatchObject({ hertz: 45, limited: 'maximum' });
    // A transmitter that gives 3.6 mA in its failure is not lost for a drive with a threshold of 3 mA.
    expect(at(watched, -0.025)).toMatchObject({ sent: 3.6, lost: false });
    expect(shareOf(watched, 'hertz', 25)).toEqual({ ok: true, value: 0.5 });
    expect(shareOf(watched, 'hertz', 46)).toEqual({ ok: false, fault: 'out-of-reach' });
  });

  it('tells the actual value of a loop in percent of its range', () => {
    const loop: SignalScaling = { ...plain, curve: null, loop: { low: 0, high: 100 } };
    expect(at(loop, 0.42)).toMatchObject({ actual: 42, hertz: null });
    expect(shareOf(loop, 'actual', 42)).toEqual({ ok: true, value: 0.42 });
    expect(shareOf({ ...loop, range: { low: 3, high: 3, unit: '' } }, 'process', 3)).toEqual({
      ...{ ok: false, fault: 'flat' },
    });
  });
});

const signals = Object.keys(SIGNAL_RANGES) as AnalogSignal[];
const tenths = (min: number, max: number) =>
  fc.integer({ min: min * 10, max: max * 10 }).map((value) => value / 10 + 0);
const anyScaling: fc.Arbitrary<SignalScaling> = fc.record({
  sent: fc.constantFrom(...signals),
  read: fc.constantFrom(...signals),
  range: fc.record({ low: tenths(-200, 0), high: tenths(1, 500), unit: fc.constant('Pa') }),
  shuntOhm: fc.option(fc.constantFrom(100, 250, 500), { nil: null }),
  rawPerPercent: fc.constantFrom(1, 10, 100),
  curve: fc.option(
    fc
      .record({ low: tenths(-50, 60), high: tenths(-50, 60), bend: fc.boolean() })
      .map(({ low, high, bend }) => [
        { signal: 0, value: low },
        ...(bend ? [{ signal: 0.3, value: low }] : []),
        { signal: 1, value: high },
      ]),
    { nil: null },
  ),
  limits: fc.option(fc.record({ minimum: tenths(0, 10), maximum: tenths(11, 60) }), { nil: null }),
  loop: fc.option(fc.record({ low: tenths(-10, 10), high: tenths(11, 120) }), { nil: null }),
  lostBelow: fc.constantFrom(null, 2, 3),
});
const FIELDS: readonly SignalField[] = [
  'process',
  'percent',
  'sent',
  'shunt',
  'atInput',
  'seen',
  'hertz',
  'actual',
];

describe('laws of every scaling', () => {
  it('goes back from each field to a share that has the same value there', () => {
    let back = 0;
    fc.assert(
      fc.property(anyScaling, fc.integer({ min: -20, max: 120 }), (scaling, percent) => {
        const point = pointAt(scaling, percent / 100);
        if (!point.ok) return;
        for (const field of FIELDS) {
          const value = field === 'percent' ? percent : point.value[field];
          if (value === null) continue;
          const share = shareOf(scaling, field, value);
          if (!share.ok) throw new Error(`${field} ${value}: ${share.fault}`);
          const again = at(scaling, share.value);
          const told = field === 'percent' ? share.value * 100 : (again[field] ?? Number.NaN);
          expect(Math.abs(told - value)).toBeLessThan(1e-6 * Math.max(1, Math.abs(value)));
          back += 1;
        }
      }),
      { ...SEEDED, numRuns: 800 },
    );
    expect(back).toBeGreaterThan(2000);
  });

  it('is straight between its corners, and never anything but a number', () => {
    fc.assert(
      fc.property(anyScaling, fc.double({ min: 0.01, max: 0.99, noNaN: true }), (scaling, part) => {
        const corners = cornersOf(scaling);
        if (!corners.ok) return;
        for (const [index, from] of corners.value.entries()) {
          const to = corners.value[index + 1];
          if (to === undefined) continue;
          const [a, b] = [at(scaling, from), at(scaling, to)];
          const between = at(scaling, from + (to - from) * part);
          for (const field of ['hertz', 'actual', 'atInput'] as const) {
            if (a[field] === null || b[field] === null) continue;
            // Where a speed turns its sign the minimum jumps from one side to the other.
            if (field === 'hertz' && a.hertz !== null && b.hertz !== null && a.hertz * b.hertz <= 0) continue;
            const straight = a[field] + (b[field] - a[field]) * part;
            expect(Math.abs((between[field] ?? Number.NaN) - straight)).toBeLessThan(1e-6);
          }
        }
      }),
      { ...SEEDED, numRuns: 400 },
    );
  });
});
