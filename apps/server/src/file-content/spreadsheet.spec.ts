import { describe, expect, it } from '@jest/globals';
import ExcelJS from 'exceljs';
import { spreadsheetBomb, zipOf } from '../testing/zip-archive.ts';
import { tableOf } from '@drive-keep/core/values';
import { describeSheetFault, isSpreadsheet, readSheets, sheetNamed, writeSheets } from './spreadsheet.ts';

async function bytesOf(
  fill: (sheet: ExcelJS.Worksheet, workbook: ExcelJS.Workbook) => void,
): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  fill(workbook.addWorksheet('Parameters'), workbook);
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}

async function sheetOf(bytes: Uint8Array) {
  const read = await readSheets(bytes);
  const sheet = read.ok ? sheetNamed(read.value) : undefined;
  if (!sheet) throw new Error(read.ok ? 'no sheet' : read.fault.fault);
  return sheet;
}

async function rowsOf(bytes: Uint8Array) {
  const table = tableOf(await sheetOf(bytes));
  if (!table.ok) throw new Error(table.fault.code);
  return table.value.rows;
}

describe('cells of a spreadsheet', () => {
  it('come as what was typed: numbers without binary noise, text as text', async () => {
    const bytes = await bytesOf((sheet) => {
      sheet.addRow(['Code', 'Value']);
      sheet.addRow(['01R', 0.1 + 0.2]);
      sheet.addRow(['02R', 12.5]);
      sheet.addRow(['03R', '007']);
      sheet.addRow([4, true]);
    });
    expect((await rowsOf(bytes)).map(({ cells }) => [cells['code'], cells['value']])).toEqual([
      ['01R', '0.3'],
      ['02R', '12.5'],
      ['03R', '007'],
      ['4', 'true'],
    ]);
  });

  it('come as a formula and as a date where they are one, so that nobody takes them for a value', async () => {
    const bytes = await bytesOf((sheet) => {
      sheet.addRow(['code', 'value']);
      sheet.addRow([new Date(Date.UTC(2026, 3, 12)), { formula: '1+1', result: 2 }]);
      sheet.addRow([
        { richText: [{ text: '4/' }, { text: '12' }] },
        { text: 'link', hyperlink: 'http://localhost' },
      ]);
      sheet.addRow(['bad', { error: '#DIV/0!' }]);
    });
    expect((await rowsOf(bytes)).map(({ cells }) => [cells['code'], cells['value']])).toEqual([
      ['2026-04-12T00:00:00.000Z', '=1+1'],
      ['4/12', 'link'],
      ['bad', '#DIV/0!'],
    ]);
  });

  it('keep the lines of the sheet, over empty rows and from the first sheet that is shown', async () => {
    const bytes = await bytesOf((sheet, workbook) => {
      sheet.state = 'hidden';
      const shown = workbook.addWorksheet('Shown');
      shown.getRow(3).values = ['code', 'value'];
      shown.getRow(7).values = ['01R', 5];
    });
    expect(await rowsOf(bytes)).toEqual([
      { line: 7, cells: { code: '01R', value: '5' }, numeric: ['value'] },
    ]);
  });

  it('come back as they were written, whatever is in them', async () => {
    const rows = [
      ['4/12', '0.50', '=1+1', ''],
      ['01R', '-3', '@x', 'ä ☃ "quoted", and\nsplit'],
    ];
    const columns = ['code', 'value', 'text', 'more'].map((heading) => ({ heading, width: 10 }));
    const read = await rowsOf(await writeSheets([{ name: 'Parameters', columns, rows }]));
    expect(read.map(({ cells }) => Object.values(cells))).toEqual(rows);
  });
});

describe('the format of a cell', () => {
  it('says what its number is: percent, places, zeros in front, a unit, and never hides a digit', async () => {
    const cells = [
      ...[
        [0.5, '0%'],
        [0.125, '0.0%'],
        [12.5, '0.00'],
        [12.3456, '0.0'],
        [7, '000'],
        [1.1, '0.00'],
      ],
      ...[
        [1500, '#,##0'],
        [1234567.5, '#,##0.00'],
        [50, '0.0" Hz"'],
        [-3, '0;[Red]-0'],
        [5, '@'],
        [0.1 + 0.2, 'General'],
      ],
      ...[
        [1e-7, 'General'],
        [12, '0.0E+00'],
      ],
    ] as const;
    const bytes = await bytesOf((sheet) => {
      sheet.addRow(['code', 'value']);
      for (const [value, numFmt] of cells) {
        const row = sheet.addRow(['x', value]);
        row.getCell(2).numFmt = numFmt;
      }
    });
    const rows = await rowsOf(bytes);
    expect(
      rows.map(
        ({ cells: { value }, numeric }) => `${value} ${numeric?.includes('value') ? 'number' : 'text'}`,
      ),
    ).toEqual([
      ...['50 % text', '12.5 % text', '12.50 number', '12.3456 number', '007 text', '1.10 number'],
      ...['1500 number', '1234567.50 number', '50.0 Hz text', '-3 number', '5 number', '0.3 number'],
      ...['0.0000001 number', '12 number'],
    ]);
  });

  it('tells hidden rows, columns and sheets, and takes joined cells once', async () => {
    const bytes = await bytesOf((sheet, workbook) => {
      sheet.addRow(['code', 'value', 'name']);
      sheet.addRow(['01R', 5, 'x']);
      sheet.getRow(2).hidden = true;
      sheet.getColumn(3).hidden = true;
      sheet.addRow(['Group', '', '']);
      sheet.mergeCells('A3:C3');
      workbook.addWorksheet('Old').addRow(['code']);
      const last = workbook.addWorksheet('Secret');
      last.addRow(['code']);
      last.state = 'veryHidden';
    });
    const read = await readSheets(bytes);
    if (!read.ok) throw new Error(read.fault.fault);
    expect(read.value.map(({ name, hidden }) => [name, hidden])).toEqual([
      ['Parameters', false],
      ['Old', false],
      ['Secret', true],
    ]);
    const sheet = await sheetOf(bytes);
    expect([sheet.hiddenColumns, sheet.rows.map(({ hidden }) => hidden)]).toEqual([
      [2],
      [false, true, false],
    ]);
    expect(sheet.rows[2]?.cells).toEqual(['Group']);
  });

  it('of what leaves has numbers as numbers and codes as text', async () => {
    const bytes = await writeSheets([
      {
        name: 'Parameters',
        columns: [
          { heading: 'code', width: 10 },
          { heading: 'value', width: 10, numeric: true },
        ],
        rows: [
          ['4/12', '12.50'],
          ['007', '-3'],
          ['1.10', '0b0101'],
        ],
      },
    ]);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(bytes as never);
    const sheet = workbook.worksheets[0];
    const types = [2, 3, 4].map((row) => [1, 2].map((at) => typeof sheet?.getRow(row).getCell(at).value));
    expect(types).toEqual([
      ['string', 'number'],
      ['string', 'number'],
      ['string', 'string'],
    ]);
    expect((await rowsOf(bytes)).map(({ cells }) => [cells['code'], cells['value']])).toEqual([
      ['4/12', '12.50'],
      ['007', '-3'],
      ['1.10', '0b0101'],
    ]);
  });
});

describe('what is no spreadsheet, or too much of one', () => {
  it('is refused in words', async () => {
    const faults = await Promise.all([
      readSheets(zipOf([{ name: 'x', content: Buffer.from('y') }])),
      readSheets(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0])),
      readSheets(await bytesOf(() => undefined)),
      readSheets(await bytesOf((sheet) => (sheet.getCell(30_000, 1).value = 'far down'))),
      readSheets(
        await bytesOf((sheet) =>
          Array.from({ length: 9 }, (_, at) => (sheet.getCell(30_000 + at, 1).value = 'x')),
        ),
      ),
      readSheets(zipOf([{ name: 'mimetype', content: Buffer.from('application/vnd.oasis') }])),
      readSheets(zipOf([{ name: 'word/document.xml', content: Buffer.from('x') }])),
    ]);
    expect(faults.map((read) => (read.ok ? 'read' : read.fault.fault))).toEqual([
      'foreign-zip',
      'not-a-spreadsheet',
      'empty',
      'stray-cell',
      'too-large',
      'open-document',
      'word',
    ]);
    for (const read of faults)
      if (!read.ok) expect(describeSheetFault(read.fault)).toMatch(/Nothing was kept\.$/);
  });

  it('does not take the server’s memory with it', async () => {
    const before = process.memoryUsage().heapUsed;
    const read = await readSheets(spreadsheetBomb(200));
    expect(read).toMatchObject({ ok: false, fault: { fault: 'too-large' } });
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(100_000_000);
  }, 60_000);

  it('is told by its first bytes', () => {
    expect(isSpreadsheet(new Uint8Array([0x50, 0x4b, 3, 4]))).toBe(true);
    expect(isSpreadsheet(new Uint8Array([0x50, 0x4b]))).toBe(false);
    expect(isSpreadsheet(Buffer.from('code,value'))).toBe(false);
  });
});
