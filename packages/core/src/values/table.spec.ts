import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { isFormula, readTable, writeTable } from './index.ts';

/** Cells without outer blanks: those are trimmed on purpose. */
const cell = fc.string({ maxLength: 12, unit: 'grapheme' }).map((text) => text.trim());
const special = fc.constantFrom(
  '=1+1',
  '+x',
  '-x',
  '-5.0',
  '@cmd',
  "'quoted",
  "''two",
  'a;b',
  'a,b',
  'say "so"',
  'two\nlines',
);

describe('tables', () => {
  it('read back what was written, whatever is in the cells', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.oneof(cell, special), fc.oneof(cell, special))), (rows) => {
        const filled = rows.filter(([a, b]) => a !== '' || b !== '');
        const table = readTable(writeTable(['one', 'two'], rows));
        if (!table.ok) throw new Error(table.fault.code);
        const normal = (text: string) => text.replace(/\r\n?/g, '\n');
        expect(
          table.value.rows.map(({ cells }) => [cells['one'], cells['two']].map((each) => normal(each ?? ''))),
        ).toEqual(filled.map((row) => row.map(normal)));
      }),
      { ...SEEDED, numRuns: 300 },
    );
  });

  it('never write a cell that a spreadsheet would run', () => {
    fc.assert(
      fc.property(fc.oneof(cell, special), (text) => {
        const line = writeTable(['one'], [[text]]).slice('one\r\n'.length, -'\r\n'.length);
        const opened = line.startsWith('"') ? line.slice(1) : line;
        const plainNumber = /^-?\d+(\.\d+)?\r?$/.test(opened.trim());
        expect(plainNumber || !/^[=+\-@\t\r]/.test(opened)).toBe(true);
      }),
      { ...SEEDED, numRuns: 300 },
    );
  });

  it('leave negative numbers as numbers', () => {
    expect(isFormula('-5.0')).toBe(false);
    expect(isFormula('-5+3')).toBe(true);
    expect(writeTable(['v'], [['-5.0']])).toBe('v\r\n-5.0\r\n');
  });

  it('know the line of a row after cells with line breaks and empty lines', () => {
    const table = readTable('code,text\r\n1,"two\r\nlines"\r\n\r\n2,plain\r\n,\r\n3,last\r\n');
    if (!table.ok) throw new Error(table.fault.code);
    expect(table.value.rows.map(({ line, cells }) => [line, cells['code']])).toEqual([
      [2, '1'],
      [5, '2'],
      [7, '3'],
    ]);
  });

  it('read what spreadsheets of other countries write: semicolons, tabs, a byte order mark', () => {
    for (const text of ['\uFEFFcode;value\r\n1;2', 'code\tvalue\n1\t2\n']) {
      expect(readTable(text)).toMatchObject({
        ok: true,
        value: { rows: [{ line: 2, cells: { code: '1', value: '2' } }] },
      });
    }
  });

  it('name what is wrong with a broken table', () => {
    expect(readTable('')).toEqual({ ok: false, fault: { code: 'table-empty' } });
    expect(readTable('a,b\n1,"open')).toMatchObject({ ok: false, fault: { code: 'table-broken' } });
    expect(readTable('a,A\n1,2')).toEqual({ ok: false, fault: { code: 'table-column-twice', column: 'a' } });
  });

  it('refuse a decimal comma that would split a value, and say where', () => {
    const fault = { code: 'table-surplus', line: 4, text: '5' };
    expect(readTable('code,value\n"1\nb",2\n01R,8,5\n')).toEqual({ ok: false, fault });
    expect(readTable('code;value\n01R;8,5')).toMatchObject({
      value: { rows: [{ cells: { value: '8,5' } }] },
    });
  });

  it('pass over empty columns at the end, and only those', () => {
    expect(readTable('code;value;;\n1;2;;\n3;4;;;;')).toMatchObject({
      value: { columns: ['code', 'value'] },
    });
    expect(readTable('code;value;\n1;2;note')).toMatchObject({ value: { columns: ['code', 'value', ''] } });
  });
});
