import { describe, expect, it } from '@jest/globals';
import ExcelJS from 'exceljs';
import { spreadsheetBomb, zipOf } from '../testing/zip-archive.ts';
import { describeSheetFault, isSpreadsheet, readSheet, writeSheets } from './spreadsheet.ts';

async function bytesOf(
  fill: (sheet: ExcelJS.Worksheet, workbook: ExcelJS.Workbook) => void,
): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  fill(workbook.addWorksheet('Parameters'), workbook);
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}

async function rowsOf(bytes: Uint8Array) {
  const read = await readSheet(bytes);
  if (!read.ok) throw new Error(read.fault);
  return read.value.rows;
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
    expect(await rowsOf(bytes)).toEqual([{ line: 7, cells: { code: '01R', value: '5' } }]);
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

describe('what is no spreadsheet, or too much of one', () => {
  it('is refused in words', async () => {
    const faults = await Promise.all([
      readSheet(zipOf([{ name: 'x', content: Buffer.from('y') }])),
      readSheet(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0])),
      readSheet(await bytesOf(() => undefined)),
      readSheet(await bytesOf((sheet) => (sheet.getCell(30_000, 1).value = 'far down'))),
    ]);
    expect(faults.map((read) => (read.ok ? 'read' : read.fault))).toEqual([
      expect.stringMatching(/not-a-spreadsheet|no-sheet/),
      'not-a-spreadsheet',
      'empty',
      'too-large',
    ]);
    for (const read of faults)
      if (!read.ok) expect(describeSheetFault(read.fault)).toMatch(/Nothing was kept\.$/);
  });

  it('does not take the server’s memory with it', async () => {
    const before = process.memoryUsage().heapUsed;
    const read = await readSheet(spreadsheetBomb(200));
    expect(read).toEqual({ ok: false, fault: 'too-large' });
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(100_000_000);
  }, 60_000);

  it('is told by its first bytes', () => {
    expect(isSpreadsheet(new Uint8Array([0x50, 0x4b, 3, 4]))).toBe(true);
    expect(isSpreadsheet(new Uint8Array([0x50, 0x4b]))).toBe(false);
    expect(isSpreadsheet(Buffer.from('code,value'))).toBe(false);
  });
});
