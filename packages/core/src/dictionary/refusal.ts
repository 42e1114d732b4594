// Why a value cannot be held, with the values as they are shown.

import { describe, said, type Said } from '../findings/index.ts';
import { assertNever, showRaw } from '../values/index.ts';
import type { ValueRefusal } from './dictionary.ts';
import type { Parameter } from './parameter.ts';

/** `parameter` gives the unit; without it the raw value stands. */
export function refusalSaid(parameter: Parameter | undefined, refusal: ValueRefusal): Said {
  const show = (raw: number) => (parameter ? showRaw(parameter.form, raw) : String(raw));
  switch (refusal.code) {
    case 'no-such-option':
      return said(refusal.code, { raw: refusal.raw });
    case 'no-such-bit':
      return said(refusal.code, {});
    case 'below-minimum':
    case 'above-maximum':
      return said(refusal.code, { value: show(refusal.raw), limit: show(refusal.limit) });
    default:
      return assertNever(refusal);
  }
}

/** The same in words, without the code of the parameter: `65.00 s is below the minimum value, 70.00 s.` */
export const describeRefusal = (parameter: Parameter | undefined, refusal: ValueRefusal): string =>
  describe(refusalSaid(parameter, refusal));
