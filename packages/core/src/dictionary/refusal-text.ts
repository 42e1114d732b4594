// Why a value cannot be held, in words with units.

import { assertNever, showRaw } from '../values/index.ts';
import type { ValueRefusal } from './dictionary.ts';
import type { Parameter } from './parameter.ts';

export function describeRefusal(parameter: Parameter | undefined, refusal: ValueRefusal): string {
  const show = (raw: number) => (parameter ? showRaw(parameter.form, raw) : String(raw));
  switch (refusal.code) {
    case 'no-such-option':
      return `there is no option ${refusal.raw}.`;
    case 'no-such-bit':
      return 'bits are set that have no meaning.';
    case 'below-least':
      return `${show(refusal.raw)} is below the least value, ${show(refusal.limit)}.`;
    case 'above-greatest':
      return `${show(refusal.raw)} is above the greatest value, ${show(refusal.limit)}.`;
    default:
      return assertNever(refusal);
  }
}
