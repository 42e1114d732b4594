// One way in for every set file: text to lines by its kind, lines to a set by the dictionary, hash against content.

import type { Dictionary, Facts } from '../dictionary/index.ts';
import { hashOf } from '../sets/index.ts';
import { readSetCsv, type SetFileLines } from './set-csv.ts';
import { checkEntries, type ReadSet, type SetFinding } from './set-file.ts';
import { readSetJson } from './set-json.ts';

export type SetFileKind = 'csv' | 'json';

export function readSet(kind: SetFileKind, text: string, dictionary: Dictionary, facts: Facts): ReadSet {
  const lines: SetFileLines = kind === 'csv' ? readSetCsv(text) : readSetJson(text);
  if (lines.findings.length > 0) {
    return { set: { dictionary: dictionary.id, readings: new Map() }, findings: lines.findings };
  }
  const read = checkEntries(dictionary, facts, lines.head, lines.entries);
  const stopped = read.findings.some((finding) => finding.severity === 'stop');
  if (stopped || lines.head.hash === null || lines.head.hash === hashOf(read.set)) return read;
  const finding: SetFinding = { line: 1, severity: 'look', code: 'hash-differs' };
  return { set: read.set, findings: [...read.findings, finding] };
}

/** JSON documents start with a brace; everything else is read as a table. */
export const kindOfText = (text: string): SetFileKind => (/^\uFEFF?\s*[{[]/.test(text) ? 'json' : 'csv');
