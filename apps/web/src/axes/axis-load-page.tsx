// The load of all axes of a machine on one sheet: release, carry out, and how each axis fared.

import type { AxisLoadView, WritePlanView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useAxisLoad, useDictionary, useSession } from '../api/queries.ts';
import { AskOnce } from '../ui/ask-once.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { CutOffs, PLAN_STATES } from '../writing/carry-out.tsx';
import { ReleaseState, useRanOut } from '../writing/release-state.tsx';
import { StepTable } from '../writing/step-table.tsx';
import { LOAD_STATES } from './load-states.ts';

export function AxisLoadPage() {
  const { id = '' } = useParams();
  const { data: load, error } = useAxisLoad(id);
  if (!load) return <Unanswered error={error} what="this load" />;
  return (
    <Page title={`Load the axes of ${load.machine}`}>
      <h1 className="text-2xl font-semibold">Load the axes of {load.machine}</h1>
      <p className="mt-1 mb-3 text-soft">
        Planned by {load.madeBy}, {showTime(load.madeAt)}. If one axis fails, those written before it{' '}
        {load.onFailure === 'stay' ? 'stay with their new values' : 'go back to their values before'}.
      </p>
      {load.text !== '' && (
        <div className="mb-4">
          <Notice level={load.state === 'done' ? 'plain' : load.state === 'refused' ? 'look' : 'stop'}>
            {load.state === 'done' && <span aria-hidden="true">✓ </span>}
            {load.text}
          </Notice>
        </div>
      )}
      {['failed', 'interrupted'].includes(load.state) && (
        <SheetPart name="Go on" state="open">
          <p>
            Back the axes up, and{' '}
            <Link to={`/positions/${load.plans[0]?.tag ?? ''}/axes`} className="text-plum underline">
              plan another load
            </Link>
            : it writes what is missing and starts the controller again. A single axis is gone on with, or
            taken back, on its own plan below.
          </p>
        </SheetPart>
      )}
      {load.plans.map((plan) => (
        <AxisPart key={plan.id} plan={plan} />
      ))}
      <Doing load={load} />
    </Page>
  );
}

function AxisPart({ plan }: { plan: WritePlanView }) {
  const { data: dictionary } = useDictionary(plan.dictionary);
  const written = plan.steps.filter(({ state }) => state === 'written').length;
  return (
    <SheetPart
      name={plan.tag}
      state={
        plan.state === 'writing' ? `${written} of ${plan.steps.length} written` : PLAN_STATES[plan.state]
      }
    >
      <p>
        Towards {plan.target}: {plan.steps.length === 1 ? '1 write' : `${plan.steps.length} writes`}
        {plan.unreachable.length > 0 && `, ${plan.unreachable.length} lines not possible`}.{' '}
        <Link to={`/write-plans/${plan.id}`} className="text-plum underline">
          Its plan
        </Link>
      </p>
      {plan.text !== '' && (
        <p className={plan.state === 'done' ? 'text-soft' : 'font-medium'}>
          {plan.text} {plan.holds}
        </p>
      )}
      {dictionary && plan.steps.length > 0 && (
        <details>
          <summary className="min-h-10 cursor-pointer py-2 text-plum">The writes of {plan.tag}</summary>
          <StepTable plan={plan} dictionary={dictionary} />
        </details>
      )}
    </SheetPart>
  );
}

function Doing({ load }: { load: AxisLoadView }) {
  const { data: session } = useSession();
  const told = (next: AxisLoadView) => queryClient.setQueryData([`axis-loads/${load.id}`], next);
  const release = useMutation<AxisLoadView, ProblemError>({
    mutationFn: () => post(`axis-loads/${load.id}/release`, { stoppedAndSafe: true }),
    onSuccess: told,
  });
  const start = useMutation<AxisLoadView, ProblemError>({
    mutationFn: () => post(`axis-loads/${load.id}/carry-out`, { cutOffKnown }),
    onSuccess: told,
  });
  const ranOut = useRanOut(load.release);
  const [cutOffKnown, setCutOffKnown] = useState(false);
  const cutting = load.plans.filter(({ cutOffs }) => cutOffs.length > 0);
  const mayWork = session?.may.write === true;
  const what = `Load ${load.plans.length} axes`;
  return (
    <>
      <SheetPart name="Release" state={load.release ? (ranOut ? 'run out' : 'stated') : 'open'}>
        <ReleaseState release={load.release} ranOut={ranOut} />
        {mayWork && load.mayBeReleased && (load.state !== 'released' || ranOut) && (
          <Button className="min-h-12" disabled={release.isPending} onClick={() => release.mutate()}>
            {load.machine} is stopped and safe to write to
          </Button>
        )}
        {release.error && <ProblemNotice error={release.error} />}
      </SheetPart>
      <SheetPart name="Carry out" state={LOAD_STATES[load.state]}>
        <ol className="mb-3 list-decimal pl-5 text-sm text-soft">
          <li>Hold the controller; check and back up every axis.</li>
          <li>Write every axis and read each value back; save every axis.</li>
          <li>Start the controller again, wait until it is ready, prove every axis.</li>
        </ol>
        {cutting.map((plan) => (
          <CutOffs
            key={plan.id}
            plan={plan}
            ready={load.state === 'released'}
            known={cutOffKnown}
            setKnown={setCutOffKnown}
          />
        ))}
        <AskOnce
          what={what}
          question={`${what} of ${load.machine}?`}
          note="The controller stops the axes and starts them again. Everybody must be clear of the machine."
          yes="Load them now"
          disabled={
            !mayWork ||
            ranOut ||
            load.state !== 'released' ||
            start.isPending ||
            (cutting.length > 0 && !cutOffKnown)
          }
          confirm={() => start.mutate()}
        />
        {start.error && <ProblemNotice error={start.error} />}
      </SheetPart>
    </>
  );
}
