import type { WritePlanView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { AskOnce } from '../ui/ask-once.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';

/** Asks once, naming the unit and the number of writes. */
export function CarryOut({ plan, hasWork }: { plan: WritePlanView; hasWork: boolean }) {
  const { data: session } = useSession();
  const [restartCheck, setRestartCheck] = useState(false);
  const start = useMutation<WritePlanView, ProblemError>({
    mutationFn: () => post(`write-plans/${plan.id}/carry-out`, { restartCheck }),
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
  const ready = plan.state === 'released' && session?.role !== 'viewer';
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
        disabled={!ready || start.isPending}
        confirm={() => start.mutate()}
      />
      {plan.state === 'planned' && hasWork && (
        <p className="mt-2 text-sm text-soft">Waits for the release above.</p>
      )}
      {start.error && <ProblemNotice error={start.error} />}
    </SheetPart>
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
