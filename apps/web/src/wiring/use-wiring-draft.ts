// The rows of a wiring while somebody works on them. They stay over a reload of the page, until they are kept or given up.

import type { WiringView } from '@drive-keep/api';
import { readWiring, WIRING_COLUMNS, type Wiring, type WiringColumn } from '@drive-keep/core/wiring';
import type { Finding } from '@drive-keep/core/findings';
import { useState } from 'react';

export type Row = Readonly<Record<WiringColumn, string>>;
/** What a row is: a part of the table. */
export type Part = 'devices' | 'wires' | 'links' | 'board';

interface Kept {
  readonly seen: number;
  readonly rows: readonly Row[];
}

export const emptyRow = (row: string): Row => ({
  ...{ row, name: '', colour: '', from: '', to: '', facts: '', what: '' },
});

export const partOf = ({ row }: Row): Part =>
  row === 'wire'
    ? 'wires'
    : row === 'link'
      ? 'links'
      : row === 'switch' || row === 'arrangement'
        ? 'board'
        : 'devices';

export const rowOf = (cells: readonly string[]): Row =>
  Object.fromEntries(WIRING_COLUMNS.map((column, at) => [column, cells[at] ?? ''])) as Row;
const cellsOf = (row: Row): string[] => WIRING_COLUMNS.map((column) => row[column]);

/** A row in which nothing was typed is not one yet. */
export const isBlank = (row: Row): boolean =>
  WIRING_COLUMNS.every((column) => column === 'row' || row[column].trim() === '');

export interface WiringDraft {
  readonly rows: readonly Row[];
  readonly changed: boolean;
  /** The revision on which it stands. */
  readonly seen: number;
  /** What stands in the rows, or nothing while one of them is not understood. */
  readonly wiring: Wiring | undefined;
  /** Of the rows, by their place in `rows`, counted from 1. */
  readonly troubles: readonly Finding[];
  readonly change: (rows: readonly Row[]) => void;
  readonly giveUp: () => void;
}

export function useWiringDraft(view: WiringView): WiringDraft {
  const key = `wiring ${view.tag}`;
  const [kept, setKept] = useState<Kept | undefined>(() => stored(key));
  const rows = kept?.rows ?? view.rows.map(rowOf);
  const typed = rows.flatMap((row, at) => (isBlank(row) ? [] : [{ row, line: at + 1 }]));
  const read = readWiring({
    columns: [...WIRING_COLUMNS],
    rows: typed.map(({ row, line }) => ({ line, cells: trimmed(row) })),
  });
  const store = (next: Kept | undefined) => {
    setKept(next);
    if (next) sessionStorage.setItem(key, JSON.stringify(next));
    else sessionStorage.removeItem(key);
  };
  return {
    rows,
    changed: kept !== undefined,
    seen: kept?.seen ?? view.revision,
    wiring: read.ok ? read.value : undefined,
    troubles: read.ok ? [] : read.fault,
    change: (next) => store({ seen: kept?.seen ?? view.revision, rows: next }),
    giveUp: () => store(undefined),
  };
}

export const rowsToKeep = (rows: readonly Row[]): string[][] =>
  rows.filter((row) => !isBlank(row)).map(cellsOf);

const trimmed = (row: Row): Record<string, string> =>
  Object.fromEntries(Object.entries(row).map(([column, cell]) => [column, cell.trim()]));

function stored(key: string): Kept | undefined {
  try {
    const text = sessionStorage.getItem(key);
    return text === null ? undefined : (JSON.parse(text) as Kept);
  } catch {
    return undefined;
  }
}
