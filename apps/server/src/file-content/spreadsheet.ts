// Spreadsheets (XLSX) to grids and back, in a process with bounded memory and time.

import { fileURLToPath } from 'node:url';
import { fail, ok, type Grid, type Result } from '@drive-keep/core/values';
import { inOwnProcess, type Bounds } from './own-process.ts';

const PROGRAM = fileURLToPath(new URL('../../workers/sheet-process.mjs', import.meta.url));
/** A set of 2000 parameters needs some 60 MB; what needs more is no parameter list. */
const BOUNDS: Bounds = { memoryMb: 256, ms: 20_000 };

export type SheetFault =
  | 'not-a-spreadsheet'
  | 'no-sheet'
  | 'too-large'
  | 'empty'
  | 'stray-cell'
  | 'word'
  | 'open-document'
  | 'foreign-zip';

export interface SheetToWrite {
  readonly name: string;
  readonly columns: readonly {
    readonly heading: string;
    readonly width: number;
    /** Cells of it that are numbers are written as such; all others are text. */
    readonly numeric?: boolean;
  }[];
  readonly rows: readonly (readonly string[])[];
}

export interface Sheet extends Grid {
  readonly name: string;
  readonly hidden: boolean;
}

interface Answer {
  readonly fault?: SheetFault;
  /** Addresses of cells far from all others. */
  readonly cells?: readonly string[];
  readonly bytes?: Uint8Array;
  readonly sheets?: readonly Sheet[];
}

export interface SheetProblem {
  readonly fault: SheetFault;
  readonly cells: readonly string[];
}

/** All sheets, those that are hidden too; at least one of them has a cell. */
export async function readSheets(bytes: Uint8Array): Promise<Result<readonly Sheet[], SheetProblem>> {
  const { sheets = [], fault, cells = [] } = await inProcess({ task: 'read', bytes });
  if (fault) return fail({ fault, cells });
  return sheets.some(({ rows }) => rows.length > 0) ? ok(sheets) : fail({ fault: 'empty', cells });
}

/** The first sheet that is shown and has rows, or the one of that name. */
export const sheetNamed = (sheets: readonly Sheet[], name?: string): Sheet | undefined =>
  sheets.find((sheet) => sheet.name === name) ??
  sheets.find(({ hidden, rows }) => !hidden && rows.length > 0) ??
  sheets.find(({ rows }) => rows.length > 0);

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
  empty: 'The spreadsheet is empty.',
  'stray-cell': 'The spreadsheet is far too wide or long because of single cells. Empty them:',
  word: 'The file is a text document and no spreadsheet. Copy the table into a spreadsheet, and save it as XLSX.',
  'open-document': 'The file is an OpenDocument file. Save it as XLSX or as "CSV UTF-8".',
  'foreign-zip': 'The file is a ZIP archive and no spreadsheet. Take the list out of it first.',
};

export const describeSheetFault = ({ fault, cells }: SheetProblem): string =>
  `${[FAULTS[fault], cells.length > 0 ? `${cells.join(', ')}.` : ''].filter(Boolean).join(' ')} Nothing was kept.`;
