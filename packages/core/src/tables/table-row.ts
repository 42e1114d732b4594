// Which row of a setting table holds for a position. Every key that the table has must be known and agree; no row, or more than
// one, is an answer of its own: nobody guesses among them.

import { parseDecimal } from '../values/index.ts';
import { TABLE_KEYS, type SettingRow, type SettingTable, type TableKey } from './setting-table.ts';

/** What is known of a position, by key; nothing where it is not known. */
export type TableFacts = Readonly<Partial<Record<TableKey, string | number>>>;

export type FoundRow =
  | { readonly kind: 'one'; readonly row: SettingRow }
  | { readonly kind: 'none' }
  | { readonly kind: 'several'; readonly rows: readonly SettingRow[] }
  /** Facts that would decide it are not known. */
  | { readonly kind: 'unknown'; readonly keys: readonly TableKey[] };

export function findRow({ rows }: SettingTable, facts: TableFacts): FoundRow {
  const known = rows.filter(({ keys }) =>
    entriesOf(keys).every(([key, text]) => facts[key] === undefined || agrees(key, text, facts[key])),
  );
  const missing = new Set(
    known.flatMap(({ keys }) => entriesOf(keys).flatMap(([key]) => (facts[key] === undefined ? [key] : []))),
  );
  if (missing.size > 0) return { kind: 'unknown', keys: [...missing] };
  const [first, ...more] = known;
  if (!first) return { kind: 'none' };
  return more.length > 0 ? { kind: 'several', rows: known } : { kind: 'one', row: first };
}

const entriesOf = (keys: SettingRow['keys']): readonly (readonly [TableKey, string])[] =>
  Object.entries(keys) as [TableKey, string][];

/** Numbers agree by their value, 2.2 and 2.20; texts whatever their case. */
function agrees(key: TableKey, text: string, fact: string | number): boolean {
  if (TABLE_KEYS[key] === 'text') return text.toLowerCase() === String(fact).trim().toLowerCase();
  const [a, b] = [parseDecimal(text), parseDecimal(String(fact))];
  return a.ok && b.ok && a.value.digits * 10 ** b.value.places === b.value.digits * 10 ** a.value.places;
}
