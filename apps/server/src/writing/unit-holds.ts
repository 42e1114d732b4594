// In words what a unit holds after a plan that did not come to its end. What is said is what the last reading shows; where
// there is none, what the steps tell, and that it was not read.

import type { Dictionary } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { sameReading } from '@drive-keep/core/values';
import type { StoredWritePlan } from './write-plan.entity.ts';
import type { StoredWriteStep } from './write-step.entity.ts';

type EndedPlan = Pick<StoredWritePlan, 'steps' | 'saved' | 'saveBegun'>;
type Memory = Pick<Dictionary, 'line'>;

/** Something may have been written or saved. */
export const isTouched = ({ steps, saveBegun }: Pick<EndedPlan, 'steps' | 'saveBegun'>): boolean =>
  saveBegun || steps.some(({ state }) => state !== 'planned');

/** From the steps alone. */
export function holdsUnread(plan: EndedPlan, { line }: Memory): string {
  if (!isTouched(plan)) return 'Nothing was written.';
  const written = plan.steps.filter(({ state }) => state === 'written').length;
  const doubtful = codesOf(plan.steps.filter(({ state }) => state === 'writing'));
  const doubt = doubtful.length > 0 ? ` Whether ${doubtful.join(', ')} was taken is not known.` : '';
  const back = `${written} of ${plan.steps.length} writes were read back when they were written.`;
  const unread = 'The unit was not read afterwards: what it holds now is not known.';
  return `${back}${doubt} ${unread}${lasting(plan, line)}`;
}

/** From a reading that was taken after the last write. */
export function holdsWhenRead(plan: EndedPlan, { line }: Memory, { readings }: ParameterSet): string {
  // A value that was written more than once counts as it was written last.
  const last = new Map<string, StoredWriteStep>();
  const first = new Map<string, StoredWriteStep>();
  for (const step of plan.steps) {
    if (step.busyMs > 0) continue;
    if (!first.has(step.code)) first.set(step.code, step);
    if (step.state !== 'planned') last.set(step.code, step);
  }
  if (last.size === 0) return `Nothing was written.${plan.saveBegun ? lasting(plan, line) : ''}`;
  const holding = [...last.values()].filter(({ code, toRaw }) => readings.get(code as never) === toRaw);
  const former = [...last.values()].filter(
    (step) =>
      !holding.includes(step) &&
      sameReading(readings.get(step.code as never), first.get(step.code)?.fromReading ?? undefined),
  );
  const other = [...last.values()].filter((step) => !holding.includes(step) && !former.includes(step));
  const told = [
    `Read afterwards: ${holding.length} of ${last.size} written values are in the unit.`,
    former.length > 0
      ? `${codesOf(former).join(', ')} ${former.length === 1 ? 'holds' : 'hold'} the former value.`
      : '',
    other.length > 0
      ? `${codesOf(other).join(', ')} ${other.length === 1 ? 'holds' : 'hold'} another value.`
      : '',
  ].filter(Boolean);
  const changed = holding.some(({ code, toRaw }) => first.get(code)?.fromReading !== toRaw);
  return `${told.join(' ')}${changed ? lasting(plan, line) : ''}`;
}

/** What a power cycle would do to what is in the unit. */
function lasting({ saved, saveBegun }: EndedPlan, line: Memory['line']): string {
  if (!line?.save) return ' The unit keeps every write at once.';
  if (saved) return ' They are saved permanently.';
  return saveBegun
    ? ' Whether they were saved permanently is not known: after a power cycle the unit may hold the former values.'
    : ' They are not saved permanently: a power cycle brings the former values back.';
}

const codesOf = (steps: readonly StoredWriteStep[]): readonly string[] => [
  ...new Set(steps.map(({ code }) => code)),
];
