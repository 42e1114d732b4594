// A trace as a table, out and in: seconds, then a column a signal, named by what it is and its unit. A cell that is empty is a
// signal that was not answered.

import { finding, tableFinding, type Finding } from '../findings/index.ts';
import { fail, ok, type Result, type Table, type TableFault } from '../values/index.ts';
import { MOST_SECONDS, MOST_SIGNALS, valueOf, type Trace, type TraceSignal } from './trace.ts';

const TIME = 'time s';
const MOST_ROWS = 20_000;
const FILE = 'trace.csv';

export const traceColumns = ({ signals }: Pick<Trace, 'signals'>): readonly string[] => [
  TIME,
  ...signals.map(({ meaning, unit }) => `${meaning} ${unit}`.trim()),
];

/** Each value with the places of its parameter. */
export const traceRows = ({ signals, times, values }: Trace): readonly (readonly string[])[] =>
  times.map((at, index) => [
    (at / 1000).toFixed(3),
    ...signals.map((signal, own) => {
      const raw = values[own]?.[index] ?? null;
      return raw === null ? '' : valueOf(signal, raw).toFixed(signal.places);
    }),
  ]);

/** `known` are the signals of the model: a file may bring any of them, and at least one. */
export function readTraceTable(
  table: Result<Table, TableFault>,
  known: readonly TraceSignal[],
): Result<Trace, readonly Finding[]> {
  if (!table.ok) return fail([{ ...tableFinding(table.fault), file: FILE }]);
  const findings: Finding[] = [];
  const { columns, rows } = table.value;
  const head = { file: FILE, line: 1 };
  if (!columns.includes(TIME))
    findings.push(finding('stop', { ...head, column: TIME }, 'column-missing', { column: TIME }));
  const named = known.map((signal) => ({
    signal,
    column: `${signal.meaning} ${signal.unit}`.trim().toLowerCase(),
  }));
  const brought = named.filter(({ column }) => columns.includes(column));
  const allowed = named.map(({ column }) => column).join(', ');
  if (brought.length === 0)
    findings.push(
      finding('stop', { ...head, column: named[0]?.column ?? '' }, 'column-missing', { column: allowed }),
    );
  for (const column of columns.filter((each) => each !== TIME && !named.some((one) => one.column === each)))
    findings.push(
      finding('stop', { ...head, column }, 'cell-unknown', {
        column,
        text: column,
        allowed: `${TIME}, ${allowed}`,
      }),
    );
  const bad = (line: number, column: string, cell: string, wanted: string) =>
    findings.push(
      finding('stop', { file: FILE, line, column }, 'cell-unreadable', { column, text: cell, wanted }),
    );
  if (brought.length > MOST_SIGNALS)
    bad(1, brought[MOST_SIGNALS]?.column ?? '', '', `at most ${MOST_SIGNALS} signals`);
  if (rows.length === 0 || rows.length > MOST_ROWS)
    bad(1, TIME, `${rows.length} rows`, `1 to ${MOST_ROWS} rows`);
  if (findings.length > 0) return fail(findings);
  let before = -1;
  const times = rows.map(({ line, cells }) => {
    const cell = cells[TIME] ?? '';
    const at = /^\d+(\.\d+)?$/.test(cell) ? Math.round(Number(cell) * 1000) : NaN;
    if (!(at > before && at <= MOST_SECONDS * 1000))
      bad(line, TIME, cell, `seconds from 0 to ${MOST_SECONDS}, each more than the line before`);
    before = at;
    return at;
  });
  const values = brought.map(({ signal, column }) =>
    rows.map(({ line, cells }) => {
      const cell = cells[column] ?? '';
      if (cell === '') return null;
      const raw = /^-?\d+(\.\d+)?$/.test(cell)
        ? Math.round((Number(cell) * 10 ** signal.places) / signal.step)
        : NaN;
      if (!Number.isSafeInteger(raw) || Math.abs(raw) >= 2 ** 32)
        bad(line, column, cell, 'a number with a point, or nothing');
      return raw;
    }),
  );
  if (findings.length > 0) return fail(findings);
  return ok({ signals: brought.map(({ signal }) => signal), times, values });
}
