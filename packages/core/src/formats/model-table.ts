// A maker's parameter list as a table with headings of its own: which row names the columns and which column holds what is guessed,
// corrected by a person, and then taken apart cell by cell into the catalogue's columns.

import { PARAMETER_COLUMNS, type Access } from '../dictionary/index.ts';
import { finding, type Finding } from '../findings/index.ts';
import { cutZeros, type Grid, type Table } from '../values/index.ts';
import { headingTold, type ColumnUse } from './list-headings.ts';
import { markOf, type DecimalMark } from './list-number.ts';
import { readListRow } from './list-parameter.ts';
import type { ListReading } from './list-row-cells.ts';
import {
  headLineOf,
  kindsOf,
  noteFor,
  rowFindings,
  tableUnder,
  type ListRow,
  type ListTable,
} from './list-rows.ts';
import type { OwnParameter } from './own-model.ts';

/** Use by heading; a heading that is not there is left out. */
export type ColumnAssignment = ReadonlyMap<string, ColumnUse>;

/** What a person says of a list; what is missing is guessed. */
export interface ListWish {
  readonly headLine?: number;
  readonly assignment?: ColumnAssignment;
  readonly mark?: DecimalMark;
  /** Lines that are no parameters. */
  readonly leftOut?: ReadonlySet<number>;
  /** Cells in other words, by line and heading. */
  readonly mended?: ReadonlyMap<number, ReadonlyMap<string, string>>;
  /** What words in the column of the access mean here. */
  readonly access?: ReadonlyMap<string, Access>;
}

/** A row as it was understood, and whether it can be taken in. */
export interface ListParameter extends OwnParameter {
  readonly stopped: boolean;
}

export interface UnderstoodList {
  readonly table: ListTable;
  readonly assignment: ColumnAssignment;
  readonly mark: DecimalMark;
  readonly parameters: readonly ListParameter[];
  readonly findings: readonly Finding[];
  /** Words of the access that somebody has to explain, with the number of their rows. */
  readonly accessAsked: ReadonlyMap<string, number>;
}

/** The likely use of each column by its heading, each use once: what can be one thing alone comes first. */
export function guessColumns({ columns }: Pick<ListTable, 'columns'>): ColumnAssignment {
  const assignment = new Map<string, ColumnUse>();
  const taken = new Set<ColumnUse>();
  const told = columns.map((column) => ({ column, uses: headingTold(column.replace(/ \(\d+\)$/, '')).uses }));
  for (const { column, uses } of [...told].sort((a, b) => a.uses.length - b.uses.length)) {
    const use = uses.find((each) => !taken.has(each));
    if (use === undefined) continue;
    assignment.set(column, use);
    taken.add(use);
  }
  // A list of codes with a column that says what each does has its names there.
  const described = columns.find((column) => assignment.get(column) === 'description');
  if (described !== undefined && !taken.has('name')) assignment.set(described, 'name');
  return new Map(
    columns.flatMap((column) => {
      const use = assignment.get(column);
      return use === undefined ? [] : [[column, use] as const];
    }),
  );
}

/** Tables with the catalogue's own columns need no assistant. */
export const isCatalogueTable = ({ columns }: Pick<Table, 'columns'>): boolean =>
  PARAMETER_COLUMNS.every((column) => columns.includes(column));

/** The catalogue's columns from the user's, row by row, with all that is not understood. */
export function understandList(grid: Grid, wish: ListWish): UnderstoodList {
  const table = mended(tableUnder(grid, wish.headLine ?? headLineOf(grid)), wish);
  const assignment = wish.assignment ?? guessColumns(table);
  const told = markOf(numbersOf(table, assignment));
  const mark = wish.mark ?? told.mark;
  const headings = new Map([...assignment].map(([heading, use]) => [use, heading]));
  const [code, name] = [headings.get('code'), headings.get('name')];
  const base = { table, assignment, mark };
  if (code === undefined || name === undefined) {
    const findings = [finding('stop', { line: table.headLine }, 'columns-not-said', {})];
    return { ...base, parameters: [], findings, accessAsked: new Map() };
  }
  const kinds = kindsOf(table, code, name);
  const findings = [
    ...columnFindings(table, assignment),
    ...(wish.mark === undefined && !told.sure
      ? [finding('stop', { line: table.headLine }, 'mark-unclear', {})]
      : []),
    ...rowFindings(table, kinds, code),
  ];
  const reading: ListReading = {
    columns: new Map(
      [...headings].map(([use, heading]) => [
        use,
        { heading, told: headingTold(heading.replace(/ \(\d+\)$/, '')) },
      ]),
    ),
    mark,
    codes: new Set(table.rows.map(({ cells }) => cells[code] ?? '')),
    access: wish.access ?? new Map(),
  };
  const parameters: ListParameter[] = [];
  const accessAsked = new Map<string, number>();
  let group = '';
  goneOn(table.rows, kinds, headings).forEach((row, at) => {
    const kind = kinds[at];
    if (kind?.kind === 'group') group = kind.text;
    if (kind?.kind !== 'parameter') return;
    const read = readListRow(row, reading, group);
    // A word is explained once for all its lines.
    findings.push(...read.findings.filter(({ code }) => code !== 'access-asked').map(noted(kinds)));
    if (read.asked !== null) {
      const count = accessAsked.get(read.asked) ?? 0;
      if (count === 0)
        findings.push(finding('stop', { line: row.line }, 'access-asked', { text: read.asked }));
      accessAsked.set(read.asked, count + 1);
    }
    const stopped = read.findings.some(({ attention }) => attention === 'stop');
    parameters.push({ line: row.line, cells: read.cells, stopped });
  });
  findings.push(...wholeFindings(table, code, parameters, headings));
  return { ...base, parameters, findings, accessAsked };
}

/** A cell with the mark of a note is told with the note. */
const noted =
  (kinds: ReturnType<typeof kindsOf>) =>
  (found: Finding): Finding => {
    if (found.code !== 'cell-not-understood') return found;
    const note = noteFor(found.facts.text, kinds);
    return note === undefined ? found : { ...found, facts: { ...found.facts, note } };
  };

/** Rows that a person has left out are gone, and cells hold what he has written. */
function mended(table: ListTable, { leftOut, mended: cells }: ListWish): ListTable {
  const rows = table.rows
    .filter(({ line }) => !leftOut?.has(line))
    .map((row) => {
      const own = cells?.get(row.line);
      if (!own) return row;
      const fresh = Object.assign(Object.create(null), row.cells) as Record<string, string>;
      for (const [heading, text] of own) if (table.columns.includes(heading)) fresh[heading] = text.trim();
      const numeric = new Set([...row.numeric].filter((heading) => !own.has(heading)));
      return { ...row, cells: fresh, numeric };
    });
  return { ...table, rows };
}

/** Cells that may hold numbers, as people have written them. */
function numbersOf({ columns, rows }: ListTable, assignment: ColumnAssignment): readonly string[] {
  const uses: readonly ColumnUse[] = ['range', 'minimum', 'maximum', 'default', 'resolution'];
  const wanted = columns.filter((column) => uses.includes(assignment.get(column) ?? 'code'));
  return rows.flatMap(({ cells, numeric }) =>
    wanted.filter((column) => !numeric.has(column)).map((column) => cells[column] ?? ''),
  );
}

function columnFindings(
  { columns, rows, headLine }: ListTable,
  assignment: ColumnAssignment,
): readonly Finding[] {
  const filled = (column: string) => rows.some(({ cells }) => (cells[column] ?? '') !== '');
  const unused = columns.filter((column) => !assignment.has(column) && filled(column));
  const twice = unused.filter((column) => / \(\d+\)$/.test(column));
  return [
    ...twice.map((text) => finding('look', { line: headLine }, 'heading-twice', { text })),
    ...(unused.length > 0
      ? [finding('look', { line: headLine }, 'columns-not-used', { columns: unused })]
      : []),
  ];
}

/** Lines that go on with the one above add to its cells. */
function goneOn(
  rows: readonly ListRow[],
  kinds: ReturnType<typeof kindsOf>,
  headings: ReadonlyMap<ColumnUse, string>,
): readonly ListRow[] {
  const whole = [...rows];
  let above = -1;
  rows.forEach((row, at) => {
    if (kinds[at]?.kind === 'parameter') above = at;
    const before = whole[above];
    if (kinds[at]?.kind !== 'goes-on' || !before) return;
    const cells = Object.assign(Object.create(null), before.cells) as Record<string, string>;
    for (const heading of headings.values())
      if ((row.cells[heading] ?? '') !== '')
        cells[heading] = [cells[heading], row.cells[heading]].filter(Boolean).join('\n');
    whole[above] = { ...before, cells };
  });
  return whole;
}

/** What is to be said of the list as a whole. */
function wholeFindings(
  { rows, headLine }: ListTable,
  code: string,
  parameters: readonly ListParameter[],
  headings: ReadonlyMap<ColumnUse, string>,
): readonly Finding[] {
  const settings = parameters.filter(({ cells }) => cells.access !== 'read');
  const noDefault = settings.filter(({ cells }) => cells.default === '?').length;
  const noRange = parameters.filter(({ cells }) => cells.minimum === '?' || cells.maximum === '?').length;
  const width = cutZeros(
    rows.map(({ cells, numeric }) => ({ text: cells[code] ?? '', stored: numeric.has(code) })),
  );
  const place = { line: headLine };
  return [
    ...(width === undefined ? [] : [finding('stop', { ...place, column: code }, 'codes-cut', { width })]),
    ...(headings.has('access') || headings.has('running') || parameters.length === 0
      ? []
      : [finding('look', place, 'no-access-told', {})]),
    ...(noDefault > 0 ? [finding('look', place, 'defaults-not-told', { count: noDefault })] : []),
    ...(noRange > 0 ? [finding('look', place, 'ranges-not-told', { count: noRange })] : []),
  ];
}

/** Headings of the user's table by column of the catalogue's format. */
export function headingsByColumn(assignment: ColumnAssignment): ReadonlyMap<string, string> {
  const headings = new Map<string, string>([...assignment].map(([heading, use]) => [use, heading]));
  const range = headings.get('range');
  if (range !== undefined) {
    if (!headings.has('minimum')) headings.set('minimum', range);
    if (!headings.has('maximum')) headings.set('maximum', range);
  }
  const bits = headings.get('bits');
  if (bits !== undefined && !headings.has('options')) headings.set('options', bits);
  return headings;
}
