// Which rows of a maker's list are what: the row that names the columns, parameters, groups between them, notes under them, headings
// again on a new page, and lines that go on with the one above. Nothing is passed over without a word.

import { finding, type Finding } from '../findings/index.ts';
import { emptyCells, unguard, type Grid, type GridRow, type Table } from '../values/index.ts';
import { headingTold } from './list-headings.ts';

export interface ListRow {
  readonly line: number;
  readonly cells: Readonly<Record<string, string>>;
  /** Headings whose cell the file itself keeps as a number. */
  readonly numeric: ReadonlySet<string>;
  readonly hidden: boolean;
}

export interface ListTable {
  /** Line of the row that names the columns. */
  readonly headLine: number;
  /** A second column of the same heading is called `Range (2)`, one without a heading `column 5`. */
  readonly columns: readonly string[];
  readonly hiddenColumns: readonly string[];
  readonly rows: readonly ListRow[];
}

/** Rows that are looked at to find the one with the headings. */
const ROWS_SEEN = 40;

/** The row with the most headings that are known, as long as it has two of them; the first one where none has. */
export function headLineOf({ rows }: Grid): number {
  const score = ({ cells }: GridRow) => new Set(cells.flatMap((cell) => headingTold(cell).use ?? [])).size;
  const best = rows
    .slice(0, ROWS_SEEN)
    .reduce<{ line: number; uses: number }>(
      (found, row) => (score(row) > found.uses ? { line: row.line, uses: score(row) } : found),
      { line: rows[0]?.line ?? 1, uses: 1 },
    );
  return best.line;
}

/** The rows under a heading; a second row of headings (`Range` over `Min` and `Max`) belongs to the first. */
export function tableUnder(grid: Grid, headLine: number): ListTable {
  const at = Math.max(
    0,
    grid.rows.findIndex(({ line }) => line === headLine),
  );
  const [head, next] = grid.rows.slice(at);
  const second = next && isSecondHead(head, next) ? next : undefined;
  const body = grid.rows.slice(at + (second ? 2 : 1));
  const wide = Math.max(0, ...[head, second, ...body].map((row) => row?.cells.length ?? 0));
  const names = second ? joined(head, second, wide) : (head?.cells ?? []);
  const used = (place: number) => body.some(({ cells }) => (cells[place] ?? '') !== '');
  const places = Array.from({ length: wide }, (_, place) => place).filter(
    (place) => (names[place] ?? '') !== '' || used(place),
  );
  const columns: string[] = [];
  for (const place of places) {
    const name = (names[place] ?? '').replace(/\s+/g, ' ') || `column ${place + 1}`;
    let unique = name;
    for (let count = 2; columns.includes(unique); count += 1) unique = `${name} (${count})`;
    columns.push(unique);
  }
  const rows = body.map(({ line, cells: own, numbers, hidden }): ListRow => {
    const cells = emptyCells();
    columns.forEach((column, index) => (cells[column] = unguard(own[places[index] ?? -1] ?? '')));
    const numeric = new Set(columns.filter((_, index) => numbers.includes(places[index] ?? -1)));
    return { line, cells, numeric, hidden };
  });
  const hiddenColumns = columns.filter((_, index) => grid.hiddenColumns.includes(places[index] ?? -1));
  return { headLine: head?.line ?? 1, columns, hiddenColumns, rows };
}

/** Rows of a list that comes as objects; the heading has no line of its own. */
export const gridOf = ({ columns, rows }: Table): Grid => ({
  hiddenColumns: [],
  rows: [
    { line: 0, cells: columns, numbers: [], hidden: false },
    ...rows.map(({ line, cells, numeric = [] }) => ({
      ...{ line, cells: columns.map((column) => cells[column] ?? ''), hidden: false },
      numbers: numeric.map((column) => columns.indexOf(column)),
    })),
  ],
});

/** Nothing but words of headings, under columns that a heading above them spans. */
function isSecondHead(head: GridRow | undefined, next: GridRow): boolean {
  const cells = next.cells.filter((cell) => cell !== '');
  const spans = next.cells.some((cell, at) => cell !== '' && (head?.cells[at] ?? '') === '');
  return (
    head !== undefined &&
    next.numbers.length === 0 &&
    cells.length > 0 &&
    spans &&
    cells.every((cell) => headingTold(cell).use !== null || /^[[(].*[\])]$/.test(cell))
  );
}

const VALUES: ReadonlySet<string> = new Set(['minimum', 'maximum', 'default']);

function joined(head: GridRow | undefined, second: GridRow, wide: number): readonly string[] {
  return Array.from({ length: wide }, (_, at) => {
    const own = head?.cells[at] ?? '';
    const below = second.cells[at] ?? '';
    // `Min` under `Range` is a minimum; what stands above says less.
    return VALUES.has(headingTold(below).use ?? '') ? below : [own, below].filter(Boolean).join(' ');
  });
}

export type RowKind =
  | { readonly kind: 'parameter' }
  | { readonly kind: 'group' | 'note'; readonly text: string }
  | { readonly kind: 'heading-again' | 'goes-on' | 'without-code' };

/** What each row is, where the code and the name stand in these columns. */
export function kindsOf({ columns, rows }: ListTable, code: string, name: string): readonly RowKind[] {
  const last = rows.findLastIndex(({ cells }) => cells[code] !== '' && cells[name] !== '');
  const first = rows.findIndex(({ cells }) => cells[code] !== '' && cells[name] !== '');
  const shapes = new Set(
    rows.flatMap(({ cells }) => (cells[code] && cells[name] ? [shapeOf(cells[code] ?? '')] : [])),
  );
  return rows.map(({ cells }, at): RowKind => {
    const filled = columns.filter((column) => (cells[column] ?? '') !== '');
    const texts = filled.map((column) => cells[column] ?? '');
    if (filled.length > 1 && filled.every((column) => isHeading(cells[column] ?? '', column)))
      return { kind: 'heading-again' };
    if (filled.length === 1) {
      const [text = ''] = texts;
      // A code without a name is a parameter that has to be completed, and no group.
      if (filled[0] === code && shapes.has(shapeOf(text))) return { kind: 'parameter' };
      if (at > last || isNote(text)) return { kind: 'note', text: text.replace(/\s+/g, ' ') };
      if (filled[0] === code || filled[0] === name || !GOES_ON.has(headingTold(filled[0] ?? '').use ?? ''))
        return { kind: 'group', text: text.replace(/\s+/g, ' ') };
    }
    if (cells[code] !== '') return { kind: 'parameter' };
    const goesOn = at > first && filled.every((column) => GOES_ON.has(headingTold(column).use ?? ''));
    return { kind: goesOn ? 'goes-on' : 'without-code' };
  });
}

/** `P1-04` and `P2-11` are of one shape. */
const shapeOf = (text: string): string => text.replace(/\d+/g, '9').replace(/\p{L}/gu, 'A');

const isHeading = (text: string, column: string): boolean =>
  text.toLowerCase() === column.toLowerCase().replace(/ \(\d+\)$/, '');

/** Columns whose cells makers write over several lines. */
const GOES_ON: ReadonlySet<string> = new Set(['options', 'bits', 'description']);

/** `* depends on the size`, `1) only with option`, `Note: …`. */
const isNote = (text: string): boolean =>
  /^(?:[*†‡§]+|[¹²³⁴⁵]|\d\)|\(\d\)|note\b|notes\b|hinweis|anmerkung|remarque|nota\b|opmerking)/i.test(text) &&
  text.length > 2;

/** The note that a mark at the end of a cell points to. */
export function noteFor(text: string, kinds: readonly RowKind[]): string | undefined {
  const mark = /(?:[*†‡§]+|[¹²³⁴⁵]|\d\))$/.exec(text.trim())?.[0];
  const found = kinds.find(
    (kind) => kind.kind === 'note' && mark !== undefined && kind.text.startsWith(mark),
  );
  return found?.kind === 'note' ? found.text : undefined;
}

/** Words about rows that are no parameters, and about what a spreadsheet hides. */
export function rowFindings(
  { rows, hiddenColumns }: ListTable,
  kinds: readonly RowKind[],
  codeColumn: string,
): readonly Finding[] {
  const findings: Finding[] = [];
  for (const text of hiddenColumns) findings.push(finding('look', {}, 'column-hidden', { text }));
  rows.forEach(({ line, hidden }, at) => {
    const kind = kinds[at];
    if (hidden) findings.push(finding('look', { line }, 'row-hidden', {}));
    if (kind?.kind === 'group') findings.push(finding('look', { line }, 'row-is-group', { text: kind.text }));
    if (kind?.kind === 'note') findings.push(finding('look', { line }, 'row-is-note', { text: kind.text }));
    if (kind?.kind === 'heading-again') findings.push(finding('look', { line }, 'row-is-heading', {}));
    if (kind?.kind === 'goes-on') findings.push(finding('look', { line }, 'row-goes-on', {}));
    if (kind?.kind === 'without-code')
      findings.push(finding('stop', { line, column: codeColumn }, 'row-without-code', {}));
  });
  return findings;
}
