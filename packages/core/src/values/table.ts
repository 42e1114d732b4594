// Text tables (CSV, RFC 4180) to rows that remember their line, and back. Reads commas or semicolons, with or
// without a byte order mark. What leaves cannot run as a formula when a spreadsheet opens it.

import { stringify } from 'csv-stringify/browser/esm/sync';
import { readGrid, type Grid, type GridFault, type GridRow } from './grid.ts';
import { fail, ok, type Result } from './result.ts';

export interface TableRow {
  /** Line of the file on which the row starts, counted from 1. */
  readonly line: number;
  readonly cells: Readonly<Record<string, string>>;
  /** Columns whose cell the file itself keeps as a number. */
  readonly numeric?: readonly string[];
  /** The first cell beyond the last heading, where such are told. */
  readonly surplus?: string;
}

export interface Table {
  readonly columns: readonly string[];
  readonly rows: readonly TableRow[];
}

export type TableFault =
  | GridFault
  | { readonly code: 'table-column-twice'; readonly column: string }
  /** JSON that is more, or something else, than a list of objects with plain values. */
  | { readonly code: 'json-odd'; readonly line: number; readonly text: string }
  /** A cell beyond the last heading: most often a comma that was meant to stand in a cell. */
  | { readonly code: 'table-surplus'; readonly line: number; readonly text: string };

/**
 * Reads a table with a heading line. Cells are trimmed; rows whose cells are all empty are passed over, and so are columns
 * at the end that have neither a heading nor a cell, as spreadsheets leave them. Cells beyond the last heading are refused,
 * or told with their row.
 */
export function readTable(text: string, surplus: 'refused' | 'told' = 'refused'): Result<Table, TableFault> {
  const grid = readGrid(text);
  return grid.ok ? tableOf(grid.value, surplus) : grid;
}

/** A grid whose first row names the columns, in small letters. */
export function tableOf(
  { rows: [head, ...rest] }: Grid,
  surplus: 'refused' | 'told' = 'refused',
): Result<Table, TableFault> {
  if (!head) return fail({ code: 'table-empty' });
  const columns = head.cells.map((cell) => cell.trim().toLowerCase());
  const beyond = rest.find((row) => surplusOf(columns, row) !== undefined);
  if (beyond && surplus === 'refused')
    return fail({ code: 'table-surplus', line: beyond.line, text: surplusOf(columns, beyond) ?? '' });
  while (columns.at(-1) === '' && rest.every(({ cells }) => (cells[columns.length - 1] ?? '') === ''))
    columns.pop();
  const twice = columns.find((column, at) => column !== '' && columns.indexOf(column) !== at);
  if (twice !== undefined) return fail({ code: 'table-column-twice', column: twice });
  // What stands under no heading has no name by which it could be told or used.
  const nameless = rest.find(({ cells }) => columns.some((column, at) => column === '' && cells[at]));
  const under = nameless?.cells.find((cell, at) => columns[at] === '' && cell !== '') ?? '';
  if (nameless && surplus === 'refused')
    return fail({ code: 'table-surplus', line: nameless.line, text: under });
  return ok({ columns, rows: rest.map((row) => toRow(columns, row)) });
}

const surplusOf = (columns: readonly string[], { cells }: GridRow): string | undefined =>
  cells.slice(columns.length).find((cell) => cell !== '');

function toRow(columns: readonly string[], row: GridRow): TableRow {
  const cells = emptyCells();
  columns.forEach((column, at) => {
    if (column !== '') cells[column] = unguard(row.cells[at] ?? '');
  });
  const numeric = row.numbers.flatMap((at) => columns[at] || []);
  const surplus = surplusOf(columns, row);
  return {
    ...{ line: row.line, cells },
    ...(numeric.length > 0 ? { numeric } : {}),
    ...(surplus === undefined ? {} : { surplus }),
  };
}

/** Cells by heading. A heading may be called like something that every object has, and is a heading all the same. */
export const emptyCells = (): Record<string, string> => Object.create(null) as Record<string, string>;

/**
 * A list of objects in JSON, or a document with one list of objects in it, as a table; the place in the list stands for the line.
 * Anything else in it (a second list, an item that is no object, a value that is a list) is a fault that names it.
 */
export function tableFromJson(text: string): Result<Table, TableFault> {
  let source: unknown;
  try {
    source = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    return fail({ code: 'table-broken', line: 1 });
  }
  const lists = Array.isArray(source) ? [source] : Object.values(source ?? {}).filter(Array.isArray);
  const [list = [], another] = lists as unknown[][];
  if (another) return fail({ code: 'json-odd', line: 1, text: 'There are several lists in it' });
  if (list.length === 0) return fail({ code: 'table-empty' });
  const rows: TableRow[] = [];
  const columns = new Set<string>();
  for (const [at, item] of list.entries()) {
    const line = at + 1;
    const odd = (what: string) => fail({ code: 'json-odd' as const, line, text: what });
    if (typeof item !== 'object' || item === null || Array.isArray(item))
      return odd(`Item ${line} is no object`);
    const cells = emptyCells();
    const numeric: string[] = [];
    for (const [key, value] of Object.entries(item)) {
      const column = key.trim().toLowerCase();
      if (column in cells) return odd(`Item ${line} has "${column}" twice`);
      if (typeof value === 'object' && value !== null)
        return odd(`Item ${line} has a list or an object under "${key}"`);
      if (typeof value === 'number') numeric.push(column);
      cells[column] = value === null ? '' : String(value).trim();
      columns.add(column);
    }
    rows.push({ line, cells, ...(numeric.length > 0 ? { numeric } : {}) });
  }
  return ok({ columns: [...columns], rows });
}

/** Writes a table with CRLF line ends, as the RFC has them. */
export function writeTable(columns: readonly string[], rows: readonly (readonly string[])[]): string {
  const guarded = rows.map((row) => row.map(guard));
  return stringify([[...columns], ...guarded], { record_delimiter: 'windows', quoted_match: /[\r\n]/ });
}

const PLAIN_NUMBER = /^[+-]?\d+(\.\d+)?$/;

/** True for a cell that a spreadsheet would run. A plain negative number is none. */
export const isFormula = (cell: string): boolean => /^[=+\-@\t\r]/.test(cell) && !PLAIN_NUMBER.test(cell);

const guard = (cell: string): string => (isFormula(cell) || cell.startsWith("'") ? `'${cell}` : cell);

/** Takes off the apostrophe with which a cell left that a spreadsheet would have run. */
export const unguard = (cell: string): string =>
  cell.startsWith("'") && (isFormula(cell.slice(1)) || cell.startsWith("''")) ? cell.slice(1) : cell;
