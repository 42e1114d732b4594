// Rows of a plant list, as a plant keeps it in a spreadsheet: one position a row with the unit that sits there. What is
// missing or cannot be understood is a finding of its row; nothing is guessed that decides about a drive.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { looksLikeDate, type Table, type TableRow } from '@drive-keep/core/values';
import type { NewPosition } from './register-changes.service.ts';
import { CRITICALITIES, MOST_SERIAL, TAG } from '../register/register-limits.ts';

export const PLANT_LIST_COLUMNS = [
  'tag',
  'duty',
  'area',
  'machine',
  'criticality',
  'motor',
  'model',
  'rating',
  'region',
  'serial',
  'firmware',
  'line',
  'address',
] as const;
type Column = (typeof PLANT_LIST_COLUMNS)[number];

/** Other headings under which plants keep the same. */
const OTHER_HEADINGS: ReadonlyMap<string, Column> = new Map(
  Object.entries({
    position: 'tag',
    description: 'duty',
    drives: 'duty',
    department: 'area',
    priority: 'criticality',
    type: 'model',
    drive: 'model',
    size: 'rating',
    'serial number': 'serial',
    'serial no': 'serial',
    'serial no.': 'serial',
    version: 'firmware',
    gateway: 'line',
    node: 'address',
    'unit id': 'address',
  } as const),
);

const NEEDED: readonly Column[] = ['tag', 'duty', 'area', 'machine', 'model', 'rating', 'serial', 'firmware'];

export interface PlantListRow {
  readonly line: number;
  readonly tag: string;
  readonly duty: string;
  /** Nothing where a finding stops the row. */
  readonly position: NewPosition | null;
  /** What the list says nothing of: it stays as it is where the position is known. */
  readonly untold: readonly (keyof NewPosition)[];
  readonly findings: readonly string[];
}

/** Columns that no row can do without and that the list does not have. */
export function missingColumns(table: Table): readonly Column[] {
  const known = new Set(table.columns.map(columnOf));
  return NEEDED.filter((column) => !known.has(column));
}

const columnOf = (heading: string): string => OTHER_HEADINGS.get(heading) ?? heading;

/** Headings that say the same: which of them counts cannot be told. */
export function contradictingColumns({ columns }: Table): readonly string[] {
  const twice = columns.filter(
    (column) => columns.filter((other) => columnOf(other) === columnOf(column)).length > 1,
  );
  return twice;
}

/** Headings with something under them that no plant list has. */
export const strangeColumns = ({ columns, rows }: Table): readonly string[] =>
  columns.filter(
    (column) =>
      !PLANT_LIST_COLUMNS.some((known) => known === columnOf(column)) &&
      rows.some(({ cells }) => cells[column]),
  );

export function readPlantList(table: Table, models: readonly Dictionary[]): readonly PlantListRow[] {
  const seen = new Map<string, number>();
  return table.rows.map((row) => {
    const read = readRow(row, models);
    const before = seen.get(read.tag.toLowerCase());
    seen.set(read.tag.toLowerCase(), read.line);
    if (read.tag === '' || before === undefined) return read;
    return { ...read, position: null, findings: [`The tag ${read.tag} is in line ${before} already.`] };
  });
}

function readRow(
  { line, cells: given, numeric = [] }: TableRow,
  models: readonly Dictionary[],
): PlantListRow {
  const cells: Partial<Record<Column, string>> = {};
  for (const [heading, text] of Object.entries(given)) cells[columnOf(heading) as Column] = text;
  const cell = (column: Column) => cells[column] ?? '';
  const findings: string[] = [];
  for (const column of NEEDED) if (cell(column) === '') findings.push(`The column ${column} is empty.`);
  for (const [column, text] of Object.entries(cells))
    if (text.startsWith('=')) findings.push(`The column ${column} holds a formula. Write the value itself.`);
  if (cell('tag') !== '' && !TAG.test(cell('tag')))
    findings.push(`"${cell('tag')}" is no tag: use 2 to 30 letters, digits, "-" or "_".`);
  const stored = new Set(numeric.map(columnOf));
  if (stored.has('tag') && /[.e]/i.test(cell('tag')))
    findings.push(
      `The file keeps the tag ${cell('tag')} as a number. Format the column as text and enter it again.`,
    );
  for (const column of ['tag', 'serial', 'firmware', 'address'] as const)
    if (looksLikeDate(cell(column)))
      findings.push(
        `"${cell(column)}" is a date: a spreadsheet program has changed the ${column}. Format the column as text and enter it again.`,
      );
  const criticality = cell('criticality').toLowerCase() || 'middle';
  if (!CRITICALITIES.some((known) => known === criticality))
    findings.push(`"${criticality}" is no criticality. Write low, middle or high.`);
  const serial = wholeNumber(cell('serial'), 1, MOST_SERIAL);
  if (cell('serial') !== '' && serial === undefined)
    findings.push(`"${cell('serial')}" is no serial number. Write digits only.`);
  const address = cell('address') === '' ? undefined : wholeNumber(cell('address'), 1, 247);
  if (cell('address') !== '' && address === undefined)
    findings.push(`"${cell('address')}" is no address. Write a number from 1 to 247.`);
  const dictionary = modelOf(cell('model'), cell('firmware'), models);
  if (cell('model') !== '' && !dictionary)
    findings.push(
      `No model is called "${cell('model')}"${cell('firmware') && ` with firmware ${cell('firmware')}`}. Known are ${modelNames(models)}.`,
    );
  const untold = untoldOf(cells);
  const base = { line, tag: cell('tag'), duty: cell('duty'), untold };
  if (findings.length > 0 || !dictionary || serial === undefined)
    return { ...base, position: null, findings };
  const [only, another] = dictionary.regions;
  return {
    ...base,
    findings,
    position: {
      tag: base.tag,
      duty: base.duty,
      area: cell('area'),
      machine: cell('machine'),
      criticality: criticality as NewPosition['criticality'],
      motor: cell('motor'),
      dictionary: dictionary.id,
      rating: cell('rating'),
      region: cell('region') || (another ? '' : (only?.id ?? '')),
      serial,
      firmware: stored.has('firmware') ? withPlaces(cell('firmware'), dictionary) : cell('firmware'),
      ...(cell('line') === '' ? {} : { line: cell('line') }),
      ...(address === undefined ? {} : { lineAddress: address }),
    },
  };
}

/** An empty cell says that there is no motor and no line; of criticality and region it says nothing. */
function untoldOf(cells: Partial<Record<Column, string>>): readonly (keyof NewPosition)[] {
  return [
    ...(cells.criticality ? [] : ['criticality' as const]),
    ...(cells.region ? [] : ['region' as const]),
    ...(cells.motor === undefined ? ['motor' as const] : []),
    ...(cells.line === undefined && cells.address === undefined
      ? ['line' as const, 'lineAddress' as const]
      : []),
  ];
}

/** Digits alone: spreadsheets turn long numbers into 1.2E+07, which nobody may take for a serial number. */
function wholeNumber(text: string, minimum: number, maximum: number): number | undefined {
  if (!/^\d+$/.test(text)) return undefined;
  const number = Number(text);
  return number >= minimum && number <= maximum ? number : undefined;
}

/** A spreadsheet that keeps 2.10 as a number shows 2.1: the model says how many places its firmware has. */
function withPlaces(text: string, { firmware: { from } }: Dictionary): string {
  const places = (/\.(\d+)$/.exec(from)?.[1] ?? '').length;
  const [whole = '', fraction = ''] = text.split('.');
  return places === 0 || fraction.length >= places ? text : `${whole}.${fraction.padEnd(places, '0')}`;
}

/** By id, by model, or by name with or without maker; of several versions the one for this firmware. */
function modelOf(text: string, firmware: string, models: readonly Dictionary[]): Dictionary | undefined {
  const wanted = text.toLowerCase();
  const named = models.filter(({ id, model, maker, name }) =>
    [id, model, name, `${maker} ${name}`].some((each) => each.toLowerCase() === wanted),
  );
  return named.length < 2 ? named[0] : named.find((each) => coversFirmware(each, firmware));
}

const coversFirmware = ({ firmware: { from, to } }: Dictionary, text: string): boolean =>
  Number(text) >= Number(from) && Number(text) <= Number(to);

const modelNames = (models: readonly Dictionary[]): string =>
  [...new Set(models.map(({ maker, name }) => `${maker} ${name}`))].join(', ');
