// A file as it was uploaded: a spreadsheet, or text. Text is UTF-8, or UTF-16 with its mark; what is neither may be read as Latin-1
// where somebody says so, as a wrong guess would change texts without anybody noticing.

import { tableOf, type Result, type Table, type TableFault, readTable } from '@drive-keep/core/values';
import { finding, type Finding } from '@drive-keep/core/findings';
import { ProblemException } from '../problems/problem.ts';
import { describeSheetFault, isSpreadsheet, readSheets, sheetNamed, type Sheet } from './spreadsheet.ts';

export interface UploadedFile {
  readonly originalname: string;
  readonly buffer: Buffer;
  /** As which a text that is no UTF-8 is read. */
  readonly readAs?: TextEncoding;
}

export const TEXT_ENCODINGS = ['latin-1'] as const;
export type TextEncoding = (typeof TEXT_ENCODINGS)[number];

export type FileContent =
  | { readonly kind: 'sheets'; readonly sheets: readonly Sheet[] }
  | { readonly kind: 'text'; readonly text: string };

/** A set or dictionary of 2000 parameters is below 1 MB; everything near this limit is another kind of file. */
export const MOST_BYTES = 5_000_000;

export async function contentOf({ buffer, readAs }: UploadedFile): Promise<FileContent> {
  refuseByFirstBytes(buffer);
  if (!isSpreadsheet(buffer)) return { kind: 'text', text: decode(buffer, readAs) };
  const sheets = await readSheets(buffer);
  if (sheets.ok) return { kind: 'sheets', sheets: sheets.value };
  throw new ProblemException(422, 'spreadsheet', describeSheetFault(sheets.fault));
}

/** A table with its own headings, for importers that need them exactly: of a spreadsheet the first sheet that is shown. */
export async function tableFrom(
  file: UploadedFile,
  known: readonly string[] = [],
): Promise<{ readonly table: Result<Table, TableFault>; readonly notes: readonly Finding[] }> {
  const content = await contentOf(file);
  if (content.kind === 'text') return { table: readTable(content.text), notes: [] };
  const sheet = sheetNamed(content.sheets);
  if (!sheet) return { table: { ok: false, fault: { code: 'table-empty' } }, notes: [] };
  return { table: tableOf(sheet), notes: sheetNotes(content.sheets, sheet, known) };
}

/** What a spreadsheet hides, and which of its sheets were not read; `known` are those that say nothing of their own. */
export function sheetNotes(
  sheets: readonly Sheet[],
  read: Sheet,
  known: readonly string[] = [],
): readonly Finding[] {
  const others = sheets
    .filter((sheet) => sheet !== read && sheet.rows.length > 0 && !known.includes(sheet.name))
    .map(({ name }) => name);
  const [head] = read.rows;
  return [
    ...(others.length > 0
      ? [finding('look', {}, 'sheets-not-read', { read: read.name, sheets: others })]
      : []),
    ...read.hiddenColumns.map((at) =>
      finding('look', {}, 'column-hidden', { text: head?.cells[at] || `column ${at + 1}` }),
    ),
    ...read.rows.flatMap(({ line, hidden }) => (hidden ? [finding('look', { line }, 'row-hidden', {})] : [])),
  ];
}

/** Compound files (MS-CFB): spreadsheets of before 2007, and newer ones behind a password. */
const COMPOUND = Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]);
const ENCRYPTED = Buffer.from('EncryptedPackage', 'utf16le');

function refuseByFirstBytes(buffer: Buffer): void {
  const refuse = (detail: string): never => {
    throw new ProblemException(422, 'file-kind', `${detail} Nothing was kept.`);
  };
  if (buffer.length === 0) refuse('The file is empty.');
  if (buffer.subarray(0, 8).equals(COMPOUND)) {
    if (buffer.includes(ENCRYPTED))
      refuse('The spreadsheet is encrypted with a password. Save it without one.');
    refuse('The file is an old spreadsheet (XLS). Save it as XLSX or as "CSV UTF-8".');
  }
  if (buffer.subarray(0, 5).toString('latin1') === '%PDF-')
    refuse('The file is a PDF. Copy the table into a spreadsheet, and save it as XLSX.');
}

function decode(bytes: Buffer, wanted: TextEncoding | undefined): string {
  const [first, second] = bytes;
  const encoding =
    first === 0xff && second === 0xfe ? 'utf-16le' : first === 0xfe && second === 0xff ? 'utf-16be' : 'utf-8';
  const zeros = bytes.subarray(0, 4096).includes(0);
  try {
    const text = new TextDecoder(encoding, { fatal: true }).decode(bytes);
    if (!text.includes('\u0000')) return text;
  } catch {
    // What that means is said below.
  }
  if (zeros || encoding !== 'utf-8') {
    const detail = 'The file is no text and no spreadsheet. Save the list as XLSX or as "CSV UTF-8".';
    throw new ProblemException(422, 'file-kind', `${detail} Nothing was kept.`);
  }
  // Latin-1 as programs write it: with the signs of windows-1252 where the standard has none.
  const text = new TextDecoder('windows-1252').decode(bytes);
  if (wanted === 'latin-1') return text;
  const seen = [...new Set(text.match(/[^\s;,"]*[\u0080-\u{10ffff}][^\s;,"]*/gu) ?? [])]
    .slice(0, 5)
    .join(', ');
  throw new ProblemException(
    422,
    'encoding',
    `The file is not text in UTF-8. Read as Latin-1 (Western Europe) it has words such as: ${seen}. If they are right, read it so; otherwise save it as "CSV UTF-8". Nothing was kept.`,
  );
}

export function givenFile(file: UploadedFile | undefined, what: string): UploadedFile {
  if (file) return file;
  throw new ProblemException(400, 'file-missing', `No file was sent. Choose ${what}.`);
}
