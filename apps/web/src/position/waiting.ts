// What was decided and is not done yet: replacements that are open, plans that wait for their release or are at work, key-in sheets and
// proof runs that are open or asked for. A parameter that one of them changes stands as waiting, not as undecided.

import type {
  DraftMark,
  KeyInSheetView,
  ProofMark,
  ProofsView,
  ReplacementMark,
  WritePlanView,
  WritePlanState,
} from '@drive-keep/api';
import {
  useDraftsFor,
  useKeyInSheets,
  useProofList,
  useReplacements,
  useWritePlans,
} from '../api/queries.ts';
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
  const { data: replacements } = useReplacements(tag);
  const { data: proofs } = useProofList(tag);
  const { data: drafts = [] } = useDraftsFor(tag);
  if (!plans || !sheets || !replacements) return undefined;
  return [
    ...draftsOf(drafts),
    ...waitingOf(plans, sheets, replacements),
    ...(proofs ? provingOf(tag, proofs) : []),
  ];
}

export function waitingOf(
  plans: readonly WritePlanView[],
  sheets: readonly KeyInSheetView[],
  replacements: readonly ReplacementMark[],
): readonly Waiting[] {
  return [
    ...replacements.filter(({ state }) => state === 'open').map(ofReplacement),
    ...plans.filter(({ state }) => OPEN.includes(state)).map(ofPlan),
    ...sheets.filter(({ state }) => state === 'open').map(ofSheet),
  ];
}

/** First settings that somebody works on for this position. */
export const draftsOf = (drafts: readonly DraftMark[]): readonly Waiting[] =>
  drafts
    .filter(({ state }) => state === 'open')
    .map(({ id, name, owner }) => ({
      to: `/drafts/${id}`,
      text: `First settings of ${owner}: ${name}`,
      codes: [],
    }));

/** A proof run that is open, or one that is asked for. */
export function provingOf(tag: string, { runs, asked }: ProofsView): readonly Waiting[] {
  const open = runs.filter(({ state }) => state === 'open').map(ofProof);
  if (!asked) return open;
  return [
    ...open,
    { to: `/positions/${tag}/proofs`, text: `To be proved: ${asked.text.toLowerCase()}`, codes: [] },
  ];
}

const ofProof = ({ id, startedBy, steps, passed, failed, notDone }: ProofMark): Waiting => ({
  to: `/proofs/${id}`,
  text: `Proof run of ${startedBy}, ${passed + failed + notDone} of ${steps} steps said`,
  codes: [],
});

const ofPlan = ({ id, state, plannedBy, steps }: WritePlanView): Waiting => ({
  to: `/write-plans/${id}`,
  text: `Write plan of ${plannedBy}, ${PLAN_STATES[state]}`,
  codes: steps.filter(({ state: step }) => step === 'planned' || step === 'writing').map(({ code }) => code),
});

const ofReplacement = ({ id, from, to, startedBy }: ReplacementMark): Waiting => ({
  to: `/replacements/${id}`,
  text: `Replacement of ${from} by ${to}, begun by ${startedBy}`,
  codes: [],
});

/** A line that is marked as keyed in waits for its reading all the same. */
const ofSheet = ({ id, madeBy, lines }: KeyInSheetView): Waiting => ({
  to: `/key-in/${id}`,
  text: `Key-in sheet of ${madeBy}`,
  codes: lines.filter(({ kind }) => kind === 'change').map(({ code }) => code),
});
