// A set as a file: what it says beside the values, and how its lines become a set. All findings are collected; a
// finding that stops means that the file is not taken in.

import {
  findParameter,
  isNoise,
  refusalOf,
  refusalSaid,
  type Code,
  type Dictionary,
  type Facts,
} from '../dictionary/index.ts';
import { finding, valueSaid, type FactsOf, type Finding, type FindingCode } from '../findings/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import {
  describeRaw,
  formatRaw,
  looksLikeDate,
  isKnownUnit,
  normalUnit,
  parseDecimal,
  parseRaw,
  rawInUnit,
  showRaw,
  type Form,
  type Reading,
  type UnreadableReason,
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
  /** What the file calls the parameter, and the text of its option or bits: they have to say the same. */
  readonly name: string;
  readonly text: string;
  /** The file itself keeps the code as a number. */
  readonly codeStored: boolean;
}

/** An entry of a file that tells no more than code and value. */
export const BARE_ENTRY: Omit<SetFileEntry, 'line' | 'code'> = {
  ...{ value: '', raw: '', unit: '', unreadable: '', name: '', text: '', codeStored: false },
};

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

export interface ReadSet {
  readonly set: ParameterSet;
  readonly findings: readonly Finding[];
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
  const findings: Finding[] = [];
  const readings = new Map<Code, Reading>();
  const wanted = dictionary.id;
  if (head.dictionary !== null && head.dictionary !== wanted) {
    const facts = { found: head.dictionary, wanted };
    findings.push(finding('stop', { line: 1 }, 'other-dictionary', facts));
  } else {
    for (const entry of entries) takeEntry(dictionary, facts, entry, readings, findings);
    findings.push(...nameFindings(dictionary, entries));
    // Object files are read object by object: people look for findings line by line.
    findings.sort((a, b) => (a.line ?? 0) - (b.line ?? 0));
    findMissing(dictionary, readings, findings);
  }
  return { set: { dictionary: wanted, readings }, findings, serial: head.serial };
}

function takeEntry(
  dictionary: Dictionary,
  facts: Facts,
  entry: SetFileEntry,
  readings: Map<Code, Reading>,
  findings: Finding[],
): void {
  const { line } = entry;
  const stop = <C extends FindingCode>(code: C, facts: FactsOf<C>): void =>
    void findings.push(finding('stop', { line }, code, facts));
  const text = entry.code;
  if (text === '') return stop('code-missing', {});
  const formula = (['code', 'value', 'raw'] as const).find((column) => /^[=@]/.test(entry[column]));
  if (formula) return stop('formula', { column: formula });
  const parameter = findParameter(dictionary, text);
  if (!parameter && looksLikeDate(text)) return stop('code-is-date', { text });
  const cut = entry.codeStored ? wholeCode(dictionary, text) : undefined;
  if (cut !== undefined) return stop('code-cut', { text, code: cut });
  if (!parameter) return stop('not-of-the-model', { text, model: dictionary.name });
  if (readings.has(parameter.code)) return stop('line-twice', { text });
  if (entry.unreadable !== '') {
    if (entry.value !== '' || entry.raw !== '')
      return stop('unreadable-and-value', { text, value: entry.value || entry.raw });
    const reason = REASONS.find((known) => known === entry.unreadable);
    if (!reason) return stop('reason-unknown', { text: entry.unreadable });
    return void readings.set(parameter.code, { unreadable: reason });
  }
  const raw = rawOfEntry(parameter.form, entry, findings);
  if (raw === undefined) return;
  const says = wordsOf(parameter.form, raw);
  if (entry.text !== '' && !alike(entry.text, says))
    return stop('text-differs', { text, found: entry.text, says });
  readings.set(parameter.code, raw);
  const refusal = isNoise(parameter) ? undefined : refusalOf(parameter, raw, facts);
  if (!refusal) return;
  const why = refusalSaid(parameter, refusal);
  findings.push(finding('look', { line }, 'out-of-range', { text, why }));
}

/** A code of which a spreadsheet has cut zeros, as it was meant: `7` for `007`, `1.1` where there is `1.10`, too. */
function wholeCode({ parameters }: Dictionary, text: string): string | undefined {
  const meant = parameters.filter(
    ({ code }) => code !== text && Number(code) === Number(text) && /^[\d.]+$/.test(code),
  );
  return meant[0]?.code;
}

const alike = (a: string, b: string): boolean =>
  a.trim().replace(/\s+/g, ' ').toLowerCase() === b.trim().replace(/\s+/g, ' ').toLowerCase();

/** What a file may write beside a raw value: the text of the option or bits, or the number with its unit. */
const wordsOf = (form: Form, raw: number): string => describeRaw(form, raw) ?? showRaw(form, raw);

/** Names that are other names of the dictionary are right; where most of them are strange, the file speaks other words. */
function nameFindings(dictionary: Dictionary, entries: readonly SetFileEntry[]): readonly Finding[] {
  const named = entries.filter(({ name }) => name !== '');
  const strange = named.flatMap(({ line, code, name }) => {
    const parameter = findParameter(dictionary, code);
    const known = parameter && [parameter.name, ...parameter.otherNames].some((each) => alike(each, name));
    return parameter && !known ? [{ line, text: code, name, wanted: parameter.name }] : [];
  });
  // The name of another parameter is a line that slipped, whatever the others are called.
  const slipped = strange.filter(({ name }) => dictionary.parameters.some((each) => alike(each.name, name)));
  const others = strange.filter((each) => !slipped.includes(each));
  const foreign = others.length * 2 > named.length;
  const stops = foreign ? slipped : strange;
  return [
    ...(foreign ? [finding('look', { line: 1 }, 'names-other', { count: others.length })] : []),
    ...stops.map(({ line, ...facts }) => finding('stop', { line }, 'name-differs', facts)),
  ];
}

/** Raw wins where both are given, but only if the value says the same: a hand-edited value must not be lost. */
function rawOfEntry(form: Form, entry: SetFileEntry, findings: Finding[]): number | undefined {
  const { line, code: text } = entry;
  const raw = /^-?\d{1,10}$/.test(entry.raw) ? Number(entry.raw) : undefined;
  if (entry.raw !== '' && raw === undefined)
    return void findings.push(finding('stop', { line }, 'raw-unreadable', { text }));
  if (form.kind !== 'number' && entry.unit !== '') {
    const facts = { text, found: entry.unit, wanted: 'no unit' };
    return void findings.push(finding('stop', { line }, 'unit-differs', facts));
  }
  if (entry.value === '') {
    if (raw === undefined) findings.push(finding('stop', { line }, 'value-missing', { text }));
    return raw;
  }
  const value = rawOfValue(form, withoutItsText(form, withOwnUnit(form, entry)), findings);
  if (value === undefined) return undefined;
  if (raw !== undefined && raw !== value) {
    const facts = { text, value: entry.value, fromRaw: formatRaw(form, raw) };
    return void findings.push(finding('stop', { line }, 'value-and-raw-differ', facts));
  }
  return value;
}

/** `1 = keypad` in the cell of the value, where the option says so. */
function withoutItsText(form: Form, entry: SetFileEntry): SetFileEntry {
  if (form.kind !== 'option') return entry;
  const [, number = '', text = ''] = /^(\d+)\s*[=:–-]\s*(\S.*)$/.exec(entry.value) ?? [];
  const option = form.options.find(({ raw }) => raw === Number(number));
  return number !== '' && option && alike(option.text, text) ? { ...entry, value: number } : entry;
}

/** `50.0 Hz` in the cell of the value; a unit column beside it has to say the same. */
function withOwnUnit(form: Form, entry: SetFileEntry): SetFileEntry {
  if (form.kind !== 'number') return entry;
  const [, value = '', unit = ''] = /^([+-]?[\d.]+)\s*(\S.*)$/.exec(entry.value) ?? [];
  if (!isKnownUnit(unit) || (entry.unit !== '' && normalUnit(entry.unit) !== normalUnit(unit))) return entry;
  return { ...entry, value, unit };
}

/** A value in another unit of the same quantity is converted, and said to be. */
function rawOfValue(form: Form, entry: SetFileEntry, findings: Finding[]): number | undefined {
  const { line, code: text, unit } = entry;
  if (form.kind === 'number' && unit !== '' && normalUnit(unit) !== form.unit) {
    const decimal = parseDecimal(entry.value);
    const converted = decimal.ok ? rawInUnit(form, decimal.value, unit) : undefined;
    if (decimal.ok && !converted)
      return void findings.push(
        finding('stop', { line }, 'unit-differs', { text, found: unit, wanted: form.unit }),
      );
    if (converted) {
      const from = `${entry.value} ${unit}`;
      const to = showRaw(form, converted.raw);
      const { exact } = converted;
      findings.push(finding('look', { line }, 'unit-converted', { text, from, to, exact }));
      return converted.raw;
    }
  }
  const value = parseRaw(form, entry.value);
  if (value.ok) return value.value;
  if (looksLikeDate(entry.value))
    return void findings.push(finding('stop', { line }, 'value-is-date', { text, value: entry.value }));
  const why = valueSaid(value.fault);
  return void findings.push(finding('stop', { line }, 'value-unreadable', { text, why }));
}

/** Less than half of the settings: such a file tells some values of a unit, and not what it holds. */
export function isPartial(dictionary: Dictionary, readings: ReadonlyMap<Code, Reading>): boolean {
  const settings = dictionary.parameters.filter((each) => !isNoise(each));
  return settings.filter(({ code }) => readings.has(code)).length * 2 < settings.length;
}

function findMissing(
  dictionary: Dictionary,
  readings: ReadonlyMap<Code, Reading>,
  findings: Finding[],
): void {
  const missing = dictionary.parameters.filter((each) => !isNoise(each) && !readings.has(each.code));
  if (missing.length === 0) return;
  if (isPartial(dictionary, readings)) {
    const settings = dictionary.parameters.filter((each) => !isNoise(each)).length;
    const facts = { found: settings - missing.length, of: settings };
    findings.push(finding('look', { line: 1 }, 'set-partial', facts));
    return;
  }
  const codes = missing.map((parameter) => parameter.code);
  findings.push(finding('look', { line: 1 }, 'parameters-missing', { codes }));
}
