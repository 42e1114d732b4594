// The parameter table of a model (parameters.csv): one parameter a line, the same columns for shipped and own models.
// All findings are collected; a table with findings gives no parameters.

import { parseRaw, parseResolution, readTable, type Form, type TableRow } from '../values/index.ts';
import type { ModelFinding } from './findings.ts';
import {
  ACCESSES,
  KEEPINGS,
  PURPOSES,
  type Bound,
  type Code,
  type Meaning,
  type Parameter,
  type RegisterPlace,
} from './parameter.ts';

export const PARAMETER_COLUMNS = [
  'code',
  'menu',
  'name',
  'other_names',
  'purpose',
  'kind',
  'unit',
  'resolution',
  'least',
  'greatest',
  'default',
  'options',
  'access',
  'restart',
  'keeping',
  'meaning',
  'depends_on',
  'register',
  'description',
] as const;
type Column = (typeof PARAMETER_COLUMNS)[number];

const FILE = 'parameters.csv';

/** A parameter and the line of the file that states it. */
export interface ParameterLine {
  readonly line: number;
  readonly parameter: Parameter;
}

/** `codes` are those of all lines, also of lines with findings: other files may name them. */
export interface ParameterTable {
  readonly lines: readonly ParameterLine[];
  readonly codes: ReadonlySet<string>;
}

const NOTHING: ParameterTable = { lines: [], codes: new Set() };

export function readParameters(text: string, findings: ModelFinding[]): ParameterTable {
  const table = readTable(text);
  if (!table.ok) {
    findings.push(tableFinding(table.fault));
    return NOTHING;
  }
  const missing = PARAMETER_COLUMNS.filter((column) => !table.value.columns.includes(column));
  for (const column of missing) findings.push({ file: FILE, line: 1, code: 'column-missing', column });
  if (missing.length > 0) return NOTHING;
  if (table.value.rows.length === 0) findings.push({ file: FILE, line: 1, column: 1, code: 'table-empty' });
  const lines = table.value.rows.flatMap((row) => new RowReader(row, findings).read());
  findTwice(lines, findings);
  return { lines, codes: new Set(table.value.rows.map(({ cells }) => cells['code'] ?? '')) };
}

function tableFinding(fault: { code: string; line?: number; column?: string }): ModelFinding {
  if (fault.code === 'table-broken')
    return { file: FILE, line: fault.line ?? 1, column: 1, code: 'table-broken' };
  if (fault.code === 'table-empty') return { file: FILE, line: 1, column: 1, code: 'table-empty' };
  return { file: FILE, line: 1, code: 'column-twice', column: fault.column ?? '' };
}

function findTwice(lines: readonly ParameterLine[], findings: ModelFinding[]): void {
  const codes = new Map<string, number>();
  const meanings = new Map<string, number>();
  for (const { line, parameter } of lines) {
    const codeAt = codes.get(parameter.code);
    if (codeAt !== undefined) {
      findings.push({
        file: FILE,
        line,
        column: 'code',
        code: 'code-twice',
        text: parameter.code,
        first: codeAt,
      });
    } else codes.set(parameter.code, line);
    if (parameter.meaning === null) continue;
    const meaningAt = meanings.get(parameter.meaning);
    if (meaningAt !== undefined) {
      const { meaning: text } = parameter;
      findings.push({ file: FILE, line, column: 'meaning', code: 'meaning-twice', text, first: meaningAt });
    } else meanings.set(parameter.meaning, line);
  }
  for (const { line, parameter } of lines) {
    for (const code of parameter.dependsOn.filter((each) => !codes.has(each))) {
      findings.push({ file: FILE, line, column: 'depends_on', code: 'code-unknown', text: code });
    }
  }
}

/** Splits `a; b; c`; empty pieces are passed over. */
const pieces = (text: string, mark = ';'): string[] =>
  text
    .split(mark)
    .map((piece) => piece.trim())
    .filter((piece) => piece !== '');

/** `1 = run forward [run.forward]` */
const CHOICE = /^(\d+)\s*=\s*([^[\]]+?)\s*(?:\[([\w.-]+)\])?$/;

interface Choice {
  readonly number: number;
  readonly text: string;
  readonly meaning?: string;
}

function toChoice([, number, text = '', meaning]: RegExpExecArray): Choice {
  return { number: Number(number), text, ...(meaning === undefined ? {} : { meaning }) };
}

class RowReader {
  private clean = true;
  private readonly row: TableRow;
  private readonly findings: ModelFinding[];

  constructor(row: TableRow, findings: ModelFinding[]) {
    this.row = row;
    this.findings = findings;
  }

  /** One parameter line, or none if the row has findings. */
  read(): ParameterLine[] {
    const code = this.filled('code');
    const menu = pieces(this.filled('menu'), '/');
    const keeping = this.oneOf('keeping', KEEPINGS);
    const form = this.form();
    const parameter = {
      code: code as Code,
      menu,
      name: this.filled('name'),
      otherNames: pieces(this.cell('other_names')),
      description: this.cell('description'),
      purpose: this.oneOf('purpose', PURPOSES),
      form,
      least: this.limit('least', form),
      greatest: this.limit('greatest', form),
      default: this.cell('default') === '' ? null : this.bound('default', form),
      access: this.oneOf('access', ACCESSES),
      restart: this.oneOf('restart', ['yes', 'no'] as const) === 'yes',
      keeping,
      meaning: (this.cell('meaning') || null) as Meaning | null,
      dependsOn: pieces(this.cell('depends_on')) as Code[],
      register: this.register(),
    };
    return this.clean ? [{ line: this.row.line, parameter: parameter as Parameter }] : [];
  }

  private cell(column: Column): string {
    return this.row.cells[column] ?? '';
  }

  private found(finding: { code: 'cell-empty'; column: string } | CellFinding): void {
    this.clean = false;
    this.findings.push({ file: FILE, line: this.row.line, ...finding });
  }

  private filled(column: Column): string {
    const text = this.cell(column);
    if (text === '') this.found({ code: 'cell-empty', column });
    return text;
  }

  private oneOf<const T extends string>(column: Column, allowed: readonly T[]): T | undefined {
    const text = this.cell(column) as T;
    if (allowed.includes(text)) return text;
    this.found({ code: 'cell-unknown', column, text, allowed: allowed.join(', ') });
    return undefined;
  }

  private form(): Form {
    const kind = this.oneOf('kind', ['number', 'option', 'bits'] as const);
    if (kind === 'option') {
      return { kind, options: this.choices().map(({ number, ...rest }) => ({ raw: number, ...rest })) };
    }
    if (kind === 'bits') {
      return { kind, bits: this.choices().map(({ number, text }) => ({ bit: number, text })) };
    }
    const resolution = parseResolution(this.cell('resolution'));
    if (kind && !resolution) this.unreadable('resolution', 'the smallest step, such as 0.01');
    return { kind: 'number', unit: this.cell('unit'), resolution: resolution ?? { step: 1, places: 0 } };
  }

  private choices(): Choice[] {
    const found = pieces(this.cell('options')).map((piece) => CHOICE.exec(piece));
    if (found.length === 0 || found.some((match) => match === null)) {
      this.unreadable('options', '"0 = off; 1 = on", with a meaning in brackets where there is one');
      return [];
    }
    return found.flatMap((match) => (match ? [toChoice(match)] : []));
  }

  /** Options and bits have no limits of their own: theirs follow from the list. */
  private limit(column: 'least' | 'greatest', form: Form): Bound {
    if (form.kind === 'number') return this.bound(column, form);
    const numbers =
      form.kind === 'option'
        ? form.options.map((option) => option.raw)
        : [0, form.bits.reduce((word, bit) => (word | (1 << bit.bit)) >>> 0, 0)];
    return { raw: column === 'least' ? Math.min(...numbers) : Math.max(...numbers) };
  }

  private bound(column: 'least' | 'greatest' | 'default', form: Form): Bound {
    const text = this.filled(column);
    if (text.startsWith('@')) return { fact: text.slice(1) };
    const raw = parseRaw(form, text);
    if (text !== '' && !raw.ok) this.unreadable(column, 'a value on a step of the resolution, or @fact');
    return { raw: raw.ok ? raw.value : 0 };
  }

  private register(): RegisterPlace | null {
    const text = this.cell('register');
    if (text === '') return null;
    const match = /^(\d{1,5})\s*(u16|s16|u32|s32)$/.exec(text);
    const address = Number(match?.[1]);
    if (!match || address > 65_535) {
      this.unreadable('register', 'address and type, such as "1024 u16"');
      return null;
    }
    return { address, width: match[2]?.endsWith('32') ? 32 : 16, signed: match[2]?.startsWith('s') ?? false };
  }

  private unreadable(column: string, wanted: string): void {
    this.found({ code: 'cell-unreadable', column, text: this.cell(column as Column), wanted });
  }
}

type CellFinding =
  | { code: 'cell-unknown'; column: string; text: string; allowed: string }
  | { code: 'cell-unreadable'; column: string; text: string; wanted: string };
