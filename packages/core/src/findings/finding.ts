// The one shape of what is found wrong, whoever finds it.

import type { TEXTS } from './texts.ts';

export type FindingCode = keyof typeof TEXTS;

/** What the sentence of a code needs; nothing where it is always the same. */
export type FactsOf<C extends FindingCode> =
  Parameters<(typeof TEXTS)[C]> extends [infer F extends object]
    ? Readonly<F>
    : Readonly<Record<never, never>>;

/** A sentence that is not yet at a place. */
export type Said<C extends FindingCode = FindingCode> = {
  readonly [K in C]: { readonly code: K; readonly facts: FactsOf<K> };
}[C];

/** `stop`: nothing can be done with it before this is mended; `look`: somebody should know. */
export type Attention = 'stop' | 'look';

/** Where it was found: in a file, line by line, or in a form. */
export interface Place {
  /** Of several files that belong together. */
  readonly file?: string;
  /** Counted from 1; nothing where the whole is meant. */
  readonly line?: number;
  /** A heading in a table, a count of characters in a text, a field of a form. */
  readonly column?: string | number;
}

export type Finding<C extends FindingCode = FindingCode> = Said<C> &
  Place & { readonly attention: Attention };

/** A sentence by its code, with the facts it needs. */
export const said = <C extends FindingCode>(code: C, facts: FactsOf<C>): Said<C> => ({ code, facts });

/** The same at a place, with how much attention it asks for. */
export const finding = <C extends FindingCode>(
  attention: Attention,
  place: Place,
  code: C,
  facts: FactsOf<C>,
): Finding => ({ ...place, attention, ...(said(code, facts) as Said) });

/** Whether one of them stops. */
export const hasStop = (findings: readonly Finding[]): boolean =>
  findings.some(({ attention }) => attention === 'stop');
