// Meanings that somebody has confirmed, into the table of a model: nothing else of it is touched.

import { parseOptionMeaning, readTable, writeTable } from '../values/index.ts';
import type { MeaningProposal } from './propose.ts';

type Taken = Pick<MeaningProposal, 'code' | 'meaning' | 'options'>;

/** `parameters` is parameters.csv; nothing where it is no table with the columns code, meaning and options. */
export function withMeanings(parameters: string, taken: readonly Taken[]): string | undefined {
  const table = readTable(parameters);
  if (!table.ok) return undefined;
  const { columns, rows } = table.value;
  if (['code', 'meaning', 'options'].some((column) => !columns.includes(column))) return undefined;
  const byCode = new Map<string, Taken>(taken.map((each) => [each.code, each]));
  const cells = rows.map(({ cells: row }) => {
    const own = byCode.get(row['code'] ?? '');
    const changed: Record<string, string> = own
      ? { ...row, meaning: own.meaning, options: optionsWith(row['options'] ?? '', own.options) }
      : row;
    return columns.map((column) => changed[column] ?? '');
  });
  return writeTable(columns, cells);
}

/** A bracket behind each option that has none yet. */
function optionsWith(cell: string, options: Taken['options']): string {
  if (options.length === 0) return cell;
  return cell
    .split(';')
    .map((piece) => {
      const raw = /^\s*(\d+)\s*=/.exec(piece)?.[1];
      const own = options.find((each) => String(each.raw) === raw);
      const fits = own !== undefined && !piece.includes('[') && parseOptionMeaning(own.meaning) !== undefined;
      return fits ? `${piece.trimEnd()} [${own.meaning}]` : piece;
    })
    .join(';');
}
