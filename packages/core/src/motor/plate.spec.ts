import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning, type Dictionary } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { bridge } from '../testing/shipped-bridge.ts';
import { allModels } from '../testing/shipped-model.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { parseRaw, meaningOf } from '../values/index.ts';
import { plateLine, readPlate, writePlate, type PlateText } from './read-plate.ts';
import { clashesOf, plateOf, ratingFor, sameNumbers } from './plate-clash.ts';
import { plateFromSet, PLATE_FIELDS, type PlateKey } from './plate-from-set.ts';
import {
  BRAKE_FIELDS,
  MOTOR_FIELDS,
  parsePlateValue,
  RATING_FIELDS,
  showPlateValue,
  type MotorPlate,
} from './plate.ts';

const KEYS = Object.keys(PLATE_FIELDS) as PlateKey[];

describe('a number on a plate', () => {
  it.each([
    ['power', '1.5', 1500],
    ['power', '1.5 kW', 1500],
    ['power', '1500 W', 1500],
    ['power', '2 hp', 1491.4],
    ['current', '850mA', 0.85],
    ['inertia', '32 kg·cm²', 0.0032],
    ['inertia', '0.0032 kgm2', 0.0032],
    ['inductance', '17.1 mH', 0.0171],
    ['releaseDelay', '0.12 s', 0.12],
    ['releaseDelay', '120', 0.12],
    ['poles', '4', 4],
    ['speed', '1410 1/min', 1410],
  ] as const)('%s %s is kept in its base unit', (key, text, value) => {
    const read = parsePlateValue(PLATE_FIELDS[key], text);
    expect(read.ok && read.value).toBeCloseTo(value, 9);
  });

  it.each([
    ['power', '1,5', 'comma'],
    ['power', 'about 2', 'not-a-number'],
    ['power', '', 'not-a-number'],
    ['power', '3 A', 'other-quantity'],
    ['powerFactor', '0.8 kW', 'other-quantity'],
    ['current', '0', 'not-positive'],
    ['current', '-3', 'not-positive'],
  ] as const)('%s "%s" is refused as %s', (key, text, code) => {
    expect(parsePlateValue(PLATE_FIELDS[key], text)).toMatchObject({ ok: false, fault: { code } });
  });

  it('comes back from what is shown, for every field', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...KEYS),
        fc.integer({ min: 1, max: 9_999_999 }),
        fc.integer({ min: 0, max: 4 }),
        (key, digits, places) => {
          const field = PLATE_FIELDS[key];
          const first = parsePlateValue(field, (digits / 10 ** places).toFixed(places));
          if (!first.ok) throw new Error(JSON.stringify(first.fault));
          const again = parsePlateValue(field, showPlateValue(field, first.value));
          expect(again.ok && Math.abs(again.value / first.value - 1)).toBeLessThan(1e-9);
        },
      ),
      SEEDED,
    );
  });
});

function setOf(name: string, values: Readonly<Record<string, string>>): [Dictionary, ParameterSet] {
  const found = allModels.find(({ model }) => model.model === name)?.model;
  if (!found) throw new Error(name);
  const readings = Object.entries(values).map(([meaning, text]) => {
    const parameter = findMeaning(found, meaningOf(meaning));
    const raw = parameter && parseRaw(parameter.form, text);
    if (!parameter || !raw?.ok) throw new Error(`${meaning} ${text}`);
    return [parameter.code, raw.value] as const;
  });
  return [found, { dictionary: found.id, readings: new Map(readings) }];
}

describe('the plate that a set tells', () => {
  it('is the same whatever the maker counts in', () => {
    const of = (name: string, values: Record<string, string>) => plateFromSet(bridge, ...setOf(name, values));
    expect(of('halvern-hn64', { 'motor.ratedPower': '1500' }).get('power')?.value).toBe(1500);
    expect(of('toreka-c7', { 'motor.ratedPower': '1.50' }).get('power')?.value).toBe(1500);
    expect(of('toreka-c1', { 'motor.ratedPower': '2.00' }).get('power')?.value).toBeCloseTo(1491.4, 6);
    const servo = of('quenby-s4', { 'motor.polePairs': '4', 'motor.inertia': '6.20' });
    expect([servo.get('poles')?.value, servo.get('inertia')?.value]).toEqual([8, 0.00062]);
  });

  it('never clashes with the plate made of it, for any set of any model', () => {
    for (const { model, facts } of allModels) {
      fc.assert(
        fc.property(anySetOf(model, facts), (set) => {
          const told = plateFromSet(bridge, model, set);
          const clashes = clashesOf(plateOf(told), told);
          expect(clashes.filter((field) => field.clashes)).toEqual([]);
          expect(clashes.map(({ key }) => key).sort()).toEqual([...told.keys()].sort());
        }),
        { ...SEEDED, numRuns: 30 },
      );
    }
  });

  it('does not take an empty field for a number', () => {
    const told = plateFromSet(bridge, ...setOf('halvern-hn64', { 'motor.ratedPower': '1500' }));
    expect([...told.keys()]).toEqual(['power']);
  });
});

describe('a clash', () => {
  const plate: MotorPlate = {
    ratings: [{ voltage: 400, power: 1500, current: 3.6, speed: 1410 }],
    resistance: 4.6,
  };
  const clashing = (values: Record<string, string>, of = plate) =>
    clashesOf(of, plateFromSet(bridge, ...setOf('halvern-hn64', values)))
      .filter(({ clashes }) => clashes)
      .map(({ key }) => key);

  it('is told field by field, within what the drive can tell', () => {
    expect(clashing({ 'motor.ratedPower': '1500', 'motor.ratedCurrent': '3.60' })).toEqual([]);
    expect(clashing({ 'motor.ratedPower': '1500', 'motor.ratedCurrent': '6.30' })).toEqual(['current']);
    // A drive that counts in quarters of a horsepower cannot tell 1491 W from 1500 W.
    const coarse = clashesOf(
      plate,
      plateFromSet(bridge, ...setOf('toreka-c1', { 'motor.ratedPower': '2.00' })),
    );
    expect(coarse.filter(({ clashes }) => clashes)).toEqual([]);
  });

  it('lets a winding be warm, and no more than that', () => {
    expect(clashing({ 'motor.statorResistance': '4.950' })).toEqual([]);
    expect(clashing({ 'motor.statorResistance': '6.900' })).toEqual(['resistance']);
  });

  it('looks at the rating of the same supply', () => {
    const two: MotorPlate = {
      ratings: [
        { voltage: 230, connection: 'delta', current: 6.2 },
        { voltage: 400, connection: 'star', current: 3.6 },
      ],
    };
    expect(clashing({ 'motor.ratedVoltage': '400', 'motor.ratedCurrent': '3.60' }, two)).toEqual([]);
    expect(clashing({ 'motor.ratedVoltage': '230', 'motor.ratedCurrent': '3.60' }, two)).toEqual(['current']);
    expect(ratingFor(two, 460)).toBeUndefined();
  });
});

describe('plates with the same numbers', () => {
  const rating = { power: 1500, current: 3.6 };
  it('are recognised under another name, and not by what they leave out', () => {
    expect(sameNumbers({ ratings: [rating] }, { ratings: [{ ...rating, speed: 1410 }] })).toBe(true);
    expect(sameNumbers({ ratings: [rating], resistance: 4 }, { ratings: [rating], resistance: 5 })).toBe(
      false,
    );
    expect(sameNumbers({ ratings: [{ power: 1500 }] }, { ratings: [{ power: 1500 }] })).toBe(false);
    expect(Object.keys(RATING_FIELDS)).toContain('power');
  });
});

describe('a plate that was typed', () => {
  const number = fc
    .tuple(fc.integer({ min: 1, max: 99_999 }), fc.integer({ min: 0, max: 3 }))
    .map(([digits, places]) => (digits / 10 ** places).toFixed(places));
  const some = (fields: object) =>
    fc.record(Object.fromEntries(Object.keys(fields).map((key) => [key, number])), { requiredKeys: [] });

  it('comes back as it was, whichever fields it has', () => {
    const plates = fc.record({
      ratings: fc.uniqueArray(
        some(RATING_FIELDS).map((each): Record<string, string> => ({ ...each, power: '1.5' })),
        {
          minLength: 1,
          maxLength: 3,
          selector: (each) => `${each['voltage'] ?? ''} ${each['frequency'] ?? ''}`,
          comparator: (a, b) => Number(a.split(' ')[0]) === Number(b.split(' ')[0]),
        },
      ),
      motor: some(MOTOR_FIELDS),
      brake: some(BRAKE_FIELDS),
    });
    fc.assert(
      fc.property(plates, (text) => {
        const first = readPlate(text as PlateText);
        if (!first.ok) throw new Error(JSON.stringify(first.fault));
        const again = readPlate(writePlate(first.value));
        if (!again.ok) throw new Error(JSON.stringify(again.fault));
        expect(JSON.stringify(roundedTo8(again.value))).toBe(JSON.stringify(roundedTo8(first.value)));
      }),
      SEEDED,
    );
  });

  it('collects everything that is wrong with it', () => {
    const read = readPlate({
      ratings: [
        { voltage: '400', power: '1,5', connection: 'zigzag' },
        { voltage: '400 V', current: '3.6' },
      ],
      motor: { poles: '4 Hz', sensor: 'cold' },
      brake: { coilCurrent: '-1' },
    });
    expect(read.ok ? [] : read.fault.map(({ column }) => column)).toEqual([
      'Connection',
      'Power',
      'Ratings',
      'Temperature sensor',
      'Brake coil current',
      'Poles',
    ]);
    expect(readPlate({ ratings: [{}], motor: {}, brake: {} })).toMatchObject({ ok: false });
  });

  it('is said in one line as on the register', () => {
    const rating = { voltage: 400, connection: 'star', power: 1500, current: 3.6, speed: 1410 } as const;
    expect(plateLine({ ratings: [rating] })).toBe('1.5 kW, 400 V star, 3.6 A, 1410 rpm');
  });
});

/** Eight digits are shown; the rest are binary fractions. */
const roundedTo8 = (value: unknown): unknown =>
  JSON.parse(JSON.stringify(value), (_, each: unknown) =>
    typeof each === 'number' ? Number(each.toPrecision(8)) : each,
  );
