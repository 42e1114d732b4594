// A stored write plan as it is told, and in words what the unit holds after it.

import type { WritePlanView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { cutOffsIn, describeCutOff } from '@drive-keep/core/plans';
import { isTouched } from './unit-holds.ts';
import type { StoredWritePlan } from './write-plan.entity.ts';

export function writePlanView(plan: StoredWritePlan, dictionary: Dictionary): WritePlanView {
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
    cutOffs: cutOffsOf(plan, dictionary).map((each) => ({ code: each.code, text: describeCutOff(each) })),
    release:
      releasedBy && releasedAt && releasedUntil
        ? { by: releasedBy, at: releasedAt.toISOString(), until: releasedUntil.toISOString() }
        : null,
    restartCheck: plan.restartCheck,
    mayBeReleased: mayBeReleased(plan),
    followUps: followUpsOf(plan),
    text: plan.text,
    holds: plan.holds,
    saved: plan.saved,
    jobId: plan.jobId,
    backupBefore: plan.backupBefore,
    backupAfter: plan.backupAfter,
  };
}

export const cutOffsOf = ({ steps }: Pick<StoredWritePlan, 'steps'>, dictionary: Dictionary) =>
  cutOffsIn(
    dictionary,
    steps.map(({ code, toRaw: to }) => ({ code, to })),
  );

/** Once something may have been written there is a rest to write, and a way back. */
export function followUpsOf({ state, steps }: StoredWritePlan): readonly ('resume' | 'undo')[] {
  const touched = steps.some((step) => step.state !== 'planned');
  if (state === 'done') return ['undo'];
  return touched && (state === 'failed' || state === 'interrupted') ? ['resume', 'undo'] : [];
}

/** It was not begun, or came to its end before anything was written. */
export const mayBeReleased = ({ state, steps, saveBegun }: StoredWritePlan): boolean =>
  ['planned', 'released', 'refused'].includes(state) ||
  (state === 'interrupted' && !isTouched({ steps, saveBegun }));
