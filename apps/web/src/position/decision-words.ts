import type { DecisionKind, DecisionView } from '@drive-keep/api';
import { showDate } from '../words/dates.ts';

/** One key each, the word on the button, and how a decided row says it. */
export const DECISIONS: Readonly<
  Record<DecisionKind, { readonly key: string; readonly button: string; readonly row: string }>
> = {
  'put-back': { key: 'p', button: 'Put back', row: 'goes back' },
  'take-in': { key: 'i', button: 'Take in', row: 'into the baseline' },
  tolerate: { key: 't', button: 'Tolerate', row: 'tolerated' },
  later: { key: 'l', button: 'Later', row: 'look later' },
};

export const kindOfKey = (key: string): DecisionKind | undefined =>
  (Object.keys(DECISIONS) as DecisionKind[]).find((kind) => DECISIONS[kind].key === key);

/** Needs a reason before it counts. */
export const wantsReason = (kind: DecisionKind): boolean => kind === 'take-in' || kind === 'tolerate';

export function describeDecision({ kind, until, person, reason }: DecisionView): string {
  const limit = until ? ` until ${showDate(`${until}T12:00:00`)}` : '';
  return `${DECISIONS[kind].row}${limit}, ${person}${reason === '' ? '' : `: ${reason}`}`;
}
