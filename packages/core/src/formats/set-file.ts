// A set as a file: what it says beside the values, and how its lines become a set. All findings are collected; a
// finding of severity `stop` means that the file is not taken in, `look` that somebody should look before it is.

import {
  findParameter,
  isNoise,
  refusalOf,
  type Code,
  type Dictionary,
  type Facts,
  type ValueRefusal,
} from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import {
  formatRaw,
  normalUnit,
  parseDecimal,
  parseRaw,
  rawInUnit,
  showRaw,
  type Form,
  type Reading,
  type UnreadableReason,
  type ValueFault,
} from '../values/index.ts';

/** One line of a set file before it is checked. Texts are as in the file; empty means not given. */
export interface SetFileEntry {
  readonly line: number;
  readonly code: string;
  readonly value: string;
  readonly raw: string;
  /** Unit of `value`; that of the dictionary where it is empty. */
  readonly unit: string;
  readonly unreadable: string;
}

export interface SetFileHead {
  readonly dictionary: string | null;
  /** The hash that the file claims for its content. */
  readonly hash: string | null;
  /** Serial number of the unit that the set was read from. */
  readonly serial: number | null;
}

/** Of a file that tells nothing about itself. */
export const NO_HEAD: SetFileHead = { dictionary: null, hash: null, serial: null };

/** A serial number as a file has it; 0 is what tools write where they know none. */
export function serialIn(text: unknown): number | null {
  const serial = Number(typeof text === 'string' ? text.trim() : text);
  return Number.isSafeInteger(serial) && serial > 0 ? serial : null;
}

export type SetFinding = { readonly line: number; readonly severity: 'stop' | 'look' } & (
  | { readonly code: 'file-empty' }
  | { readonly code: 'file-broken'; readonly wanted: string }
  | { readonly code: 'format-unknown'; readonly found: string }
  | { readonly code: 'column-missing'; readonly column: string }
  | { readonly code: 'other-dictionary'; readonly found: string; readonly wanted: string }
  | { readonly code: 'code-missing' }
  /** A spreadsheet program takes `4/12` for a day of the year and writes a date in its place. */
  | { readonly code: 'code-is-date'; readonly text: string }
  | { readonly code: 'value-is-date'; readonly text: string; readonly value: string }
  | { readonly code: 'code-unknown'; readonly text: string }
  | { readonly code: 'code-twice'; readonly text: string }
  | { readonly code: 'formula'; readonly column: string }
  | { readonly code: 'value-missing'; readonly text: string }
  | { readonly code: 'value-unreadable'; readonly text: string; readonly fault: ValueFault }
  | {
      readonly code: 'unit-converted';
      readonly text: string;
      readonly from: string;
      readonly to: string;
      readonly exact: boolean;
    }
  | { readonly code: 'unit-differs'; readonly text: string; readonly found: string; readonly wanted: string }
  | { readonly code: 'raw-unreadable'; readonly text: string }
  | { readonly code: 'reason-unknown'; readonly text: string }
  | {
      readonly code: 'value-and-raw-differ';
      readonly text: string;
      readonly value: string;
      readonly fromRaw: string;
    }
  | { readonly code: 'out-of-range'; readonly text: string; readonly refusal: ValueRefusal }
  | { readonly code: 'parameters-missing'; readonly codes: readonly string[] }
  | { readonly code: 'hash-differs' }
);

export interface ReadSet {
  readonly set: ParameterSet;
  readonly findings: readonly SetFinding[];
  /** Serial number of the unit that the set was read from, where the file tells it. */
  readonly serial: number | null;
}

const REASONS: readonly UnreadableReason[] = ['refused', 'failed', 'busy', 'not-read-off'];

/** Checks the lines of a file against the dictionary of the unit they are for. */
export function checkEntries(
  dictionary: Dictionary,
  facts: Facts,
  head: SetFileHead,
  entries: readonly SetFileEntry[],
): ReadSet {
  const findings: SetFinding[] = [];
  const readings = new Map<Code, Reading>();
  const wanted = dictionary.id;
  if (head.dictionary !== null && head.dictionary !== wanted) {
    findings.push({ line: 1, severity: 'stop', code: 'other-dictionary', found: head.dictionary, wanted });
  } else {
    for (const entry of entries) takeEntry(dictionary, facts, entry, readings, findings);
    // Object files are read object by object: people look for findings line by line.
    findings.sort((a, b) => a.line - b.line);
    findMissing(dictionary, readings, findings);
  }
  return { set: { dictionary: wanted, readings }, findings, serial: head.serial };
}

function takeEntry(
  dictionary: Dictionary,
  facts: Facts,
  entry: SetFileEntry,
  readings: Map<Code, Reading>,
  findings: SetFinding[],
): void {
  const stop = { line: entry.line, severity: 'stop' } as const;
  const text = entry.code;
  if (text === '') return void findings.push({ ...stop, code: 'code-missing' });
  const formula = (['code', 'value', 'raw'] as const).find((column) => /^[=@]/.test(entry[column]));
  if (formula) return void findings.push({ ...stop, code: 'formula', column: formula });
  const parameter = findParameter(dictionary, text);
  if (!parameter)
    return void findings.push({ ...stop, code: looksLikeDate(text) ? 'code-is-date' : 'code-unknown', text });
  if (readings.has(parameter.code)) return void findings.push({ ...stop, code: 'code-twice', text });
  if (entry.unreadable !== '') {
    const reason = REASONS.find((known) => known === entry.unreadable);
    if (!reason) return void findings.push({ ...stop, code: 'reason-unknown', text: entry.unreadable });
    return void readings.set(parameter.code, { unreadable: reason });
  }
  const raw = rawOfEntry(parameter.form, entry, findings);
  if (raw === undefined) return;
  readings.set(parameter.code, raw);
  const refusal = isNoise(parameter) ? undefined : refusalOf(parameter, raw, facts);
  if (refusal) findings.push({ line: entry.line, severity: 'look', code: 'out-of-range', text, refusal });
}

/** Raw wins where both are given, but only if the value says the same: a hand-edited value must not be lost. */
function rawOfEntry(form: Form, entry: SetFileEntry, findings: SetFinding[]): number | undefined {
  const stop = { line: entry.line, severity: 'stop', text: entry.code } as const;
  const raw = /^-?\d{1,10}$/.test(entry.raw) ? Number(entry.raw) : undefined;
  if (entry.raw !== '' && raw === undefined) return void findings.push({ ...stop, code: 'raw-unreadable' });
  if (entry.value === '') {
    if (raw === undefined) findings.push({ ...stop, code: 'value-missing' });
    return raw;
  }
  const value = rawOfValue(form, entry, findings);
  if (value === undefined) return undefined;
  if (raw !== undefined && raw !== value) {
    const fromRaw = formatRaw(form, raw);
    return void findings.push({ ...stop, code: 'value-and-raw-differ', value: entry.value, fromRaw });
  }
  return value;
}

/** A value in another unit of the same quantity is converted, and said to be. */
function rawOfValue(form: Form, entry: SetFileEntry, findings: SetFinding[]): number | undefined {
  const { line, code: text, unit } = entry;
  const stop = { line, severity: 'stop', text } as const;
  if (form.kind === 'number' && unit !== '' && normalUnit(unit) !== form.unit) {
    const decimal = parseDecimal(entry.value);
    const converted = decimal.ok ? rawInUnit(form, decimal.value, unit) : undefined;
    if (decimal.ok && !converted)
      return void findings.push({ ...stop, code: 'unit-differs', found: unit, wanted: form.unit });
    if (converted) {
      const from = `${entry.value} ${unit}`;
      const to = showRaw(form, converted.raw);
      const { exact } = converted;
      findings.push({ line, severity: 'look', code: 'unit-converted', text, from, to, exact });
      return converted.raw;
    }
  }
  const value = parseRaw(form, entry.value);
  if (value.ok) return value.value;
  if (looksLikeDate(entry.value))
    return void findings.push({ ...stop, code: 'value-is-date', value: entry.value });
  return void findings.push({ ...stop, code: 'value-unreadable', fault: value.fault });
}

const MONTH = '(jan|feb|m[aä]r|apr|ma[iy]|jun|jul|aug|sep|o[ck]t|nov|de[cz])[a-zäé]*';
const DATES = [
  /^\d{4}-\d{1,2}-\d{1,2}([T ].*)?$/,
  /^\d{1,2}[./-]\d{1,2}[./-]\d{2,4}$/,
  /^\d{1,2}\.\d{1,2}\.$/,
  new RegExp(`^\\d{1,2}[. /-]*${MONTH}\\.?([ -/]*\\d{2,4})?$`, 'i'),
  new RegExp(`^${MONTH}[. /-]*\\d{1,4}$`, 'i'),
];

/** What spreadsheet programs of several languages make of a text such as `4/12`. */
export const looksLikeDate = (text: string): boolean => DATES.some((date) => date.test(text.trim()));

function findMissing(
  dictionary: Dictionary,
  readings: ReadonlyMap<Code, Reading>,
  findings: SetFinding[],
): void {
  const missing = dictionary.parameters.filter((each) => !isNoise(each) && !readings.has(each.code));
  if (missing.length === 0) return;
  const codes = missing.map((parameter) => parameter.code);
  findings.push({ line: 1, severity: 'look', code: 'parameters-missing', codes });
}
