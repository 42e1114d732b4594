import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { describe as say } from '../findings/index.ts';
import { modelNamed, SEEDED } from '../testing/index.ts';
import { readTable } from '../values/index.ts';
import { findRow, readSettingTable, refusedValues, type SettingTable } from './index.ts';

const drive = modelNamed('halvern-hn64@1');
const read = (text: string) => {
  const table = readTable(text);
  if (!table.ok) throw new Error('no table');
  return readSettingTable(table.value, drive);
};
const good = (text: string): SettingTable => {
  const answer = read(text);
  if (!answer.ok) throw new Error(answer.fault.map(say).join(' '));
  return answer.value;
};
const faults = (text: string): readonly string[] => {
  const answer = read(text);
  return answer.ok
    ? []
    : answer.fault.map((each) => `${'line' in each ? String(each.line) : ''}: ${say(each)}`);
};

const BELT =
  'unit,motor_kw,supply_v,01R,ramp.down\nHN64-08,0.75,400,2.00,3.00\nHN64-08,0.75,480,2.50,\nHN64-15,1.5,,4.00,4.00\n';

describe('a setting table', () => {
  it('has keys by facts of the position, and values by codes or meanings', () => {
    const { keys, codes, rows } = good(BELT);
    expect([keys, codes]).toEqual([
      ['unit', 'motor_kw', 'supply_v'],
      ['01R', '02R'],
    ]);
    expect(rows[1]).toEqual({
      line: 3,
      keys: { unit: 'HN64-08', motor_kw: '0.75', supply_v: '480' },
      values: new Map([['01R', 250]]),
    });
    // A key without an entry holds for all.
    expect(rows[2]?.keys).toEqual({ unit: 'HN64-15', motor_kw: '1.5' });
  });

  it.each([
    ['a heading of nothing', 'unit,ramp time\nHN64-08,2\n', /^1: .*"ramp time"/],
    ['no key', '01R\n2.00\n', /^1: .*unit, old_unit/],
    ['no value', 'unit,motor\nHN64-08,M1\n', /^1: .*HN64/],
    ['no row', 'unit,01R\n', /^1: .*no row/],
    ['a value that the model cannot show', 'unit,01R\nHN64-08,2.005\n', /^2: .*"2.005"/],
    ['half a cell', 'unit,01R\nHN64-08,2.00 s\n', /^2: .*"2.00 s"/],
    ['a key that is no number', 'motor_kw,01R\n0.75 kW,2.00\n', /^2: .*"0.75 kW"/],
    ['a row without a key', 'unit,01R\n,2.00\n', /^2: /],
    ['one setting twice', 'unit,01R,ramp.up\nHN64-08,2.00,2.00\n', /^1: .*"ramp.up"/],
    ['a formula', 'unit,01R\nHN64-08,=1+1\n', /^2: .*"=1\+1"/],
  ])('is refused whole for %s, quoting it', (_, text, said) => {
    expect(faults(text)).toContainEqual(expect.stringMatching(said));
  });

  it('says which of its values a unit cannot hold', () => {
    const [row] = good('unit,02P\nHN64-08,900.00\n').rows;
    expect(
      row && refusedValues(drive, { rating: 'HN64-08', region: '50-hz' }, row).map(({ code }) => code),
    ).toEqual(['02P']);
  });
});

describe('the row of a position', () => {
  const table = good(BELT);

  it('is the one whose keys all agree, numbers by their value', () => {
    expect(findRow(table, { unit: 'hn64-08', motor_kw: '0.750', supply_v: 400 })).toMatchObject({
      kind: 'one',
      row: { line: 2 },
    });
    expect(findRow(table, { unit: 'HN64-15', motor_kw: 1.5 })).toMatchObject({
      kind: 'one',
      row: { line: 4 },
    });
    expect(findRow(table, { unit: 'HN64-22', motor_kw: 2.2, supply_v: 400 })).toEqual({ kind: 'none' });
    expect(findRow(table, { unit: 'HN64-08', motor_kw: 0.75 })).toEqual({
      kind: 'unknown',
      keys: ['supply_v'],
    });
    const twice = good(`${BELT}HN64-08,0.75,400,9.00,9.00\n`);
    expect(findRow(twice, { unit: 'HN64-08', motor_kw: 0.75, supply_v: 400 })).toMatchObject({
      kind: 'several',
      rows: [{ line: 2 }, { line: 5 }],
    });
  });

  it('is found as by asking every row by itself', () => {
    const ratings = ['HN64-08', 'HN64-15', 'HN64-22'];
    const row = fc.record({
      unit: fc.constantFrom('', ...ratings),
      motor_kw: fc.constantFrom('', '0.75', '1.5'),
      value: fc.integer({ min: 10, max: 900 }),
    });
    fc.assert(
      fc.property(
        fc
          .array(row, { minLength: 1, maxLength: 6 })
          .filter((all) => all.every((each) => each.unit + each.motor_kw !== '')),
        fc.record({ unit: fc.constantFrom(...ratings), motor_kw: fc.constantFrom(0.75, 1.5) }),
        (rows, facts) => {
          const text = rows
            .map((each) => `${each.unit},${each.motor_kw},${(each.value / 100).toFixed(2)}`)
            .join('\n');
          const wanted = rows.flatMap((each, at) =>
            (each.unit === '' || each.unit === facts.unit) &&
            (each.motor_kw === '' || Number(each.motor_kw) === facts.motor_kw)
              ? [at + 2]
              : [],
          );
          const found = findRow(good(`unit,motor_kw,01R\n${text}\n`), facts);
          const lines =
            found.kind === 'one'
              ? [found.row.line]
              : found.kind === 'several'
                ? found.rows.map(({ line }) => line)
                : [];
          expect(lines).toEqual(wanted);
        },
      ),
      SEEDED,
    );
  });
});
