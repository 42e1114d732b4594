// A parameter table whose registers stand as the maker counts them, with the addresses that the protocol uses.

import { readTable, readRegister, showRegister, writeTable } from '../values/index.ts';
import { addressOf, type Counting } from './register-search.ts';

export interface Recounted {
  readonly text: string;
  /** Rows whose register was changed. */
  readonly changed: number;
  /** Rows with a register that this way of counting does not reach; they stand as they were. */
  readonly left: readonly number[];
}

const REGISTER = /^(input )?(\d{1,6})(?:\s+([us](?:16|32)))?$/;

/** Nothing where the text is no table with a column `register`. A type that was not told becomes `u16`. */
export function recount(parameters: string, counting: Counting): Recounted | undefined {
  const table = readTable(parameters);
  if (!table.ok || !table.value.columns.includes('register')) return undefined;
  const { columns, rows } = table.value;
  const left: number[] = [];
  let changed = 0;
  const cells = rows.map(({ line, cells: row }) => {
    const before = (row['register'] ?? '').trim();
    const after = before === '' ? '' : recounted(before, counting);
    if (after === undefined) left.push(line);
    else if (after !== before) changed += 1;
    return columns.map((column) => (column === 'register' ? (after ?? before) : (row[column] ?? '')));
  });
  return { text: writeTable(columns, cells), changed, left };
}

function recounted(text: string, counting: Counting): string | undefined {
  const match = REGISTER.exec(text);
  const address = match ? addressOf(Number(match[2]), counting) : undefined;
  const shown = address === undefined ? undefined : showRegister(address);
  return shown !== undefined && readRegister(shown) !== undefined
    ? `${shown} ${match?.[3] ?? 'u16'}`
    : undefined;
}
