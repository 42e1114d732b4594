// Writes after which a unit may no longer be reached over its line: the speed and parity of the line, the order of words, and
// the lock against writes. They come last, and somebody has to state that he knows what they mean.

import { findParameter, type Code, type Dictionary, type Parameter } from '../dictionary/index.ts';
import { showRaw } from '../values/index.ts';

const OF_LINE = ['network.baud', 'network.parity', 'network.wordOrder'] as const;

export type CutOffKind = 'baud' | 'parity' | 'word-order' | 'write-lock';

export interface CutOff {
  readonly code: Code;
  readonly kind: CutOffKind;
  /** What it is set to, as the manual shows it. */
  readonly value: string;
  /** It takes effect with the next restart of the unit, not at once. */
  readonly afterRestart: boolean;
}

/** A setting of the line itself, which all that talk on it have to share. */
export const isOfLine = ({ meaning }: Pick<Parameter, 'meaning'>): boolean =>
  meaning !== null && (OF_LINE as readonly string[]).includes(meaning);

const KINDS: Readonly<Record<string, CutOffKind>> = {
  'network.baud': 'baud',
  'network.parity': 'parity',
  'network.wordOrder': 'word-order',
  'network.writeLock': 'write-lock',
};

/** Those among the writes, in their order. Taking a lock off cuts nobody off. */
export function cutOffsIn(
  dictionary: Dictionary,
  steps: readonly { readonly code: string; readonly to: number }[],
): readonly CutOff[] {
  const last = new Map(steps.map(({ code, to }) => [code, to]));
  return [...last].flatMap(([code, to]) => {
    const parameter = findParameter(dictionary, code);
    const kind = KINDS[parameter?.meaning ?? ''];
    if (!parameter || !kind || (kind === 'write-lock' && to === 0)) return [];
    const { form, restart } = parameter;
    return [{ code: parameter.code, kind, value: showRaw(form, to), afterRestart: restart }];
  });
}

/** What it means for the line, and what has to be done by hand. */
export function describeCutOff({ code, kind, value, afterRestart }: CutOff): string {
  const when = afterRestart ? 'after its next restart' : 'at once';
  switch (kind) {
    case 'baud':
      return `${code} = ${value}: ${when} the unit answers at this speed only. Set the gateway, and every other unit of the line, to the same; until then the unit cannot be reached.`;
    case 'parity':
      return `${code} = ${value}: ${when} the unit answers with this parity only. Set the gateway, and every other unit of the line, to the same; until then the unit cannot be reached.`;
    case 'word-order':
      return `${code} = ${value}: ${when} the unit gives the two registers of a 32-bit value in this order. Drive Keep finds that out by itself; a controller on the same line does not.`;
    case 'write-lock':
      return `${code} = ${value}: ${when} the unit takes no other write over the network until the lock is taken off.`;
  }
}
