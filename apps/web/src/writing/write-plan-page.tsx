// A write plan as one sheet: what is written and why, what cannot be, who states that the machine is stopped, and how
// it went.

import type { WritePlanView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { forgetPositions, queryClient, useDictionary, useSession, useWritePlan } from '../api/queries.ts';
import { SetFindings } from '../checks/set-findings.tsx';
import { useBehaviourDifference } from '../dry-run/use-behaviour-difference.ts';
import { WhatTheyDo } from '../dry-run/what-they-do.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { CarryOut } from './carry-out.tsx';
import { ReleaseState, useRanOut } from './release-state.tsx';
import { StepTable } from './step-table.tsx';

/** What will be different at the machine, by its contacts. */
function Afterwards({ plan: { id, tag, dictionary } }: { plan: WritePlanView }) {
  const [before, after] = [`plan-before:${id}`, `plan:${id}`];
  const { data, failed } = useBehaviourDifference(tag, before, after, dictionary, id);
  return (
    <SheetPart name="What will be different" state={data ? `${data.lines.length}` : ''}>
      <WhatTheyDo tag={tag} set={after} difference={data} failed={failed} />
    </SheetPart>
  );
}

export function WritePlanPage() {
  const { id = '' } = useParams();
  const { data: plan, error } = useWritePlan(id);
  const { data: dictionary } = useDictionary(plan?.dictionary);
  const over = plan && !['planned', 'released', 'writing'].includes(plan.state);
  useEffect(() => {
    if (over) void forgetPositions();
  }, [over]);
  if (!plan || !dictionary) return <Unanswered error={error} what="this plan" />;
  const saves = dictionary.line !== null && dictionary.line.save !== null;
  const hasWork = plan.steps.length > 0 || (saves && plan.alreadyThere.length > 0);
  return (
    <Page title={`${TITLES[plan.kind]} ${plan.tag}`}>
      <h1 className="text-2xl font-semibold">
        {TITLES[plan.kind]}{' '}
        <Link to={`/positions/${plan.tag}`} className="font-mono text-plum hover:underline">
          {plan.tag}
        </Link>
      </h1>
      <p className="mt-1 mb-3 text-soft">
        Towards {plan.target}. Planned by {plan.plannedBy}, {showTime(plan.plannedAt)},{' '}
        {plan.follows ? (
          <>
            from what the unit held then, after{' '}
            <Link to={`/write-plans/${plan.follows}`} className="text-plum underline">
              the plan before
            </Link>
            .
          </>
        ) : (
          'from the newest backup.'
        )}
      </p>
      <PlanEnd plan={plan} />
      <FollowUps plan={plan} />
      <SheetPart name="Writes" state={<>{plan.steps.length} in this order</>}>
        <StepTable plan={plan} dictionary={dictionary} />
      </SheetPart>
      <LeftOut plan={plan} dictionary={dictionary} />
      {plan.steps.length > 0 && <Afterwards plan={plan} />}
      {plan.steps.length > 0 && !over && (
        <SetFindings tag={plan.tag} set={`plan:${plan.id}`} name="What the checks find" />
      )}
      <Release plan={plan} hasWork={hasWork} />
      <CarryOut plan={plan} hasWork={hasWork} />
    </Page>
  );
}

const TITLES: Readonly<Record<WritePlanView['kind'], string>> = {
  write: 'Write plan for',
  reset: 'Reset of',
  resume: 'The rest of a write plan for',
  undo: 'The way back for',
};

/** After a plan that broke off, or that somebody wants undone: the unit is read, and a plan made from what it holds. */
function FollowUps({ plan }: { plan: WritePlanView }) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const follow = useMutation<WritePlanView, ProblemError, 'resume' | 'undo'>({
    mutationFn: (kind) => post(`write-plans/${plan.id}/follow-ups`, { kind }),
    onSuccess: (next) => navigate(`/write-plans/${next.id}`),
  });
  if (plan.followUps.length === 0 || !session?.may.write) return null;
  const broken = plan.followUps.includes('resume');
  return (
    <SheetPart name={broken ? 'Go on' : 'Take it back'} state={broken ? 'open' : 'possible'}>
      <p className="mb-2 text-soft">
        {broken
          ? 'The unit is read first. What is missing, or the way back, is then planned from what it really holds.'
          : 'Reads the unit and plans the way back to what it held before this plan.'}
      </p>
      <div className="flex flex-wrap gap-3">
        {broken && (
          <Button
            weight="main"
            className="min-h-12"
            disabled={follow.isPending}
            onClick={() => follow.mutate('resume')}
          >
            Plan the rest
          </Button>
        )}
        <Button className="min-h-12" disabled={follow.isPending} onClick={() => follow.mutate('undo')}>
          Plan the way back
        </Button>
        {follow.isPending && <span className="self-center text-soft">Reading the unit …</span>}
      </div>
      {follow.error && <ProblemNotice error={follow.error} />}
    </SheetPart>
  );
}

function PlanEnd({ plan }: { plan: WritePlanView }) {
  if (plan.text === '') return null;
  const level = plan.state === 'done' ? 'plain' : plan.state === 'refused' ? 'look' : 'stop';
  return (
    <div className="mb-4">
      <Notice level={level}>
        {plan.state === 'done' && <span aria-hidden="true">✓ </span>}
        {plan.text} {plan.holds}
        {plan.state === 'done' && (
          <>
            {' '}
            <Link className="text-plum underline" to={`/positions/${plan.tag}`}>
              Look at the position
            </Link>{' '}
            <Link className="ml-2 text-plum underline" to={`/positions/${plan.tag}/proofs`}>
              Prove what it does
            </Link>
          </>
        )}
      </Notice>
    </div>
  );
}

function LeftOut({ plan, dictionary }: { plan: WritePlanView; dictionary: Dictionary }) {
  const { unreachable, alreadyThere } = plan;
  if (unreachable.length + alreadyThere.length === 0) return null;
  return (
    <SheetPart name="Not written" state={<>{unreachable.length + alreadyThere.length} lines</>}>
      <ul>
        {unreachable.map((each) => (
          <li key={each.code} className="border-l-4 border-look bg-look-wash px-3 py-1">
            {each.text}
          </li>
        ))}
      </ul>
      {alreadyThere.length > 0 && (
        <details>
          <summary className="min-h-10 cursor-pointer py-2 text-plum">
            {alreadyThere.length === 1 ? '1 value is' : `${alreadyThere.length} values are`} there already
          </summary>
          <p className="text-soft">
            {dictionary.name} holds what is wanted in{' '}
            <span className="font-mono text-sm">{alreadyThere.join(', ')}</span>.
          </p>
        </details>
      )}
    </SheetPart>
  );
}

/** `hasWork`: there is something to write, or a save to be done. */
function Release({ plan, hasWork }: { plan: WritePlanView; hasWork: boolean }) {
  const { data: session } = useSession();
  const release = useMutation<WritePlanView, ProblemError>({
    mutationFn: () => post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true }),
    onSuccess: (released) => queryClient.setQueryData([`write-plans/${plan.id}`], released),
  });
  const ranOut = useRanOut(plan.release);
  const mayRelease = plan.mayBeReleased && hasWork && (plan.state !== 'released' || ranOut);
  const state = plan.release ? (ranOut ? 'run out' : 'stated') : 'open';
  return (
    <SheetPart name="Release" state={state}>
      <ReleaseState release={plan.release} ranOut={ranOut} />
      {mayRelease && session?.may.write === false && (
        <p className="text-soft">
          You may look but not write to units. Whoever may do so in this plant states this.
        </p>
      )}
      {mayRelease && session?.may.write && (
        <div className="flex flex-wrap items-center gap-4">
          <Button className="min-h-12" onClick={() => release.mutate()} disabled={release.isPending}>
            The machine at {plan.tag} is stopped and safe to write to
          </Button>
          <span className="text-sm text-soft">
            Goes into the logbook with your name and holds for 15 min.
          </span>
        </div>
      )}
      {release.error && <ProblemNotice error={release.error} />}
    </SheetPart>
  );
}
