// What was decided and is not done yet: plans that wait for their release or are at work, and key-in sheets that are open. A
// parameter that one of them changes stands as waiting, not as undecided.

import type { KeyInSheetView, WritePlanView, WritePlanState } from '@drive-keep/api';
import { useKeyInSheets, useWritePlans } from '../api/queries.ts';
import { PLAN_STATES } from '../writing/carry-out.tsx';

const OPEN: readonly WritePlanState[] = ['planned', 'released', 'writing'];

export interface Waiting {
  readonly to: string;
  /** What waits, in words. */
  readonly text: string;
  readonly codes: readonly string[];
}

/** Nothing while it is not known. */
export function useWaiting(tag: string): readonly Waiting[] | undefined {
  const { data: plans } = useWritePlans(tag);
  const { data: sheets } = useKeyInSheets(tag);
  return plans && sheets && waitingOf(plans, sheets);
}

export function waitingOf(
  plans: readonly WritePlanView[],
  sheets: readonly KeyInSheetView[],
): readonly Waiting[] {
  return [
    ...plans.filter(({ state }) => OPEN.includes(state)).map(ofPlan),
    ...sheets.filter(({ state }) => state === 'open').map(ofSheet),
  ];
}

const ofPlan = ({ id, state, plannedBy, steps }: WritePlanView): Waiting => ({
  to: `/write-plans/${id}`,
  text: `Write plan of ${plannedBy}, ${PLAN_STATES[state]}`,
  codes: steps.filter(({ state: step }) => step === 'planned' || step === 'writing').map(({ code }) => code),
});

/** A line that is marked as keyed in waits for its reading all the same. */
const ofSheet = ({ id, madeBy, lines }: KeyInSheetView): Waiting => ({
  to: `/key-in/${id}`,
  text: `Key-in sheet of ${madeBy}`,
  codes: lines.filter(({ kind }) => kind === 'change').map(({ code }) => code),
});
