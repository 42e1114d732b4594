// Spreadsheets (XLSX) to tables and back, in a process with bounded memory and time.

import { fileURLToPath } from 'node:url';
import { fail, ok, type Result, type Table } from '@drive-keep/core/values';
import { inOwnProcess, type Bounds } from './own-process.ts';

const PROGRAM = fileURLToPath(new URL('../../workers/sheet-process.mjs', import.meta.url));
/** A set of 2000 parameters needs some 60 MB; what needs more is no parameter list. */
const BOUNDS: Bounds = { memoryMb: 256, ms: 20_000 };

export type SheetFault = 'not-a-spreadsheet' | 'no-sheet' | 'too-large' | 'empty';

export interface SheetToWrite {
  readonly name: string;
  readonly columns: readonly { readonly heading: string; readonly width: number }[];
  readonly rows: readonly (readonly string[])[];
}

interface Answer {
  readonly fault?: SheetFault;
  readonly bytes?: Uint8Array;
  readonly rows?: readonly { readonly line: number; readonly cells: readonly string[] }[];
}

/** The first visible sheet. Its first row that is not empty names the columns. */
export async function readSheet(bytes: Uint8Array): Promise<Result<Table, SheetFault>> {
  const { rows = [], fault } = await inProcess({ task: 'read', bytes });
  if (fault) return fail(fault);
  const [head, ...rest] = rows;
  if (!head) return fail('empty');
  const columns = head.cells.map((cell) => cell.trim().toLowerCase());
  return ok({
    columns,
    rows: rest.map(({ line, cells }) => ({
      line,
      cells: Object.fromEntries(
        columns.flatMap((column, at) => (column === '' ? [] : [[column, (cells[at] ?? '').trim()]])),
      ),
    })),
  });
}

export async function writeSheets(sheets: readonly SheetToWrite[]): Promise<Uint8Array> {
  const { bytes } = await inProcess({ task: 'write', sheets });
  if (!bytes) throw new Error('the spreadsheet could not be written');
  return bytes;
}

/** XLSX files are ZIP archives. */
export const isSpreadsheet = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04;

/** Out of memory or time: it has ended without an answer. */
const inProcess = async (task: object): Promise<Answer> =>
  (await inOwnProcess<Answer>(PROGRAM, task, BOUNDS)) ?? { fault: 'too-large' };

const FAULTS: Readonly<Record<SheetFault, string>> = {
  'not-a-spreadsheet': 'The file is damaged or no XLSX spreadsheet. Save it again as XLSX or as "CSV UTF-8".',
  'no-sheet': 'The spreadsheet has no sheet.',
  'too-large': 'The spreadsheet is too large to be a list of parameters. Keep only the sheet with the list.',
  empty: 'The first sheet is empty. The first row names the columns.',
};

export const describeSheetFault = (fault: SheetFault): string => `${FAULTS[fault]} Nothing was kept.`;
