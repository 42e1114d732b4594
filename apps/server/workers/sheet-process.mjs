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

/** Sheets of a workbook that anybody looks at. */
const MOST_SHEETS = 50;

/** A number as it was typed: binary fractions show in the 16th digit and are cut off there. */
const showNumber = (value) =>
  Number.isInteger(value) ? String(value) : plainDigits(Number(value.toPrecision(15)));

/** Without an exponent, as people write small numbers. */
const plainDigits = (value) =>
  /e/.test(String(value)) ? value.toFixed(15).replace(/\.?0+$/, '') : String(value);

/**
 * What the format of a cell says of its number (ECMA-376, 18.8.30): percent, places that are always shown, zeros in front, a unit in
 * quotation marks. A format that would hide digits hides nothing here.
 */
function formatted(value, format) {
  const [positive = ''] = (format ?? '').split(';');
  const bare = positive.replace(/\[[^\]]*\]/g, '').replace(/[_*]./g, '');
  const words = [...bare.matchAll(/"([^"]*)"|\\(.)/g)].map(([, quoted, one]) => quoted ?? one).join('');
  const code = bare.replace(/"[^"]*"|\\./g, '');
  if (format === undefined || /general|@|e[+-]/i.test(code) || !/[0#?]/.test(code))
    return { text: showNumber(value), number: true };
  const percent = code.includes('%');
  const shown = percent ? Number((value * 100).toPrecision(15)) : value;
  const places = (/\.(0+)/.exec(code)?.[1] ?? '').length;
  const zeros = (/(0+)(?:\.|%|$|[^0#?,.])/.exec(code.split('.')[0] + '.')?.[1] ?? '').length;
  const digits = showNumber(shown);
  const [whole = '', fraction = ''] = digits.replace('-', '').split('.');
  const padded = `${shown < 0 ? '-' : ''}${whole.padStart(zeros, '0')}`;
  const text =
    fraction.length >= places
      ? padded + (fraction && `.${fraction}`)
      : `${padded}.${fraction.padEnd(places, '0')}`;
  const unit = percent ? '%' : words.trim();
  // Zeros in front and a unit are part of what people see: the cell is a text for whoever reads it.
  return { text: `${text} ${unit}`.trim(), number: unit === '' && (zeros < 2 || whole.length >= zeros) };
}

/** The text of a cell. A formula comes as a formula and a date as a date, so that nobody takes them for what was meant. */
function cellText(value, format) {
  const text = (told) => ({ text: String(told).slice(0, MOST_CELL), number: false });
  if (value === null || value === undefined) return text('');
  if (typeof value === 'number') return formatted(value, format);
  if (typeof value === 'string' || typeof value === 'boolean') return text(value);
  if (value instanceof Date) return text(Number.isNaN(value.getTime()) ? '#DATE' : value.toISOString());
  if ('formula' in value || 'sharedFormula' in value) return text(`=${value.formula ?? value.sharedFormula}`);
  if ('richText' in value) return text(value.richText.map(({ text: each }) => each).join(''));
  if ('text' in value) return cellText(value.text, format);
  return text('error' in value ? value.error : '');
}

const END_OF_DIRECTORY = 0x06054b50;
const DIRECTORY_ENTRY = 0x02014b50;
const STORED = 0;
const DEFLATED = 8;

/**
 * Whether all entries of the archive (PKWARE APPNOTE 4.3) together unfold to no more than is bearable, and what they are called.
 * What the headers claim is not believed: every entry is unfolded once, and given up as soon as it is too much.
 */
function isBearable(bytes) {
  const archive = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = archive.length - 22;
  while (end >= 0 && archive.readUInt32LE(end) !== END_OF_DIRECTORY) end -= 1;
  if (end < 0) throw new Error('no directory');
  let left = MOST_UNFOLDED;
  const names = [];
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
      if (error.code === 'ERR_BUFFER_TOO_LARGE') return { ok: false, names };
      throw error;
    }
    if (left < 0) return { ok: false, names };
    names.push(archive.toString('utf8', at + 46, at + 46 + archive.readUInt16LE(at + 28)));
    at += 46 + archive.readUInt16LE(at + 28) + archive.readUInt16LE(at + 30) + archive.readUInt16LE(at + 32);
  }
  return { ok: true, names };
}

/** What the names in a ZIP archive say of the program that made it. */
function foreign(names) {
  if (names.some((name) => name.startsWith('xl/'))) return undefined;
  if (names.some((name) => name.startsWith('word/'))) return 'word';
  return names.includes('content.xml') || names.includes('mimetype') ? 'open-document' : 'foreign-zip';
}

async function read(bytes) {
  const bearable = isBearable(bytes);
  if (!bearable.ok) return { fault: 'too-large' };
  const strange = foreign(bearable.names);
  if (strange) return { fault: strange };
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.load(bytes);
  const sheets = [];
  for (const sheet of workbook.worksheets.slice(0, MOST_SHEETS)) {
    const told = readSheet(sheet);
    if (told.fault && sheet.state === 'visible') return told;
    if (!told.fault) sheets.push({ name: sheet.name, hidden: sheet.state !== 'visible', ...told });
  }
  return sheets.length === 0 ? { fault: 'no-sheet' } : { sheets };
}

function readSheet(sheet) {
  const rows = [];
  const far = [];
  let cellsFar = 0;
  sheet.eachRow({ includeEmpty: false }, (row, line) => {
    const cells = [];
    const numbers = [];
    row.eachCell({ includeEmpty: false }, (cell, at) => {
      // Of cells that are joined the first one has the text.
      if (cell.isMerged && cell.master !== cell) return;
      const { text, number } = cellText(cell.value, cell.numFmt);
      if (text.trim() === '') return;
      if (at > MOST_COLUMNS || line > MOST_ROWS) {
        cellsFar += 1;
        far.push(cell.address);
        if (far.length > 3) far.length = 3;
        return;
      }
      cells[at - 1] = text;
      if (number) numbers.push(at - 1);
    });
    if (cells.length > 0)
      rows.push({
        line,
        cells: Array.from(cells, (cell) => (cell ?? '').trim()),
        numbers,
        hidden: row.hidden,
      });
  });
  if (cellsFar > 3) return { fault: 'too-large' };
  if (cellsFar > 0) return { fault: 'stray-cell', cells: far };
  const wide = Math.max(0, ...rows.map(({ cells }) => cells.length));
  const hiddenColumns = Array.from({ length: wide }, (_, at) => at).filter(
    (at) => sheet.getColumn(at + 1).hidden,
  );
  return { rows, hiddenColumns };
}

/** Numbers are numbers where the column says so and nothing is lost by it; everything else is text, codes above all. */
function typed(cell, numeric) {
  if (!numeric || !/^-?\d{1,15}(?:\.\d+)?$/.test(cell) || /^-?0\d/.test(cell))
    return { value: cell, format: '@' };
  const places = (/\.(\d+)$/.exec(cell)?.[1] ?? '').length;
  return { value: Number(cell), format: places === 0 ? '0' : `0.${'0'.repeat(places)}` };
}

async function write({ sheets }) {
  const workbook = new ExcelJS.Workbook();
  for (const { name, columns, rows } of sheets) {
    const sheet = workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.columns = columns.map(({ heading, width }) => ({ header: heading, width, style: { numFmt: '@' } }));
    sheet.getRow(1).font = { bold: true };
    for (const cells of rows) {
      const row = sheet.addRow([]);
      cells.forEach((cell, at) => {
        const { value, format } = typed(cell, columns[at]?.numeric === true);
        const place = row.getCell(at + 1);
        if (value !== '') place.value = value;
        place.numFmt = format;
      });
    }
  }
  return { bytes: new Uint8Array(await workbook.xlsx.writeBuffer()) };
}

// Whoever waits for a screen goes first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

workerpool.worker({
  work: ({ task, ...work }) =>
    (task === 'read' ? read(work.bytes) : write(work)).catch(() => ({ fault: 'not-a-spreadsheet' })),
});
