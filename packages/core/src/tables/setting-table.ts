// A table that the maker of a machine gives: "this unit, this motor, this supply: these values". Key columns are headed by a fact of
// the position, value columns by a code or a meaning of the model. What is not understood whole is a finding that quotes the cell;
// nothing of such a table is used.

import { finding, type Finding } from '../findings/index.ts';
import {
  factsOf,
  findParameter,
  refusalOf,
  describeRefusal,
  type Code,
  type Dictionary,
  type Parameter,
} from '../dictionary/index.ts';
import { fail, isFormula, ok, parseDecimal, parseRaw, type Result, type Table } from '../values/index.ts';

/** What a key column can be headed by, and what it holds. */
export const TABLE_KEYS = {
  unit: 'text',
  old_unit: 'text',
  motor: 'text',
  motor_kw: 'number',
  motor_a: 'number',
  motor_v: 'number',
  motor_rpm: 'number',
  supply_v: 'number',
  machine: 'text',
  tag: 'text',
} as const;
export type TableKey = keyof typeof TABLE_KEYS;
const KEYS = Object.keys(TABLE_KEYS) as readonly TableKey[];

export interface SettingRow {
  /** Of the file, from 1; the heading is line 1. */
  readonly line: number;
  /** A key without an entry holds for all. */
  readonly keys: Readonly<Partial<Record<TableKey, string>>>;
  readonly values: ReadonlyMap<Code, number>;
}

export interface SettingTable {
  readonly keys: readonly TableKey[];
  readonly codes: readonly Code[];
  readonly rows: readonly SettingRow[];
}

/** Everything that is wrong with it, each with its line. */
export function readSettingTable(
  table: Table,
  dictionary: Dictionary,
): Result<SettingTable, readonly Finding[]> {
  const findings: Finding[] = [];
  const keys = table.columns.filter((column): column is TableKey =>
    (KEYS as readonly string[]).includes(column),
  );
  const heads = table.columns
    .filter((column) => !(KEYS as readonly string[]).includes(column))
    .flatMap((column) => {
      const parameter = parameterFor(dictionary, column);
      if (!parameter) findings.push(headingFinding(column, dictionary));
      return parameter ? [{ column, parameter }] : [];
    });
  if (keys.length === 0)
    findings.push(finding('stop', { line: 1 }, 'setting-table-no-key', { keys: KEYS.join(', ') }));
  if (heads.length === 0 && findings.length === 0)
    findings.push(finding('stop', { line: 1 }, 'setting-table-no-value', { model: dictionary.name }));
  for (const [at, { parameter, column }] of heads.entries())
    if (heads.findIndex((each) => each.parameter === parameter) !== at)
      findings.push(finding('stop', { line: 1 }, 'column-twice', { column }));
  const rows = table.rows.map((row) => rowOf(row, keys, heads, findings));
  if (rows.length === 0) findings.push(finding('stop', { line: 1 }, 'setting-table-no-row', {}));
  if (findings.length > 0) return fail(findings);
  return ok({ keys, codes: heads.map(({ parameter }) => parameter.code), rows });
}

/** A code, or a meaning that one parameter of the model has; headings come in small letters. */
function parameterFor({ parameters }: Dictionary, heading: string): Parameter | undefined {
  const named = (text: string | null) => text !== null && text.toLowerCase() === heading.toLowerCase();
  const codes = parameters.filter(({ code }) => named(code));
  const found = codes.length > 0 ? codes : parameters.filter(({ meaning }) => named(meaning));
  // Two that differ by their letters alone are told apart by nobody.
  return found.length === 1 ? found[0] : undefined;
}

const headingFinding = (heading: string, { name }: Dictionary): Finding =>
  finding('stop', { line: 1 }, 'setting-table-heading', { heading, model: name, keys: KEYS.join(', ') });

interface Head {
  readonly column: string;
  readonly parameter: Parameter;
}

function rowOf(
  { line, cells }: Table['rows'][number],
  keys: readonly TableKey[],
  heads: readonly Head[],
  findings: Finding[],
): SettingRow {
  const own: Partial<Record<TableKey, string>> = {};
  for (const key of keys) {
    const text = (cells[key] ?? '').trim();
    if (text === '') continue;
    if (TABLE_KEYS[key] === 'number' && !parseDecimal(text).ok)
      findings.push(finding('stop', { line }, 'setting-table-number', { column: key, text }));
    own[key] = text;
  }
  if (Object.keys(own).length === 0) findings.push(finding('stop', { line }, 'setting-table-keyless', {}));
  const values = new Map<Code, number>();
  for (const { column, parameter } of heads) {
    const text = (cells[column] ?? '').trim();
    // Nothing in a cell says nothing of this setting.
    if (text === '') continue;
    const raw = isFormula(text) ? undefined : parseRaw(parameter.form, text);
    if (raw?.ok) values.set(parameter.code, raw.value);
    else findings.push(finding('stop', { line }, 'setting-table-value', { code: parameter.code, text }));
  }
  return { line, keys: own, values };
}

/** Values of a row that a unit of this outfit cannot hold; they are told where the row is used. */
export function refusedValues(
  dictionary: Dictionary,
  outfit: { readonly rating: string; readonly region: string },
  { values }: SettingRow,
): readonly { readonly code: Code; readonly text: string }[] {
  const facts = factsOf(dictionary, outfit) ?? {};
  return [...values].flatMap(([code, raw]) => {
    const parameter = findParameter(dictionary, code);
    const why = parameter && refusalOf(parameter, raw, facts);
    return parameter && why ? [{ code, text: describeRefusal(parameter, why) }] : [];
  });
}
