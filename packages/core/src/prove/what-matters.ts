// What of a proof matters after a small change: steps that rest on a setting that was changed or on a terminal that was rewired,
// and those after which the drive does another thing than before. Whatever was changed has to be there after the supply was away.

import type { Code } from '../dictionary/index.ts';
import type { ProofPlan, ProofStep } from './proof-step.ts';

export interface Change {
  readonly codes: ReadonlySet<Code>;
  /** Terminals on which something hangs that did not before, or no longer. */
  readonly terminals: ReadonlySet<string>;
  /** Steps of the set and wiring as they were. */
  readonly before: ProofPlan;
}

export function whatMatters(now: ProofPlan, { codes, terminals, before }: Change): readonly ProofStep[] {
  const then = new Map(before.steps.map((step) => [step.id, seenIn(step)]));
  return now.steps.filter(
    (step) =>
      step.part === 'values' ||
      step.codes.some((code) => codes.has(code)) ||
      step.terminals.some((terminal) => terminals.has(terminal)) ||
      then.get(step.id) !== seenIn(step),
  );
}

const seenIn = ({ stages }: ProofStep): string => JSON.stringify(stages.map(({ see, ramp }) => [see, ramp]));
