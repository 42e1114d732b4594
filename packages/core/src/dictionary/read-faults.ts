// The faults of a model (faults.csv): one fault a line, in any order. All that is wrong is told; a table with findings gives
// what of it can be read.

import { finding, tableFinding, type FactsOf, type Finding, type FindingCode } from '../findings/index.ts';
import { readTable, type TableRow } from '../values/index.ts';
import { FAULT_KINDS, type Fault, type FaultKind } from './faults.ts';
import type { Code } from './parameter.ts';

/** Columns of faults.csv by docs/formats; their order is free. */
export const FAULT_COLUMNS = [
  'number',
  'shown',
  'name',
  'kind',
  'meaning',
  'causes',
  'check',
  'parameters',
  'restarts',
] as const;
type Column = (typeof FAULT_COLUMNS)[number];

const FILE = 'faults.csv';
const LARGEST = 0xffff;

/** Reads faults.csv, by number; codes named there have to be among `known`. Findings are added by line and column. */
export function readFaults(
  text: string,
  known: ReadonlySet<string>,
  findings: Finding[],
  surplus: 'refused' | 'told',
): readonly Fault[] {
  const table = readTable(text, surplus);
  if (!table.ok) {
    findings.push({ ...tableFinding(table.fault), file: FILE });
    return [];
  }
  const missing = FAULT_COLUMNS.filter((column) => !table.value.columns.includes(column));
  for (const column of missing)
    findings.push(finding('stop', { file: FILE, line: 1, column }, 'column-missing', { column }));
  if (missing.length > 0) return [];
  const faults = new Map<number, { line: number; fault: Fault }>();
  for (const row of table.value.rows) {
    const fault = new FaultRow(row, known, findings).read();
    const first = faults.get(fault.number);
    if (first) {
      const place = { file: FILE, line: row.line, column: 'number' };
      findings.push(finding('stop', place, 'fault-twice', { number: fault.shown, first: first.line }));
    } else faults.set(fault.number, { line: row.line, fault });
  }
  return [...faults.values()].map(({ fault }) => fault).sort((a, b) => a.number - b.number);
}

class FaultRow {
  private readonly row: TableRow;
  private readonly known: ReadonlySet<string>;
  private readonly findings: Finding[];

  constructor(row: TableRow, known: ReadonlySet<string>, findings: Finding[]) {
    this.row = row;
    this.known = known;
    this.findings = findings;
  }

  read(): Fault {
    const parameters = this.list('parameters');
    for (const text of parameters.filter((each) => !this.known.has(each)))
      this.found('parameters', 'code-unknown', { text });
    return {
      number: this.number(),
      shown: this.text('shown'),
      name: this.text('name'),
      kind: this.oneOf<FaultKind>('kind', FAULT_KINDS),
      meaning: this.text('meaning'),
      causes: this.some('causes'),
      check: this.some('check'),
      parameters: parameters as readonly Code[],
      restarts: this.oneOf('restarts', ['yes', 'no']) === 'yes',
    };
  }

  private number(): number {
    const text = this.cell('number');
    const number = /^\d{1,5}$/.test(text) ? Number(text) : 0;
    if (number < 1 || number > LARGEST)
      this.found('number', 'cell-unreadable', {
        ...{ column: 'number', text, wanted: 'a whole number from 1 to 65535, as the register holds it' },
      });
    return number;
  }

  private oneOf<T extends string>(column: Column, allowed: readonly T[]): T {
    const text = this.cell(column);
    const known = allowed.find((each) => each === text);
    if (known === undefined)
      this.found(column, 'cell-unknown', { column, text, allowed: allowed.join(', ') });
    return known ?? (allowed[0] as T);
  }

  /** At least one piece. */
  private some(column: Column): readonly string[] {
    this.text(column);
    return this.list(column);
  }

  private list(column: Column): readonly string[] {
    return this.cell(column)
      .split(';')
      .map((piece) => piece.trim())
      .filter((piece) => piece !== '');
  }

  private text(column: Column): string {
    const text = this.cell(column);
    if (text === '') this.found(column, 'cell-empty', { column });
    return text;
  }

  private cell = (column: Column): string => (this.row.cells[column] ?? '').trim();

  private found<C extends FindingCode>(column: Column, code: C, facts: FactsOf<C>): void {
    this.findings.push(finding('stop', { file: FILE, line: this.row.line, column }, code, facts));
  }
}
