// Text tables (CSV, RFC 4180) to rows that remember their line, and back. Reads commas or semicolons, with or
// without a byte order mark. What leaves cannot run as a formula when a spreadsheet opens it.

import { parse } from 'csv-parse/browser/esm/sync';
import { stringify } from 'csv-stringify/browser/esm/sync';
import { fail, ok, type Result } from './result.ts';

export interface TableRow {
  /** Line of the file on which the row starts, counted from 1. */
  readonly line: number;
  readonly cells: Readonly<Record<string, string>>;
  /** The first cell beyond the last heading, where such are told. */
  readonly surplus?: string;
}

export interface Table {
  readonly columns: readonly string[];
  readonly rows: readonly TableRow[];
}

export type TableFault =
  | { readonly code: 'table-empty' }
  | { readonly code: 'table-broken'; readonly line: number }
  | { readonly code: 'table-column-twice'; readonly column: string }
  /** A cell beyond the last heading: most often a comma that was meant to stand in a cell. */
  | { readonly code: 'table-surplus'; readonly line: number; readonly text: string };

interface RawRecord {
  readonly record: string[];
  readonly info: { readonly lines: number };
}

/**
 * Reads a table with a heading line. Cells are trimmed; rows whose cells are all empty are passed over, and so are columns
 * at the end that have neither a heading nor a cell, as spreadsheets leave them. Cells beyond the last heading are refused,
 * or told with their row.
 */
export function readTable(text: string, surplus: 'refused' | 'told' = 'refused'): Result<Table, TableFault> {
  // One kind of line end, in cells too: the parser would count a CRLF inside quotation marks as two lines.
  const body = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
  const records = parseRecords(body);
  if (!records.ok) return records;
  const [head, ...rest] = records.value;
  if (!head || head.record.every((cell) => cell.trim() === '')) return fail({ code: 'table-empty' });
  const columns = head.record.map((cell) => cell.trim().toLowerCase());
  const beyond = rest.find((row) => surplusOf(columns, row) !== undefined);
  if (beyond && surplus === 'refused')
    return fail({
      code: 'table-surplus',
      line: lineOf(beyond),
      text: surplusOf(columns, beyond) ?? '',
    });
  while (
    columns.at(-1) === '' &&
    rest.every(({ record }) => (record[columns.length - 1] ?? '').trim() === '')
  )
    columns.pop();
  const twice = columns.find((column, at) => column !== '' && columns.indexOf(column) !== at);
  if (twice !== undefined) return fail({ code: 'table-column-twice', column: twice });
  return ok({ columns, rows: rest.map((row) => toRow(columns, row)).filter((row) => row !== undefined) });
}

function parseRecords(body: string): Result<RawRecord[], TableFault> {
  try {
    const options = { bom: true, info: true, relax_column_count: true, delimiter: delimiterOf(body) };
    return ok(parse(body, options) as unknown as RawRecord[]);
  } catch (error) {
    const line = (error as { lines?: number }).lines;
    return fail({ code: 'table-broken', line: line ?? 1 });
  }
}

/** Spreadsheets of half the world write semicolons: the heading decides. */
function delimiterOf(body: string): ',' | ';' | '\t' {
  const head = body.slice(0, body.search(/[\r\n]|$/));
  const count = (mark: string) => head.split(mark).length;
  if (count(';') > count(',')) return ';';
  return count('\t') > count(',') ? '\t' : ',';
}

const surplusOf = (columns: readonly string[], { record }: RawRecord): string | undefined =>
  record
    .slice(columns.length)
    .find((cell) => cell.trim() !== '')
    ?.trim();

/** The line on which a record starts; the parser tells the one on which it ends. */
function lineOf({ record, info }: RawRecord): number {
  const breaks = record.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0);
  return info.lines - breaks;
}

function toRow(columns: readonly string[], row: RawRecord): TableRow | undefined {
  const { record } = row;
  if (record.every((cell) => cell.trim() === '')) return undefined;
  const cells: Record<string, string> = {};
  columns.forEach((column, at) => {
    if (column !== '') cells[column] = unguard((record[at] ?? '').trim());
  });
  const surplus = surplusOf(columns, row);
  return { line: lineOf(row), cells, ...(surplus === undefined ? {} : { surplus }) };
}

/** A list of objects in JSON, or a document with one list in it, as a table; the place in the list stands for the line. */
export function tableFromJson(text: string): Result<Table, TableFault> {
  let source: unknown;
  try {
    source = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    return fail({ code: 'table-broken', line: 1 });
  }
  const list = Array.isArray(source) ? source : Object.values(source ?? {}).find(Array.isArray);
  const items = ((list ?? []) as unknown[]).filter(
    (item): item is Record<string, unknown> =>
      typeof item === 'object' && item !== null && !Array.isArray(item),
  );
  if (items.length === 0) return fail({ code: 'table-empty' });
  const columns = [
    ...new Set(items.flatMap((item) => Object.keys(item).map((key) => key.trim().toLowerCase()))),
  ];
  const rows = items.map((item, at) => {
    const entries = Object.entries(item).map(([key, value]) => [key.trim().toLowerCase(), plainText(value)]);
    return { line: at + 1, cells: Object.fromEntries(entries) as Record<string, string> };
  });
  return ok({ columns, rows });
}

function plainText(value: unknown): string {
  if (typeof value === 'string') return value.trim();
  return typeof value === 'number' || typeof value === 'boolean' ? String(value) : '';
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

const unguard = (cell: string): string =>
  cell.startsWith("'") && (isFormula(cell.slice(1)) || cell.startsWith("''")) ? cell.slice(1) : cell;
