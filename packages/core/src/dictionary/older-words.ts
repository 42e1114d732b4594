// Words of older model files: what they called least and greatest is the minimum and the maximum. Files that were taken in
// under the older words go on being read; nothing is written with them any more.

import type { Table } from '../values/index.ts';

const NOW: readonly (readonly [RegExp, string])[] = [
  [/least/g, 'minimum'],
  [/greatest/g, 'maximum'],
  [/Least/g, 'Minimum'],
  [/Greatest/g, 'Maximum'],
];

/** The word of today for a column, a meaning or a choice of an older file; any other word as it is. */
export const wordOfToday = (word: string): string =>
  NOW.reduce((text, [older, today]) => text.replace(older, today), word);

const COLUMNS: ReadonlyMap<string, string> = new Map([
  ['least', 'minimum'],
  ['greatest', 'maximum'],
]);

/** The same table with the columns of today. */
export function withColumnsOfToday(table: Table): Table {
  if (!table.columns.some((column) => COLUMNS.has(column))) return table;
  const today = (column: string): string => COLUMNS.get(column) ?? column;
  return {
    columns: table.columns.map(today),
    rows: table.rows.map((row) => ({
      ...row,
      cells: Object.fromEntries(Object.entries(row.cells).map(([column, cell]) => [today(column), cell])),
    })),
  };
}
