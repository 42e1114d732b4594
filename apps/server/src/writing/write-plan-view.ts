// A stored write plan as it is told, and in words what the unit holds after it.

import type { WritePlanView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import type { StoredWritePlan } from './write-plan.entity.ts';

export function writePlanView(plan: StoredWritePlan): WritePlanView {
  const { releasedBy, releasedAt, releasedUntil } = plan;
  return {
    id: plan.id,
    tag: plan.position.tag,
    dictionary: plan.dictionaryId,
    kind: plan.kind,
    follows: plan.follows,
    state: plan.state,
    target: plan.target,
    plannedBy: plan.plannedBy,
    plannedAt: plan.plannedAt.toISOString(),
    steps: plan.steps.map(({ code, fromReading: from, toRaw: to, phase, reason, busyMs, ...step }) => {
      const { stopped, restart, state, readBack, text } = step;
      return { code, from, to, phase, reason, busyMs, stopped, restart, state, readBack, text };
    }),
    unreachable: plan.unreachable,
    alreadyThere: plan.alreadyThere,
    idle: plan.idle,
    release:
      releasedBy && releasedAt && releasedUntil
        ? { by: releasedBy, at: releasedAt.toISOString(), until: releasedUntil.toISOString() }
        : null,
    restartCheck: plan.restartCheck,
    followUps: followUpsOf(plan),
    text: plan.text,
    holds: plan.holds,
    saved: plan.saved,
    jobId: plan.jobId,
    backupBefore: plan.backupBefore,
    backupAfter: plan.backupAfter,
  };
}

/** Once something may have been written there is a rest to write, and a way back. */
export function followUpsOf({ state, steps }: StoredWritePlan): readonly ('resume' | 'undo')[] {
  const touched = steps.some((step) => step.state !== 'planned');
  if (state === 'done') return ['undo'];
  return touched && (state === 'failed' || state === 'interrupted') ? ['resume', 'undo'] : [];
}

/** What the unit holds after a plan that did not come to its end, from the steps that were persisted. */
export function describeHolds(
  plan: Pick<StoredWritePlan, 'steps' | 'saved' | 'saveBegun'>,
  { line }: Pick<Dictionary, 'line'>,
): string {
  const written = plan.steps.filter((step) => step.state === 'written').length;
  const doubtful = plan.steps.filter((step) => step.state === 'writing').map((step) => step.code);
  const doubt = doubtful.length > 0 ? ` Whether ${doubtful.join(', ')} was taken is not known.` : '';
  if (plan.saved) return `All ${written} writes are in the unit and saved permanently.`;
  if (written === 0) return `Nothing was written.${doubt}`;
  if (plan.saveBegun && line?.save)
    return `All ${written} writes were read back. Whether they were saved permanently is not known: after a power cycle the unit may hold the former values.`;
  const share = `${written} of ${plan.steps.length} writes`;
  if (!line?.save) return `${share} are in the unit, which keeps every write at once.${doubt}`;
  return `${share} are in the working memory of the unit, not saved permanently: a power cycle brings the former values back.${doubt}`;
}
