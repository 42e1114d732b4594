// Whether something that came over the network is a word that can be said on a sheet.

import type { SaidValue } from '@drive-keep/core/replace';

const LONGEST_TEXT = 1000;
const MOST_VALUES = 100;

const isText = (value: unknown): value is string => typeof value === 'string' && value.length <= LONGEST_TEXT;
/** A reason is said, not only left blank. */
const isReason = (value: unknown): boolean => isText(value) && value.trim().length >= 3;

export function isSaidValue(value: unknown): value is SaidValue {
  if (typeof value !== 'object' || value === null) return false;
  const { kind, ...rest } = value as Record<string, unknown>;
  const has = (...names: string[]) =>
    Object.keys(rest).length === names.length && names.every((name) => name in rest);
  switch (kind) {
    case 'choice':
      return has('at') && Number.isInteger(rest.at) && Number(rest.at) >= 0;
    case 'own':
      return has('values', 'reason') && isReason(rest.reason) && isValues(rest.values);
    case 'accepted':
      return has('reason') && isReason(rest.reason);
    case 'to':
      return has('terminal') && isText(rest.terminal) && rest.terminal !== '';
    case 'done':
      return has('note') && isText(rest.note);
    default:
      return false;
  }
}

function isValues(value: unknown): boolean {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  const raws = Object.values(value);
  return raws.length > 0 && raws.length <= MOST_VALUES && raws.every((raw) => Number.isSafeInteger(raw));
}
