// Spreadsheet files (XLSX) in a thread of their own, with memory and time bounded by whoever starts it: a file of a few
// kilobytes can unfold to gigabytes, and must not take the server with it. Plain JavaScript, so that it runs alike from
// sources and when built.

import { parentPort, workerData } from 'node:worker_threads';
import ExcelJS from 'exceljs';

/** What a sheet of parameters never reaches; the rest is told as too large. */
const MOST_ROWS = 20_000;
const MOST_COLUMNS = 60;
const MOST_CELL = 4_000;

/** A number as it was typed: binary fractions show in the 16th digit and are cut off there. */
const showNumber = (value) =>
  Number.isInteger(value) ? String(value) : String(Number(value.toPrecision(15)));

/** The text of a cell. A formula comes as a formula and a date as a date, so that nobody takes them for what was meant. */
function cellText(value) {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') return showNumber(value);
  if (typeof value === 'string' || typeof value === 'boolean') return String(value).slice(0, MOST_CELL);
  if (value instanceof Date) return value.toISOString();
  if ('formula' in value || 'sharedFormula' in value) return `=${value.formula ?? value.sharedFormula}`;
  if ('richText' in value)
    return value.richText
      .map(({ text }) => text)
      .join('')
      .slice(0, MOST_CELL);
  if ('text' in value) return cellText(value.text);
  if ('error' in value) return String(value.error);
  return '';
}

async function read(bytes) {
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.load(bytes);
  const sheet = workbook.worksheets.find(({ state }) => state === 'visible') ?? workbook.worksheets[0];
  if (!sheet) return { fault: 'no-sheet' };
  if (sheet.rowCount > MOST_ROWS || sheet.columnCount > MOST_COLUMNS) return { fault: 'too-large' };
  const rows = [];
  sheet.eachRow({ includeEmpty: false }, (row, line) => {
    const cells = Array.from({ length: sheet.columnCount }, (_, at) => cellText(row.getCell(at + 1).value));
    rows.push({ line, cells });
  });
  return { rows };
}

async function write({ sheets }) {
  const workbook = new ExcelJS.Workbook();
  for (const { name, columns, rows } of sheets) {
    const sheet = workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.columns = columns.map(({ heading, width }) => ({ header: heading, width, style: { numFmt: '@' } }));
    sheet.getRow(1).font = { bold: true };
    for (const cells of rows) sheet.addRow(cells);
  }
  return { bytes: new Uint8Array(await workbook.xlsx.writeBuffer()) };
}

const { task, ...work } = workerData;
try {
  parentPort.postMessage(task === 'read' ? await read(work.bytes) : await write(work));
} catch {
  parentPort.postMessage({ fault: 'not-a-spreadsheet' });
}
