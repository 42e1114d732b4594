// The shape of a check, and of what it finds: what is wrong, the values it is about, and values that would mend it.

import type { Code } from '../dictionary/index.ts';
import type { Attention, Said } from '../findings/index.ts';
import type { Reading } from '../values/index.ts';
import type { Look } from './look.ts';

export interface CheckedValue {
  readonly code: Code;
  /** Nothing where the set does not have it. */
  readonly reading: Reading | undefined;
}

/** Raw values with which the check finds nothing more; it was tried. */
export type CheckMend = readonly { readonly code: Code; readonly raw: number }[];

/** Values by meaning, in plain units or as options. */
export type Wish = Readonly<Record<string, number | string>>;

export interface Found {
  readonly check: string;
  /** Which of several it is about: `input 3`, `preset.2`; empty where there is one. */
  readonly at: string;
  readonly attention: Attention;
  readonly said: Said;
  readonly values: readonly CheckedValue[];
  readonly mends: readonly CheckMend[];
}

export interface Check {
  readonly id: string;
  readonly look: (look: Look) => void;
}

/** Of the position it is the same finding, whatever the values. */
export const identityOf = ({ check, at }: Pick<Found, 'check' | 'at'>): string =>
  at === '' ? check : `${check} ${at}`;

/** Changes with the values that the finding is about, and with what it says of them. */
export const signatureOf = ({ said, values }: Pick<Found, 'said' | 'values'>): string =>
  JSON.stringify([said, values.map(({ code, reading }) => [code, reading ?? null])]);
