import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { motorSheet, type MotorSheetInput } from './index.ts';

const lineOf = (input: MotorSheetInput, id: string) => {
  const found = motorSheet(input).find((each) => each.id === id);
  if (!found) throw new Error(id);
  return found;
};
const valueOf = (input: MotorSheetInput, id: string) => lineOf(input, id).value;

// Closed forms of IEC 60034-1 and of every textbook, worked by hand; plates as motors of the frame sizes of IEC 60072 have them.
const SMALL: MotorSheetInput = {
  power: 1500,
  voltage: 400,
  current: 3.6,
  frequency: 50,
  speed: 1410,
  powerFactor: 0.79,
};
const LARGE: MotorSheetInput = {
  power: 30_000,
  voltage: 400,
  current: 55,
  frequency: 50,
  speed: 1475,
  powerFactor: 0.86,
};
const TWO_POLES: MotorSheetInput = {
  power: 750,
  voltage: 400,
  current: 1.9,
  frequency: 50,
  speed: 2800,
  powerFactor: 0.8,
};
const SIXTY: MotorSheetInput = {
  power: 7457,
  voltage: 460,
  current: 12.4,
  frequency: 60,
  speed: 1755,
  powerFactor: 0.82,
};
const SLOW: MotorSheetInput = {
  power: 2200,
  voltage: 400,
  current: 5.6,
  frequency: 50,
  speed: 940,
  powerFactor: 0.74,
};

describe('a motor by its plate', () => {
  it.each([
    [
      '1.5 kW, four poles',
      SMALL,
      { poles: 4, synchronous: 1500, slip: 6, torque: 10.16, flux: 8, efficiency: 76.13 },
    ],
    [
      '30 kW, four poles',
      LARGE,
      { poles: 4, synchronous: 1500, slip: 1.667, torque: 194.2, flux: 8, efficiency: 91.55 },
    ],
    [
      '0.75 kW, two poles',
      TWO_POLES,
      { poles: 2, synchronous: 3000, slip: 6.667, torque: 2.558, flux: 8, efficiency: 71.22 },
    ],
    [
      '10 hp at 60 Hz',
      SIXTY,
      {
        poles: 4,
        synchronous: 1800,
        slip: 2.5,
        torque: 40.57,
        flux: 7.667,
        efficiency: 92.05,
        horsepower: 10,
      },
    ],
    [
      '2.2 kW, six poles',
      SLOW,
      { poles: 6, synchronous: 1000, slip: 6, torque: 22.35, flux: 8, efficiency: 76.63 },
    ],
  ])('%s', (_, input, wanted) => {
    for (const [id, value] of Object.entries(wanted))
      expect([id, Number(valueOf(input, id)?.toPrecision(4))]).toEqual([id, value]);
  });

  it('shows the formula with its numbers put in', () => {
    expect(lineOf(SMALL, 'slip')).toMatchObject({
      ...{ formula: 's = (nₛ − n) / nₛ', worked: '(1500 − 1410) / 1500', result: '6 %' },
      remark: '3 Hz at full load.',
    });
    expect(lineOf(SMALL, 'efficiency').worked).toBe('1500 / (√3 · 400 · 3.6 · 0.79)');
  });

  it('knows the cases of √3: 87 Hz, and star and delta', () => {
    // A winding for 230 V in delta at 400 V: 86.6 Hz, 1.732 times the power, the flux of 230 V at 50 Hz.
    const delta: MotorSheetInput = { ...SMALL, voltage: 230, current: 6.2 };
    expect(lineOf(delta, '87-hz')).toMatchObject({ result: '86.6 Hz' });
    expect(lineOf(delta, '87-hz').remark).toContain('398.4 V, and 2.598 kW');
    expect(valueOf(delta, 'flux')).toBeCloseTo(4.6, 6);
    expect(lineOf({ ...SMALL, voltage: 400, current: 3.6 }, 'delta')).toMatchObject({ result: '230.9 V' });
    expect(lineOf(SMALL, 'delta').remark).toContain('6.235 A in delta');
  });

  it('looks at a plate that contradicts itself', () => {
    expect(lineOf({ ...SMALL, current: 2.0 }, 'efficiency')).toMatchObject({ attention: 'stop' });
    expect(lineOf({ ...SMALL, current: 6.2 }, 'efficiency')).toMatchObject({ attention: 'look' });
    expect(lineOf({ ...SMALL, speed: 1600 }, 'poles')).toMatchObject({ attention: 'stop', result: null });
    expect(lineOf({ ...SMALL, poles: 2 }, 'poles')).toMatchObject({ attention: 'stop' });
    expect(lineOf({ ...SMALL, poles: 2 }, 'slip').remark).toBe('No motor has that slip.');
  });
});

describe('a motor at its drive', () => {
  it('gets what heat, carrier and height leave', () => {
    const at = (more: MotorSheetInput) => lineOf({ ...SMALL, unitCurrent: 4.1, ...more }, 'unit');
    expect(at({ ambient: 50, byHeat: 88, carrier: 4, byCarrier: 100 })).toMatchObject({
      result: '3.608 A',
      attention: null,
    });
    expect(at({ ambient: 50, byHeat: 88, carrier: 6, byCarrier: 91 })).toMatchObject({
      ...{ result: '3.283 A', attention: 'stop', worked: '4.1 · 88 % · 91 %' },
    });
    // 1800 m: eight times one percent.
    expect(at({ altitude: 1800 })).toMatchObject({ result: '3.772 A', worked: '4.1 · 92 %' });
  });

  it('accelerates with what the load leaves, and not at all where it leaves nothing', () => {
    // 10.16 Nm times 1.5 less 5 Nm is 10.24 Nm: 0.1 kg·m² to 1410 rpm takes 1.442 s.
    const input = { ...SMALL, inertia: 0.003, loadInertia: 0.097, limitCurrent: 5.4, loadTorque: 5 };
    expect(lineOf(input, 'acceleration')).toMatchObject({ result: '1.442 s' });
    expect(lineOf({ ...input, loadTorque: 16 }, 'acceleration')).toMatchObject({
      result: null,
      attention: 'stop',
    });
    expect(lineOf({ ...SMALL, inertia: 0.1, limitCurrent: 5.4 }, 'acceleration').missing).toEqual([
      'loadTorque',
    ]);
    // ½ · 0.1 · 147.65² is 1090 J.
    expect(lineOf({ ...input, rampDown: 4 }, 'braking')).toMatchObject({ result: '1090 J' });
    expect(lineOf({ ...input, rampDown: 4 }, 'braking').remark).toContain('272.5 W');
  });

  it('has its flux as far as the supply goes', () => {
    expect(lineOf({ ...SMALL, supply: 427 }, 'supply')).toMatchObject({
      result: '53.38 Hz',
      attention: null,
    });
    expect(lineOf({ ...SMALL, supply: 370 }, 'supply')).toMatchObject({
      result: '46.25 Hz',
      attention: 'look',
    });
  });
});

it('never tells what is no number, whatever is typed', () => {
  const any = fc.option(fc.oneof(fc.double({ min: -1e6, max: 1e9, noNaN: true }), fc.constant(0)), {
    nil: undefined,
  });
  const keys = [
    ...([
      'power',
      'voltage',
      'current',
      'frequency',
      'speed',
      'powerFactor',
      'poles',
      'inertia',
      'loadInertia',
    ] as const),
    ...([
      'loadTorque',
      'supply',
      'unitCurrent',
      'limitCurrent',
      'rampDown',
      'ambient',
      'carrier',
      'altitude',
    ] as const),
  ];
  fc.assert(
    fc.property(fc.record(Object.fromEntries(keys.map((key) => [key, any]))), (input) => {
      for (const { result, worked, remark, missing, attention } of motorSheet(input)) {
        for (const text of [result, worked, remark]) expect(text ?? '').not.toMatch(/NaN|Infinity|undefined/);
        if (result === null) expect(missing.length > 0 || attention === 'stop').toBe(true);
      }
    }),
    { ...SEEDED, numRuns: 500 },
  );
});
