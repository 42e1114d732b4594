// A set as CSV: one parameter a line. `raw` is what the drive stores, `value` the same in the parameter's unit; a file
// made by hand may give either one alone.

import { findParameter, placeOf, type Dictionary } from '../dictionary/index.ts';
import { finding, tableFinding, type Finding } from '../findings/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { describeRaw, formatRaw, readTable, writeTable, type Reading, type Table } from '../values/index.ts';
import { NO_HEAD, type SetFileEntry, type SetFileHead } from './set-file.ts';

/** Of a file that is written. Of one that is read, `code` and one of `value` and `raw` are enough. */
export const SET_CSV_COLUMNS = [
  'dictionary',
  'code',
  'name',
  'value',
  'unit',
  'text',
  'raw',
  'unreadable',
] as const;

/** RFC 4180, commas, one parameter a line in the order of the menu; values in the unit of the parameter, with a point. */
export const writeSetCsv = (dictionary: Dictionary, set: ParameterSet): string =>
  writeTable(SET_CSV_COLUMNS, setRows(dictionary, set));

/** One row a parameter, in menu order, with the cells of `SET_CSV_COLUMNS`. */
export function setRows(dictionary: Dictionary, set: ParameterSet): readonly (readonly string[])[] {
  return [...set.readings]
    .sort(([a], [b]) => placeOf(dictionary, a) - placeOf(dictionary, b))
    .map(([code, reading]) => toCells(dictionary, set.dictionary, code, reading));
}

function toCells(dictionary: Dictionary, id: string, code: string, reading: Reading): string[] {
  const parameter = findParameter(dictionary, code);
  const unit = parameter?.form.kind === 'number' ? parameter.form.unit : '';
  if (typeof reading === 'object')
    return [id, code, parameter?.name ?? '', '', unit, '', '', reading.unreadable];
  const value = parameter ? formatRaw(parameter.form, reading) : '';
  const text = parameter ? (describeRaw(parameter.form, reading) ?? '') : '';
  return [id, code, parameter?.name ?? '', value, unit, text, String(reading), ''];
}

export interface SetFileLines {
  readonly head: SetFileHead;
  readonly entries: readonly SetFileEntry[];
  readonly findings: readonly Finding[];
}

/** Lines of a set from CSV with commas, semicolons or tabs; they are not yet held against a model. */
export function readSetCsv(text: string): SetFileLines {
  const table = readTable(text);
  return table.ok ? readSetRows(table.value) : nothing(tableFinding(table.fault));
}

/** The same columns in rows that come from elsewhere, such as a sheet of a spreadsheet. */
export function readSetRows({ columns, rows }: Table): SetFileLines {
  if (!columns.includes('code'))
    return nothing(finding('stop', { line: 1 }, 'set-column-missing', { column: 'code' }));
  if (!columns.includes('value') && !columns.includes('raw')) {
    return nothing(finding('stop', { line: 1 }, 'set-column-missing', { column: 'value' }));
  }
  if (rows.length === 0) return nothing(finding('stop', { line: 1 }, 'file-empty', {}));
  const models = [...new Set(rows.map((row) => row.cells['dictionary'] ?? '').filter(Boolean))];
  const entries = rows.map(({ line, cells, numeric = [] }) => ({
    line,
    code: cells['code'] ?? '',
    value: cells['value'] ?? '',
    raw: cells['raw'] ?? '',
    unit: cells['unit'] ?? '',
    unreadable: cells['unreadable'] ?? '',
    name: cells['name'] ?? '',
    text: cells['text'] ?? '',
    codeStored: numeric.includes('code'),
  }));
  const strange = columns.filter(
    (column) => column !== '' && !SET_CSV_COLUMNS.some((each) => each === column),
  );
  const filled = strange.filter((column) => rows.some(({ cells }) => cells[column]));
  return {
    head: { ...NO_HEAD, dictionary: models.length === 0 ? null : models.join(' and ') },
    entries,
    findings:
      filled.length > 0 ? [finding('look', { line: 1 }, 'set-columns-not-used', { columns: filled })] : [],
  };
}

/** What comes of a file that cannot be read at all. */
export const nothing = (why: Finding): SetFileLines => ({ head: NO_HEAD, entries: [], findings: [why] });
