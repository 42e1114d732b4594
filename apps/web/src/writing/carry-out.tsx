import type { WritePlanView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';

/** Asks once, naming the unit and the number of writes. */
export function CarryOut({ plan }: { plan: WritePlanView }) {
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
        <li>Write each value and read it back.</li>
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
      <AlertDialog.Root>
        <AlertDialog.Trigger asChild>
          <Button weight="main" className="min-h-12" disabled={!ready || start.isPending}>
            {what}
          </Button>
        </AlertDialog.Trigger>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 bg-black/40" />
          <AlertDialog.Content className="fixed top-1/3 left-1/2 w-[min(30rem,94vw)] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-5">
            <AlertDialog.Title className="text-lg font-semibold">{what}?</AlertDialog.Title>
            <AlertDialog.Description className="mt-2 text-soft">
              The unit is backed up first. Everybody must be clear of the machine.
            </AlertDialog.Description>
            <div className="mt-5 flex justify-end gap-3">
              <AlertDialog.Cancel asChild>
                <Button className="min-h-12">Not now</Button>
              </AlertDialog.Cancel>
              <AlertDialog.Action asChild>
                <Button weight="main" className="min-h-12" onClick={() => start.mutate()}>
                  Write now
                </Button>
              </AlertDialog.Action>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
      {plan.state === 'planned' && plan.steps.length > 0 && (
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
