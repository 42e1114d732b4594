// A set as JSON by docs/formats/parameter-set.schema.json. Unknown versions are refused.

import { findParameter, placeOf, type Dictionary } from '../dictionary/index.ts';
import { finding } from '../findings/index.ts';
import { hashOf, isReading, type ParameterSet } from '../sets/index.ts';
import { formatRaw, type Reading } from '../values/index.ts';
import { nothing, type SetFileLines } from './set-csv.ts';
import { serialIn, type SetFileEntry } from './set-file.ts';

/** Name in the head of the file; another one is refused. */
export const SET_JSON_FORMAT = 'drive-keep/parameter-set';
/** Goes up when older readers would read the file wrongly. */
export const SET_JSON_VERSION = 1;

/** Facts about where a set comes from; informative, not part of the content. */
export interface SetOrigin {
  readonly position?: string;
  readonly serial?: string;
  /** Address on its line. */
  readonly node?: number;
  readonly firmware?: string;
  readonly rating?: string;
  readonly region?: string;
  readonly takenAt?: string;
  readonly takenBy?: string;
  readonly how?: string;
  readonly reason?: string;
}

/** By docs/formats/parameter-set.schema.json; values in the unit of the parameter stand beside the raw ones for eyes only. */
export function writeSetJson(dictionary: Dictionary, set: ParameterSet, origin: SetOrigin): string {
  const sorted = [...set.readings].sort(([a], [b]) => placeOf(dictionary, a) - placeOf(dictionary, b));
  const document = {
    format: SET_JSON_FORMAT,
    version: SET_JSON_VERSION,
    dictionary: set.dictionary,
    hash: hashOf(set),
    origin,
    parameters: sorted.map(([code, reading]) => toItem(dictionary, code, reading)),
  };
  return `${JSON.stringify(document, null, 1)}\n`;
}

function toItem(dictionary: Dictionary, code: string, reading: Reading): object {
  const parameter = findParameter(dictionary, code);
  const name = parameter?.name;
  if (typeof reading === 'object') return { code, name, unreadable: reading.unreadable };
  if (!parameter) return { code, raw: reading };
  const unit =
    parameter.form.kind === 'number' && parameter.form.unit !== '' ? parameter.form.unit : undefined;
  return { code, name, raw: reading, value: formatRaw(parameter.form, reading), unit };
}

/** Lines of a set from JSON; the line of an entry is its place in the list, counted from 1. */
export function readSetJson(text: string): SetFileLines {
  if (text.trim() === '') return nothing(finding('stop', { line: 1 }, 'file-empty', {}));
  let source: unknown;
  try {
    source = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    return nothing(finding('stop', { line: lineOfFault(text, error) }, 'file-broken', { wanted: 'JSON' }));
  }
  const document = (typeof source === 'object' && source !== null ? source : {}) as Record<string, unknown>;
  const found = `${String(document['format'])} ${String(document['version'])}`;
  if (document['format'] !== SET_JSON_FORMAT || document['version'] !== SET_JSON_VERSION) {
    return nothing(finding('stop', { line: 1 }, 'format-unknown', { found }));
  }
  const { dictionary, hash, parameters } = document;
  if (typeof dictionary !== 'string' || typeof hash !== 'string' || !Array.isArray(parameters)) {
    const wanted = 'dictionary, hash and parameters';
    return nothing(finding('stop', { line: 1 }, 'file-broken', { wanted }));
  }
  const { serial } = (document['origin'] ?? {}) as { serial?: unknown };
  const head = { dictionary, hash, serial: serialIn(serial) };
  return { head, entries: parameters.map(toEntry), findings: [] };
}

/** The place in the list stands for the line: it is what the reader of a finding can count. */
function toEntry(item: unknown, at: number): SetFileEntry {
  const fields = (typeof item === 'object' && item !== null ? item : {}) as Record<string, unknown>;
  const text = (key: string) => (typeof fields[key] === 'string' ? fields[key] : '');
  const raw = fields['raw'];
  return {
    line: at + 1,
    code: text('code'),
    value: text('value'),
    raw:
      raw === undefined ? '' : isReading(raw) && typeof raw === 'number' ? String(raw) : 'not a whole number',
    unit: text('unit'),
    unreadable: text('unreadable'),
    name: text('name'),
    text: '',
    codeStored: false,
  };
}

function lineOfFault(text: string, error: unknown): number {
  // Where nothing is said of the place, the text ended too early.
  const position = Number(/position (\d+)/.exec(String(error))?.[1] ?? text.length);
  return text.slice(0, position).split('\n').length;
}
