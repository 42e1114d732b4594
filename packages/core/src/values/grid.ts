// A table before anybody knows which row names its columns: rows with the line they stand on, cells as they came. Text (CSV) with
// commas, semicolons, tabs or bars; sheets of a spreadsheet come in the same shape.

import { parse } from 'csv-parse/browser/esm/sync';
import { fail, ok, type Result } from './result.ts';

export interface GridRow {
  /** Line of the file on which the row starts, counted from 1. */
  readonly line: number;
  readonly cells: readonly string[];
  /** Places of cells that the file itself keeps as numbers: they have a point, whatever people write with. */
  readonly numbers: readonly number[];
  readonly hidden: boolean;
}

export interface Grid {
  /** Rows whose cells are all empty are not among them. */
  readonly rows: readonly GridRow[];
  readonly hiddenColumns: readonly number[];
}

export type GridFault =
  | { readonly code: 'table-empty' }
  /** A quotation mark is opened on this line, and not closed where it should be. */
  | { readonly code: 'table-broken'; readonly line: number };

interface RawRecord {
  readonly record: string[];
  readonly info: { readonly lines: number };
}

const DELIMITERS = [';', '\t', ',', '|'] as const;
type Delimiter = (typeof DELIMITERS)[number];

/** Reads CSV (RFC 4180); cells are trimmed. A first line `sep=;`, as a spreadsheet program leaves it, names the delimiter. */
export function readGrid(text: string): Result<Grid, GridFault> {
  // One kind of line end, in cells too: the parser would count a CRLF inside quotation marks as two lines.
  const body = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
  const said = /^sep=([;,|\t])\n?/i.exec(body);
  // The line stays as an empty one, so that the others keep their numbers.
  const rest = said ? body.replace(/^[^\n]*/, '') : body;
  const records = parseRecords(rest, (said?.[1] as Delimiter | undefined) ?? delimiterOf(rest));
  if (!records.ok) return records;
  const rows = records.value
    .filter(({ record }) => record.some((cell) => cell.trim() !== ''))
    .map((row) => ({
      ...{ line: lineOf(row), cells: row.record.map((cell) => cell.trim()) },
      ...{ numbers: [], hidden: false },
    }));
  return rows.length === 0 ? fail({ code: 'table-empty' }) : ok({ rows, hiddenColumns: [] });
}

function parseRecords(body: string, delimiter: Delimiter): Result<RawRecord[], GridFault> {
  try {
    const options = { bom: true, info: true, relax_column_count: true, delimiter };
    return ok(parse(body, options) as unknown as RawRecord[]);
  } catch {
    return fail({ code: 'table-broken', line: openQuotation(body, delimiter) });
  }
}

/** The line of the quotation mark that is not closed where a cell ends; the parser tells the last line that it saw. */
function openQuotation(body: string, delimiter: Delimiter): number {
  let opened = 1;
  let line = 1;
  let inside = false;
  for (let at = 0; at < body.length; at += 1) {
    const mark = body[at];
    if (mark === '\n') line += 1;
    if (mark !== '"') continue;
    const before = at === 0 ? '\n' : body[at - 1];
    const after = body[at + 1] ?? '\n';
    if (!inside) {
      if (before !== '\n' && before !== delimiter) return line;
      [inside, opened] = [true, line];
    } else if (after === '"') at += 1;
    else if (after === '\n' || after === delimiter) inside = false;
    else return opened;
  }
  return opened;
}

/** Lines that are looked at to find the delimiter. */
const LINES_SEEN = 60;

/**
 * The mark that stands equally often on the most lines: titles and notes around a table have another count of it, and a mark that
 * stands in cells another count on each line.
 */
function delimiterOf(body: string): Delimiter {
  // What stands in quotation marks separates nothing.
  const lines = body
    .slice(0, 200_000)
    .replace(/"(?:[^"]|"")*"/g, '""')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .slice(0, LINES_SEEN);
  const alike = (mark: Delimiter): number => {
    const counts = new Map<number, number>();
    for (const line of lines) {
      const marks = line.split(mark).length - 1;
      if (marks > 0) counts.set(marks, (counts.get(marks) ?? 0) + 1);
    }
    return Math.max(0, ...counts.values());
  };
  // A heading decides where lines disagree, as one with commas in its values.
  const head = lines[0] ?? '';
  const score = (mark: Delimiter) => alike(mark) * 2 + (head.includes(mark) ? 1 : 0);
  return DELIMITERS.reduce<Delimiter>((best, mark) => (score(mark) > score(best) ? mark : best), ',');
}

/** The line on which a record starts; the parser tells the one on which it ends. */
function lineOf({ record, info }: RawRecord): number {
  const breaks = record.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0);
  return info.lines - breaks;
}
