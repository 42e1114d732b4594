// The parameter table of a model (parameters.csv): one parameter a line, the same columns for shipped and own models.
// All findings are collected; a table with findings gives no parameters.

import {
  INPUT_REGISTERS,
  parseOptionMeaning,
  parseRaw,
  parseResolution,
  readRegister,
  readTable,
  type Form,
  type OptionMeaning,
  type Saying,
  type TableRow,
  type Meaning,
} from '../values/index.ts';
import { finding, tableFinding, type FactsOf, type Finding, type FindingCode } from '../findings/index.ts';
import { withColumnsOfToday, wordOfToday } from './older-words.ts';
import {
  ACCESSES,
  KEEPINGS,
  PURPOSES,
  type Bound,
  type Code,
  type NamedValue,
  type Parameter,
  type Reference,
  type RegisterPlace,
} from './parameter.ts';

/** Columns of parameters.csv that every table has, by docs/formats; their order is free, further ones are passed over. */
export const PARAMETER_COLUMNS = [
  'code',
  'menu',
  'name',
  'other_names',
  'purpose',
  'kind',
  'unit',
  'resolution',
  'minimum',
  'maximum',
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
/** A column that older tables do not have. */
const OF = 'of';
type Column = (typeof PARAMETER_COLUMNS)[number] | typeof OF;

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

/**
 * Reads parameters.csv: one parameter a line, in the order of the maker's menu. Values are in the unit of the line and on a
 * step of its resolution; all that is wrong is added to `findings`, by line and column.
 */
export function readParameters(
  text: string,
  findings: Finding[],
  surplus: 'refused' | 'told',
): ParameterTable {
  const read = readTable(text, surplus);
  if (!read.ok) {
    findings.push({ ...tableFinding(read.fault), file: FILE });
    return NOTHING;
  }
  const table = withColumnsOfToday(read.value);
  const missing = PARAMETER_COLUMNS.filter((column) => !table.columns.includes(column));
  for (const column of missing)
    findings.push(finding('stop', { file: FILE, line: 1, column }, 'column-missing', { column }));
  if (missing.length > 0) return NOTHING;
  if (table.rows.length === 0) findings.push({ ...tableFinding({ code: 'table-empty' }), file: FILE });
  const lines = table.rows.flatMap((row) => new RowReader(row, findings).read());
  findTwice(lines, findings);
  return { lines, codes: new Set(table.rows.map(({ cells }) => cells['code'] ?? '')) };
}

function findTwice(lines: readonly ParameterLine[], findings: Finding[]): void {
  const codes = new Map<string, number>();
  const meanings = new Map<string, number>();
  for (const { line, parameter } of lines) {
    const codeAt = codes.get(parameter.code);
    if (codeAt !== undefined) {
      const facts = { text: parameter.code, first: codeAt };
      findings.push(finding('stop', { file: FILE, line, column: 'code' }, 'code-twice', facts));
    } else codes.set(parameter.code, line);
    if (parameter.meaning === null) continue;
    const meaningAt = meanings.get(parameter.meaning);
    if (meaningAt !== undefined) {
      const facts = { text: parameter.meaning, first: meaningAt };
      findings.push(finding('stop', { file: FILE, line, column: 'meaning' }, 'meaning-twice', facts));
    } else meanings.set(parameter.meaning, line);
  }
  for (const { line, parameter } of lines) {
    for (const code of parameter.dependsOn.filter((each) => !codes.has(each))) {
      const place = { file: FILE, line, column: 'depends_on' };
      findings.push(finding('stop', place, 'code-unknown', { text: code }));
    }
  }
}

/** Splits `a; b; c`; empty pieces are passed over. */
const pieces = (text: string, mark = ';'): string[] =>
  text
    .split(mark)
    .map((piece) => piece.trim())
    .filter((piece) => piece !== '');

/** `1 = run forward [run.forward]`; the number of a named value may have a point. */
const CHOICE = /^(-?\d+(?:\.\d+)?)\s*=\s*([^[\]]+?)\s*(?:\[([^[\]]+)\])?$/;

interface Choice extends OptionMeaning {
  readonly number: string;
  readonly text: string;
}

/** Nothing where it is not understood whole. */
function toChoice(piece: string): Choice | undefined {
  const [, number = '', text = '', inside] = CHOICE.exec(piece) ?? [];
  if (number === '') return undefined;
  const meaning = inside === undefined ? {} : parseOptionMeaning(wordOfToday(inside));
  return meaning && { number, text, ...meaning };
}

/** In a column: the maker does not tell it. */
const UNTOLD = '?';
const UNTOLD_COLUMNS = ['minimum', 'maximum', 'default'] as const;

/** What the register can hold; 32 bits with a sign where there is none. */
function widest(column: 'minimum' | 'maximum', register: RegisterPlace | null): number {
  const { width, signed } = register ?? { width: 32 as const, signed: true };
  const all = 2 ** width;
  if (column === 'minimum') return signed ? -all / 2 : 0;
  return (signed ? all / 2 : all) - 1;
}

const isWhole = ({ number }: Choice): boolean => /^\d+$/.test(number);

class RowReader {
  private clean = true;
  private readonly row: TableRow;
  private readonly findings: Finding[];

  constructor(row: TableRow, findings: Finding[]) {
    this.row = row;
    this.findings = findings;
  }

  /** One parameter line, or none if the row has findings. */
  read(): ParameterLine[] {
    const code = this.filled('code');
    const menu = pieces(this.filled('menu'), '/');
    const keeping = this.oneOf('keeping', KEEPINGS);
    const form = this.form();
    const register = this.register();
    const untold = UNTOLD_COLUMNS.filter((column) => this.cell(column) === UNTOLD);
    const parameter = {
      code: code as Code,
      menu,
      name: this.filled('name'),
      otherNames: pieces(this.cell('other_names')),
      description: this.cell('description'),
      purpose: this.oneOf('purpose', PURPOSES),
      form,
      minimum: this.limit('minimum', form, register),
      maximum: this.limit('maximum', form, register),
      default: ['', UNTOLD].includes(this.cell('default')) ? null : this.bound('default', form),
      untold,
      access: this.oneOf('access', ACCESSES),
      restart: this.oneOf('restart', ['yes', 'no'] as const) === 'yes',
      keeping,
      meaning: (wordOfToday(this.cell('meaning')) || null) as Meaning | null,
      of: (this.cell(OF) || null) as Reference | null,
      named: form.kind === 'number' ? this.named(form) : [],
      dependsOn: pieces(this.cell('depends_on')) as Code[],
      register,
    };
    return this.clean ? [{ line: this.row.line, parameter: parameter as Parameter }] : [];
  }

  private cell(column: Column): string {
    return this.row.cells[column] ?? '';
  }

  private found<C extends FindingCode>(code: C, facts: FactsOf<C> & { readonly column: string }): void {
    this.clean = false;
    const { column } = facts;
    this.findings.push(finding('stop', { file: FILE, line: this.row.line, column }, code, facts));
  }

  private filled(column: Column): string {
    const text = this.cell(column);
    if (text === '') this.found('cell-empty', { column });
    return text;
  }

  private oneOf<const T extends string>(column: Column, allowed: readonly T[]): T | undefined {
    const text = this.cell(column) as T;
    if (allowed.includes(text)) return text;
    this.found('cell-unknown', { column, text, allowed: allowed.join(', ') });
    return undefined;
  }

  private form(): Form {
    const kind = this.oneOf('kind', ['number', 'option', 'bits'] as const);
    if (kind === 'option') {
      return {
        kind,
        options: this.choices().map(({ number, ...rest }) => ({ raw: Number(number), ...rest })),
      };
    }
    if (kind === 'bits') return { kind, bits: this.bits() };
    const resolution = parseResolution(this.cell('resolution'));
    if (kind && !resolution) this.unreadable('resolution', 'the smallest step, such as 0.01');
    return { kind: 'number', unit: this.cell('unit'), resolution: resolution ?? { step: 1, places: 0 } };
  }

  private choices(): Choice[] {
    const found = pieces(this.cell('options')).map(toChoice);
    const understood = found.filter((choice) => choice !== undefined);
    if (found.length > 0 && understood.length === found.length && understood.every(isWhole))
      return understood;
    this.unreadable('options', '"0 = off; 1 = on", with a meaning in brackets where there is one');
    return [];
  }

  /** A bit says what it means of something: it has no meaning of its own. */
  private bits(): { bit: number; text: string; says?: readonly Saying[] }[] {
    const bits = this.choices();
    if (bits.some(({ meaning }) => meaning !== undefined))
      this.unreadable('options', 'a bit that says something, such as "1 = coast at stop [stop.mode=coast]"');
    return bits.map(({ number, text, says }) => ({ bit: Number(number), text, ...(says ? { says } : {}) }));
  }

  /** Values of a number that stand for something else, as `0.0 = off [off]`. */
  private named(form: Form): NamedValue[] {
    const found = pieces(this.cell('options')).map((piece) => {
      const choice = toChoice(piece);
      const raw = choice && parseRaw(form, choice.number);
      if (!raw?.ok || choice?.meaning === undefined || choice.instead || choice.says) return undefined;
      return { raw: raw.value, text: choice.text, meaning: choice.meaning };
    });
    const understood = found.filter((each) => each !== undefined);
    if (understood.length < found.length)
      this.unreadable('options', '"0.0 = off [off]" with a value on a step of the resolution');
    return understood;
  }

  /** Options and bits have no limits of their own: theirs follow from the list. */
  private limit(column: 'minimum' | 'maximum', form: Form, register: RegisterPlace | null): Bound {
    if (form.kind === 'number')
      return this.cell(column) === UNTOLD ? { raw: widest(column, register) } : this.bound(column, form);
    const numbers =
      form.kind === 'option'
        ? form.options.map((option) => option.raw)
        : [0, form.bits.reduce((word, bit) => (word | (1 << bit.bit)) >>> 0, 0)];
    return { raw: column === 'minimum' ? Math.min(...numbers) : Math.max(...numbers) };
  }

  private bound(column: 'minimum' | 'maximum' | 'default', form: Form): Bound {
    const text = this.filled(column);
    if (text.startsWith('@')) return { fact: text.slice(1) };
    const raw = parseRaw(form, text);
    if (text !== '' && !raw.ok) this.unreadable(column, 'a value on a step of the resolution, or @fact');
    return { raw: raw.ok ? raw.value : 0 };
  }

  private register(): RegisterPlace | null {
    const text = this.cell('register');
    if (text === '') return null;
    const match = /^(.*\d)\s*(u16|s16|u32|s32)$/.exec(text);
    const address = readRegister(match?.[1]);
    if (!match || address === undefined) {
      this.unreadable('register', 'address and type, such as "1024 u16" or "input 1024 u16"');
      return null;
    }
    if (address >= INPUT_REGISTERS && this.cell('access') !== 'read') {
      this.found('input-register-written', { column: 'register', text });
      return null;
    }
    return { address, width: match[2]?.endsWith('32') ? 32 : 16, signed: match[2]?.startsWith('s') ?? false };
  }

  private unreadable(column: string, wanted: string): void {
    this.found('cell-unreadable', { column, text: this.cell(column as Column), wanted });
  }
}
