// What the controller of a machine does, and the two things that can be asked of it by hand: for work on a single axis, and
// after a load that broke off.

import type { ControllerCommand, ControllerView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useController, useSession } from '../api/queries.ts';
import { AskOnce } from '../ui/ask-once.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { Unanswered } from '../ui/answer.tsx';

const STATES: Readonly<Record<ControllerView['state'], string>> = {
  runs: 'runs',
  held: 'held',
  'not-ready': 'not ready',
  silent: 'does not answer',
};

export function Controller({ tag, machine }: { tag: string; machine: string }) {
  const { data: session } = useSession();
  const { data: controller, error } = useController(tag);
  const path = `positions/${tag}/controller`;
  const command = useMutation<ControllerView, ProblemError, ControllerCommand>({
    mutationFn: (wanted) => post(path, { command: wanted, everybodyClear: true }),
    onSettled: () => queryClient.invalidateQueries({ queryKey: [path] }),
  });
  if (!controller) return <Unanswered error={error} what="the controller of the machine" />;
  const { state } = controller;
  const mayWork = session?.may.write === true;
  return (
    <SheetPart name="Controller" state={STATES[state]}>
      {state === 'held' && (
        <div className="mb-3">
          <Notice level="look">{machine} is held: its axes stand and can be written to one by one.</Notice>
        </div>
      )}
      {state === 'silent' && <p>It does not answer. Is its supply on? Without it the axes are not loaded.</p>}
      {state === 'not-ready' && <p>It is not ready. Look at its display.</p>}
      {state === 'runs' && (
        <p className="mb-3 text-soft">
          A load of all axes holds it by itself. For work on a single axis, such as its reset, it is held
          here.
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        {mayWork && (state === 'runs' || state === 'not-ready') && (
          <AskOnce
            what={`Hold ${machine}`}
            note="All its axes stop. It is started again here, or by the next load."
            yes="Hold it now"
            disabled={command.isPending}
            confirm={() => command.mutate('hold')}
          />
        )}
        {mayWork && (state === 'held' || state === 'not-ready') && (
          <AskOnce
            what={`Start ${machine} again`}
            note="Its axes are enabled and may move. Everybody must be clear of the machine."
            yes="Start it now"
            disabled={command.isPending}
            confirm={() => command.mutate('start')}
          />
        )}
      </div>
      {command.isPending && <p className="mt-2 text-soft">Waiting for the controller …</p>}
      {command.error && <ProblemNotice error={command.error} />}
    </SheetPart>
  );
}
