// Spreadsheet files (XLSX) in a process of their own, with memory and time bounded by whoever starts it: a file of a few
// kilobytes can unfold to gigabytes, and must not take the server with it. Plain JavaScript, so that it runs alike from
// sources and when built.

import { constants, setPriority } from 'node:os';
import { inflateRawSync } from 'node:zlib';
import ExcelJS from 'exceljs';
import workerpool from 'workerpool';

/** A list of 20,000 parameters unfolds to some 20 MB. */
const MOST_UNFOLDED = 64_000_000;
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

const END_OF_DIRECTORY = 0x06054b50;
const DIRECTORY_ENTRY = 0x02014b50;
const STORED = 0;
const DEFLATED = 8;

/**
 * True if all entries of the archive (PKWARE APPNOTE 4.3) together unfold to no more than is bearable. What the headers
 * claim is not believed: every entry is unfolded once, and given up as soon as it is too much.
 */
function isBearable(bytes) {
  const archive = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = archive.length - 22;
  while (end >= 0 && archive.readUInt32LE(end) !== END_OF_DIRECTORY) end -= 1;
  if (end < 0) throw new Error('no directory');
  let left = MOST_UNFOLDED;
  let at = archive.readUInt32LE(end + 16);
  for (let entry = 0; entry < archive.readUInt16LE(end + 10); entry += 1) {
    if (archive.readUInt32LE(at) !== DIRECTORY_ENTRY) throw new Error('broken directory');
    const method = archive.readUInt16LE(at + 10);
    const packed = archive.readUInt32LE(at + 20);
    const local = archive.readUInt32LE(at + 42);
    const start = local + 30 + archive.readUInt16LE(local + 26) + archive.readUInt16LE(local + 28);
    if (method !== STORED && method !== DEFLATED) throw new Error('unknown method');
    try {
      const data = archive.subarray(start, start + packed);
      left -=
        method === STORED ? packed : inflateRawSync(data, { maxOutputLength: Math.max(1, left) }).length;
    } catch (error) {
      if (error.code === 'ERR_BUFFER_TOO_LARGE') return false;
      throw error;
    }
    if (left < 0) return false;
    at += 46 + archive.readUInt16LE(at + 28) + archive.readUInt16LE(at + 30) + archive.readUInt16LE(at + 32);
  }
  return true;
}

async function read(bytes) {
  if (!isBearable(bytes)) return { fault: 'too-large' };
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

// Whoever waits for a screen goes first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

workerpool.worker({
  work: ({ task, ...work }) =>
    (task === 'read' ? read(work.bytes) : write(work)).catch(() => ({ fault: 'not-a-spreadsheet' })),
});
