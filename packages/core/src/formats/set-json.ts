// A set as JSON by docs/formats/parameter-set.schema.json. Unknown versions are refused.

import { findParameter, placeOf, type Dictionary } from '../dictionary/index.ts';
import { hashOf, isReading, type ParameterSet } from '../sets/index.ts';
import { formatRaw, type Reading } from '../values/index.ts';
import type { SetFileLines } from './set-csv.ts';
import { NO_HEAD, serialIn, type SetFileEntry, type SetFinding } from './set-file.ts';

export const SET_JSON_FORMAT = 'drive-keep/parameter-set';
export const SET_JSON_VERSION = 1;

/** Facts about where a set comes from; informative, not part of the content. */
export interface SetOrigin {
  readonly position?: string;
  readonly serial?: string;
  readonly firmware?: string;
  readonly rating?: string;
  readonly region?: string;
  readonly takenAt?: string;
  readonly takenBy?: string;
  readonly how?: string;
  readonly reason?: string;
}

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

export function readSetJson(text: string): SetFileLines {
  if (text.trim() === '') return nothing({ line: 1, severity: 'stop', code: 'file-empty' });
  let source: unknown;
  try {
    source = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    return nothing({ line: lineOfFault(text, error), severity: 'stop', code: 'file-broken', wanted: 'JSON' });
  }
  const document = (typeof source === 'object' && source !== null ? source : {}) as Record<string, unknown>;
  const found = `${String(document['format'])} ${String(document['version'])}`;
  if (document['format'] !== SET_JSON_FORMAT || document['version'] !== SET_JSON_VERSION) {
    return nothing({ line: 1, severity: 'stop', code: 'format-unknown', found });
  }
  const { dictionary, hash, parameters } = document;
  if (typeof dictionary !== 'string' || typeof hash !== 'string' || !Array.isArray(parameters)) {
    return nothing({
      line: 1,
      severity: 'stop',
      code: 'file-broken',
      wanted: 'dictionary, hash and parameters',
    });
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
  };
}

function lineOfFault(text: string, error: unknown): number {
  // Where nothing is said of the place, the text ended too early.
  const position = Number(/position (\d+)/.exec(String(error))?.[1] ?? text.length);
  return text.slice(0, position).split('\n').length;
}

const nothing = (finding: SetFinding): SetFileLines => ({
  head: NO_HEAD,
  entries: [],
  findings: [finding],
});
