// A parameter set: readings of one model at one moment. Its canonical form is one text per content, so that equal
// content has an equal hash whoever wrote it, in whatever order the readings came.

import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Code, DictionaryId } from '../dictionary/index.ts';
import { fail, ok, UNREADABLE_REASONS, type Reading, type Result } from '../values/index.ts';

declare const brand: unique symbol;
/** `sha256:` and 64 hexadecimal digits. */
export type ContentHash = string & { readonly [brand]: 'ContentHash' };

export interface ParameterSet {
  readonly dictionary: DictionaryId;
  /** Raw values by code. A code that is not there was not read; that is not zero. */
  readonly readings: ReadonlyMap<Code, Reading>;
}

/** The canonical text (JSON, codes in code-unit order). Same content gives the same bytes. */
export function canonicalText(set: ParameterSet): string {
  const readings = [...set.readings].sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return JSON.stringify({ dictionary: set.dictionary, readings });
}

/** SHA-256 (FIPS 180-4) of the canonical text in UTF-8. */
export const hashOf = (set: ParameterSet): ContentHash => hashText(canonicalText(set));

/** The same of a canonical text that is there already; `sha256:` and 64 hexadecimal digits. */
export const hashText = (canonical: string): ContentHash =>
  `sha256:${bytesToHex(sha256(utf8ToBytes(canonical)))}` as ContentHash;

/** Reads a canonical text back. Damaged content is a failure, never a set with gaps. */
export function parseCanonical(text: string): Result<ParameterSet, 'damaged'> {
  let source: unknown;
  try {
    source = JSON.parse(text);
  } catch {
    return fail('damaged');
  }
  const { dictionary, readings } = (source ?? {}) as { dictionary?: unknown; readings?: unknown };
  if (typeof dictionary !== 'string' || !Array.isArray(readings)) return fail('damaged');
  if (!readings.every(isEntry)) return fail('damaged');
  return ok({ dictionary: dictionary as DictionaryId, readings: new Map(readings) });
}

function isEntry(entry: unknown): entry is [Code, Reading] {
  if (!Array.isArray(entry) || entry.length !== 2 || typeof entry[0] !== 'string') return false;
  return isReading(entry[1]);
}

/** A whole number within ±2⁵³, or a reason for its absence that is known. */
export function isReading(value: unknown): value is Reading {
  if (typeof value === 'number') return Number.isSafeInteger(value);
  const reason = (value as { unreadable?: unknown } | null)?.unreadable;
  return UNREADABLE_REASONS.some((known) => known === reason);
}

/** How many parameters the unit did not give. */
export const unreadableCount = (set: ParameterSet): number =>
  [...set.readings.values()].filter((reading) => typeof reading === 'object').length;
