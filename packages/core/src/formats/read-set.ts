// One way in for every set file: text to lines by its kind, lines to a set by the dictionary, hash against content.

import type { Dictionary, Facts } from '../dictionary/index.ts';
import { finding, hasStop } from '../findings/index.ts';
import { hashOf } from '../sets/index.ts';
import { assertNever, type Table } from '../values/index.ts';
import { readSetCsv, readSetRows, type SetFileLines } from './set-csv.ts';
import { readSetDcf } from './set-dcf.ts';
import { checkEntries, type ReadSet } from './set-file.ts';
import { readSetJson } from './set-json.ts';

export type SetTextKind = 'csv' | 'json' | 'dcf';
export const SET_FILE_KINDS = ['json', 'csv', 'xlsx', 'dcf'] as const;
export type SetFileKind = (typeof SET_FILE_KINDS)[number];

/**
 * Reads a set for a unit of this model, with `facts` of its rating and region. The set holds what could be read; whether it
 * may be taken in is said by its findings, and a hash that the file claims is held against the content.
 */
export function readSet(kind: SetTextKind, text: string, dictionary: Dictionary, facts: Facts): ReadSet {
  return readLines(linesOf(kind, text, dictionary), dictionary, facts);
}

/** A set from the rows of a spreadsheet. */
export const readSetTable = (table: Table, dictionary: Dictionary, facts: Facts): ReadSet =>
  readLines(readSetRows(table), dictionary, facts);

function linesOf(kind: SetTextKind, text: string, dictionary: Dictionary): SetFileLines {
  switch (kind) {
    case 'csv':
      return readSetCsv(text);
    case 'json':
      return readSetJson(text);
    case 'dcf':
      return readSetDcf(text, dictionary);
    default:
      return assertNever(kind);
  }
}

function readLines(lines: SetFileLines, dictionary: Dictionary, facts: Facts): ReadSet {
  if (hasStop(lines.findings)) {
    const set = { dictionary: dictionary.id, readings: new Map() };
    return { set, findings: lines.findings, serial: lines.head.serial };
  }
  const checked = checkEntries(dictionary, facts, lines.head, lines.entries);
  const read = { ...checked, findings: [...lines.findings, ...checked.findings] };
  if (hasStop(read.findings) || lines.head.hash === null || lines.head.hash === hashOf(read.set)) return read;
  return { ...read, findings: [...read.findings, finding('look', { line: 1 }, 'hash-differs', {})] };
}

/** JSON documents start with a brace, object files with a section in brackets; everything else is read as a table. */
export function kindOfText(text: string): SetTextKind {
  if (/^[ \t]*\[DeviceInfo\][ \t]*$/im.test(text)) return 'dcf';
  return /^\uFEFF?\s*[{[]/.test(text) ? 'json' : 'csv';
}
