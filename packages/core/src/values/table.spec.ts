import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { isFormula, readGrid, readTable, tableFromJson, writeTable } from './index.ts';

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
    const nameless = { code: 'table-surplus', line: 2, text: 'note' };
    expect(readTable('code;value;\n1;2;note')).toEqual({ ok: false, fault: nameless });
    expect(readTable('code;;value\n1;note;2')).toEqual({ ok: false, fault: nameless });
  });

  it('find the mark between the cells among titles, decimal commas and options, or are told it', () => {
    const columns = (text: string) => {
      const grid = readGrid(text);
      return grid.ok ? grid.value.rows.map(({ line, cells }) => [line, cells.length]) : grid.fault;
    };
    expect(columns('List, of 2026\n\ncode;min;max\n1;0,5;1,5\n2;0,1;2,5')).toEqual([
      [1, 1],
      [3, 3],
      [4, 3],
      [5, 3],
    ]);
    expect(columns('code,options\n1,0=off;1=on\n2,0=a;1=b;2=c')).toEqual([
      [1, 2],
      [2, 2],
      [3, 2],
    ]);
    expect(columns('sep=|\na,b|c\n1,5|2')).toEqual([
      [2, 2],
      [3, 2],
    ]);
    expect(columns('only one column\n1\n2')).toEqual([
      [1, 1],
      [2, 1],
      [3, 1],
    ]);
  });

  it('say on which line a quotation mark was opened that stays open', () => {
    expect(readGrid('a;b\n1;"x"\n2;"open\n3;y\n4;z')).toEqual({
      ok: false,
      fault: { code: 'table-broken', line: 3 },
    });
  });

  it('take headings that every object has for headings', () => {
    const table = readTable('__proto__,constructor,toString\n1,2,3');
    if (!table.ok) throw new Error(table.fault.code);
    const cells = table.value.rows[0]?.cells ?? {};
    expect(table.value.columns.map((column) => cells[column])).toEqual(['1', '2', '3']);
    expect(Object.hasOwn(cells, 'valueOf') || cells['valueof'] !== undefined).toBe(false);
  });
});

describe('JSON', () => {
  it('is a table where it is a list of objects, with numbers marked as such', () => {
    expect(tableFromJson('{"drives":[{"Code":"1.10","Min":1.5},{"code":"2","max":null}]}')).toMatchObject({
      value: {
        columns: ['code', 'min', 'max'],
        rows: [
          { line: 1, numeric: ['min'], cells: { code: '1.10', min: '1.5' } },
          { line: 2, cells: { code: '2', max: '' } },
        ],
      },
    });
  });

  it.each([
    ['a second list', '{"a":[{"code":1}],"b":[{"code":2}]}'],
    ['an item that is no object', '[{"code":1},"x"]'],
    ['a value that is a list', '[{"code":1,"range":[0,5]}]'],
    ['a key in two spellings', '[{"code":1,"Code":2}]'],
  ])('is refused for %s, and nothing of it is passed over', (_, text) => {
    expect(tableFromJson(text)).toMatchObject({ ok: false, fault: { code: 'json-odd' } });
  });
});
