import type { WritePlanView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { AskOnce } from '../ui/ask-once.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { useRanOut } from './release-state.tsx';

/** Asks once, naming the unit and the number of writes. */
export function CarryOut({ plan, hasWork }: { plan: WritePlanView; hasWork: boolean }) {
  const { data: session } = useSession();
  const [restartCheck, setRestartCheck] = useState(false);
  const [cutOffKnown, setCutOffKnown] = useState(false);
  const start = useMutation<WritePlanView, ProblemError>({
    mutationFn: () => post(`write-plans/${plan.id}/carry-out`, { restartCheck, cutOffKnown }),
    onSuccess: (begun) => queryClient.setQueryData([`write-plans/${plan.id}`], begun),
  });
  const values = plan.steps.filter(({ phase }) => phase !== 'reset').length;
  const count = values === 1 ? '1 value' : `${values} values`;
  const what =
    plan.kind === 'reset'
      ? `Reset ${plan.tag} and write ${count}`
      : plan.steps.length === 0
        ? `Save ${plan.tag} permanently`
        : `Write ${count} to ${plan.tag}`;
  const ranOut = useRanOut(plan.release);
  const ready = plan.state === 'released' && !ranOut && session?.may.write === true;
  return (
    <SheetPart name="Carry out" state={PLAN_STATES[plan.state]}>
      <ol className="mb-3 list-decimal pl-5 text-sm text-soft">
        <li>Check that it is the right unit and that it stands, then back it up.</li>
        {plan.kind === 'reset' && <li>Reset it, and read whether it holds its defaults.</li>}
        {plan.steps.length > 0 && <li>Write each value and read it back.</li>}
        <li>
          Save permanently, {restartCheck && 'restart the unit, '}back up again, compare with this plan.
        </li>
      </ol>
      <CutOffs plan={plan} ready={ready} known={cutOffKnown} setKnown={setCutOffKnown} />
      {ready && (
        <label className="mb-3 flex min-h-12 items-center gap-3">
          <input
            type="checkbox"
            className="size-5 accent-plum"
            checked={restartCheck}
            onChange={({ target }) => setRestartCheck(target.checked)}
          />
          Restart the unit after the save, to prove that the values stuck
        </label>
      )}
      <AskOnce
        what={what}
        note="The unit is backed up first. Everybody must be clear of the machine."
        yes="Write now"
        disabled={!ready || start.isPending || (plan.cutOffs.length > 0 && !cutOffKnown)}
        confirm={() => start.mutate()}
      />
      {plan.state === 'planned' && hasWork && (
        <p className="mt-2 text-sm text-soft">Waits for the release above.</p>
      )}
      {start.error && <ProblemNotice error={start.error} />}
    </SheetPart>
  );
}

/** What the plan does to the line itself, and the statement that it is known. */
export function CutOffs({
  plan: { cutOffs, tag },
  ready,
  known,
  setKnown,
}: {
  plan: Pick<WritePlanView, 'cutOffs' | 'tag'>;
  ready: boolean;
  known: boolean;
  setKnown: (known: boolean) => void;
}) {
  if (cutOffs.length === 0) return null;
  return (
    <div className="mb-3 rounded border border-brick p-3">
      <p className="font-semibold text-brick">Afterwards {tag} may not be reached over its line any more</p>
      <ul className="mt-1 list-disc pl-5 text-sm">
        {cutOffs.map(({ code, text }) => (
          <li key={code}>{text}</li>
        ))}
      </ul>
      <label className="mt-2 flex min-h-12 items-center gap-3">
        <input
          type="checkbox"
          className="size-5 accent-plum"
          disabled={!ready}
          checked={known}
          onChange={({ target }) => setKnown(target.checked)}
        />
        I know what this means for the line, and who sets the other side
      </label>
    </div>
  );
}

export const PLAN_STATES: Readonly<Record<WritePlanView['state'], string>> = {
  planned: 'waits for release',
  released: 'ready',
  writing: 'at work',
  done: 'done',
  refused: 'refused',
  failed: 'broken off',
  interrupted: 'interrupted',
};
