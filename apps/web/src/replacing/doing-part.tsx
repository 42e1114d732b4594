// Papers and doing: each step with what was kept of it, and what is to be done next. Whatever breaks off is gone on with here.

import type { ReplacementView, StartedJob } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { openOf, type ReplacementSheet } from '@drive-keep/core/replace';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useProofList } from '../api/queries.ts';
import { AskOnce } from '../ui/ask-once.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { PLAN_STATES } from '../writing/carry-out.tsx';
import { SwapForm } from './swap-form.tsx';
import { WithWhy } from './with-why.tsx';

interface DoingProps {
  readonly view: ReplacementView;
  readonly sheet: ReplacementSheet;
  readonly fresh: Dictionary;
  readonly may: boolean;
}

/** A plan that ended so is planned anew, or gone on with on its own page. */
const ENDED: readonly string[] = ['refused', 'failed', 'interrupted', 'undone'];

/** What the unit holds is from before. */
const NOT_WRITTEN: readonly string[] = ['planned', 'released', 'writing'];

type Act = UseMutationResult<ReplacementView, ProblemError, { what: string; more?: object }>;

export function useAct({ id, version }: ReplacementView): Act {
  return useMutation({
    mutationFn: ({ what, more = {} }) => post(`replacements/${id}/${what}`, { version, ...more }),
    onSuccess: (now) => queryClient.setQueryData([`replacements/${id}`], now),
    onError: () => void queryClient.invalidateQueries({ queryKey: [`replacements/${id}`] }),
  });
}

export const tickedOf = ({ tasks }: ReplacementSheet, { sayings }: ReplacementView): number => {
  const done = new Set(sayings.filter(({ part, value }) => part === 'task' && value).map(({ line }) => line));
  return tasks.filter(({ id }) => done.has(id)).length;
};

export function DoingPart({ view, sheet, fresh, may }: DoingProps) {
  const act = useAct(view);
  const { doing } = view;
  const ticked = tickedOf(sheet, view);
  const props = { view, sheet, fresh, may, act };
  const signed = doing.draft !== null && typeof doing.draft !== 'string';
  const finished = [
    ticked === sheet.tasks.length,
    doing.swap !== null,
    doing.plan?.state === 'done' || doing.sheet?.state === 'finished',
    doing.readBack?.codes.length === 0,
    signed,
  ].filter(Boolean).length;
  return (
    <SheetPart name="Papers and doing" state={`${finished} of 5 done`}>
      {act.error && <ProblemNotice error={act.error} />}
      <ol>
        <Step done={ticked === sheet.tasks.length} name="Wire sheet">
          {ticked} of {sheet.tasks.length} lines ticked.{' '}
          <Link to={`/replacements/${view.id}/wires`} className="text-plum underline">
            Open the wire sheet
          </Link>{' '}
          on the phone at the cabinet; what must be dead comes first.
        </Step>
        <Swap {...props} />
        <Write {...props} />
        <ReadBack {...props} />
        <Proof view={view} />
        <Baseline {...props} />
      </ol>
    </SheetPart>
  );
}

function Step({ done, name, children }: { done: boolean; name: string; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[1.5rem_1fr] border-b border-rule py-2">
      <span aria-hidden="true">{done ? '✓' : '○'}</span>
      <div>
        <b className="font-semibold">{name}</b>
        <span className="sr-only">{done ? ' (done)' : ' (open)'}</span>
        <div className="text-sm">{children}</div>
      </div>
    </li>
  );
}

interface StepProps extends DoingProps {
  readonly act: Act;
}

function Swap({ view, sheet, fresh, may, act }: StepProps) {
  const { swap } = view.doing;
  if (swap)
    return (
      <Step done name="New unit in">
        {swap.model} {swap.rating}, serial <span className="font-mono">{swap.serial}</span>, firmware{' '}
        {swap.firmware}, {swap.line ? `line ${swap.line.name} address ${swap.line.address}` : 'no line'};{' '}
        {swap.by}, {showTime(swap.at)}.{' '}
        {view.wiringRevision > 0
          ? 'The wiring was kept with the new terminals.'
          : 'No wiring was kept before, and none is kept now.'}
      </Step>
    );
  return (
    <Step done={false} name="New unit in">
      {sheet.open.wires > 0 ? (
        <p>First decide what is open about the wires: {sheet.open.wires}.</p>
      ) : (
        may && <SwapForm view={view} fresh={fresh} rating={sheet.rating} act={act} />
      )}
    </Step>
  );
}

function Write({ view, sheet, may, act }: StepProps) {
  const { swap, asFound, plan, sheet: keys, planOutdated } = view.doing;
  const done = (plan?.state === 'done' || keys?.state === 'finished') && !planOutdated;
  if (!swap)
    return (
      <Step done={false} name="Reset and settings">
        When the new unit is in.
      </Step>
    );
  const again = plan !== null || keys !== null;
  return (
    <Step done={done} name="Reset and settings">
      <AsFound view={view} may={may} />
      {plan && (
        <p>
          <Link to={`/write-plans/${plan.id}`} className="text-plum underline">
            Write plan
          </Link>
          : {PLAN_STATES[plan.state as keyof typeof PLAN_STATES]}.
        </p>
      )}
      {keys && (
        <p>
          <Link to={`/key-in/${keys.id}`} className="text-plum underline">
            Key-in sheet
          </Link>
          , in the order of the keypad: {keys.state}.
        </p>
      )}
      {planOutdated && (
        <p className="border-l-4 border-look bg-look-wash px-2 py-1">
          The sheet was changed after this was planned. Plan again.
        </p>
      )}
      {may && (!again || planOutdated || (plan && ENDED.includes(plan.state))) && (
        <p className="mt-1">
          <Button
            weight="main"
            disabled={act.isPending || sheet.open.settings > 0 || (swap.line !== null && !asFound)}
            onClick={() => act.mutate({ what: 'plan' })}
          >
            {again ? 'Plan again' : swap.line ? 'Plan the reset and all settings' : 'Make the key-in sheet'}
          </Button>{' '}
          {sheet.open.settings > 0
            ? `First decide the open settings: ${sheet.open.settings}.`
            : 'It is reset by its own procedure first. Nothing is written yet.'}
        </p>
      )}
    </Step>
  );
}

/** What the new unit held when it came: it may have been somebody else's. */
function AsFound({ view, may }: Pick<StepProps, 'view' | 'may'>) {
  const navigate = useNavigate();
  const { asFound, swap } = view.doing;
  const backUp = useMutation<StartedJob, ProblemError>({
    mutationFn: () => post('backups', { positions: [view.tag], reason: 'New unit as found' }),
    onSuccess: ({ job }) => navigate(`/jobs/${job.id}`),
  });
  if (asFound) {
    const { changed } = asFound;
    return (
      <p className={changed.length > 1 ? 'border-l-4 border-look bg-look-wash px-2 py-1' : ''}>
        As found, {showTime(asFound.at)}:{' '}
        {changed.length === 0
          ? 'as delivered.'
          : `not as delivered in ${changed.length === 1 ? 'one setting' : `${changed.length} settings`} (${changed.slice(0, 8).join(', ')}${changed.length > 8 ? ' …' : ''}). What it held is kept; the reset ends it.`}
      </p>
    );
  }
  if (!swap?.line)
    return (
      <p>Nothing can read it before: the sheet begins with its reset, so that nothing of before stays.</p>
    );
  return (
    <p>
      Back the new unit up as found: it may hold somebody’s settings.{' '}
      {may && (
        <Button disabled={backUp.isPending} onClick={() => backUp.mutate()}>
          Back up as found
        </Button>
      )}
      {backUp.error && <ProblemNotice error={backUp.error} />}
    </p>
  );
}

function ReadBack({ view }: StepProps) {
  const { readBack, plan, sheet, swap } = view.doing;
  const before = !plan && !sheet;
  const unwritten = plan !== null && NOT_WRITTEN.includes(plan.state);
  if (!readBack || before || unwritten)
    return (
      <Step done={false} name="Read back">
        {before
          ? 'After it was written: what it holds, against what this sheet promises.'
          : swap?.line
            ? 'The plan reads it back by itself.'
            : 'Read the unit off at its keypad: only then it is known what it holds.'}{' '}
        {!before && !swap?.line && (
          <Link to={`/positions/${view.tag}/read-off`} className="text-plum underline">
            Read off
          </Link>
        )}
      </Step>
    );
  const { codes } = readBack;
  return (
    <Step done={codes.length === 0} name="Read back">
      {showTime(readBack.at)}:{' '}
      {codes.length === 0
        ? 'it holds what this sheet promises.'
        : `it differs at ${codes.slice(0, 8).join(', ')}${codes.length > 8 ? ` and ${codes.length - 8} more` : ''}.`}{' '}
      <Link
        to={`/positions/${view.tag}?a=${encodeURIComponent(`replacement:${view.id}`)}&b=newest`}
        className="text-plum underline"
      >
        Compare
      </Link>
    </Step>
  );
}

/** What it does is shown at the machine; the sheet can be closed without it, and says so. */
function Proof({ view: { tag, doing } }: { view: ReplacementView }) {
  const { data: proofs } = useProofList(tag);
  const { swap } = doing;
  const since = proofs?.runs.filter(({ startedAt }) => swap !== null && startedAt > swap.at) ?? [];
  const [last] = since.filter(({ state }) => state !== 'given-up');
  return (
    <Step done={last?.state === 'closed' && last.failed === 0} name="Proof run">
      {!swap
        ? 'When the new unit is in and written: each contact, speed and stop, seen at the machine.'
        : !proofs
          ? 'Being asked for …'
          : last
            ? `${last.state === 'open' ? 'Open' : 'Closed'}: ${last.passed} of ${last.steps} steps passed, ${last.failed} failed, ${last.notDone} not done.`
            : 'Not begun: each contact, speed and stop, seen at the machine.'}{' '}
      {swap && proofs && (
        <Link
          to={last ? `/proofs/${last.id}` : `/positions/${tag}/proofs`}
          className="text-plum underline max-lg:inline-block max-lg:py-3"
        >
          {last ? 'Open it' : 'Begin it'}
        </Link>
      )}
    </Step>
  );
}

function Baseline({ view, may, act }: StepProps) {
  const { draft, readBack } = view.doing;
  const ready = readBack?.codes.length === 0;
  if (draft && typeof draft !== 'string')
    return (
      <Step done name="Baseline">
        Revision {draft.revision}, signed by {draft.by}, {showTime(draft.at)}.
      </Step>
    );
  return (
    <Step done={false} name="Baseline">
      {draft === 'waiting' ? (
        <>
          Proposed; an engineer signs it{' '}
          <Link to={`/positions/${view.tag}`} className="text-plum underline">
            at the position
          </Link>
          .
        </>
      ) : (
        <>
          {draft === 'refused' && 'It was not signed. '}
          {may && (
            <Button disabled={!ready || act.isPending} onClick={() => act.mutate({ what: 'baseline-draft' })}>
              Propose as baseline
            </Button>
          )}{' '}
          {!ready && 'When it was read back as promised.'}
        </>
      )}
    </Step>
  );
}

/** The end of the sheet, or the way back. */
export function EndPart({ view, sheet, may }: DoingProps) {
  const act = useAct(view);
  const ticked = tickedOf(sheet, view);
  const left = [
    ...(openOf(sheet.open) > 0 ? [`${openOf(sheet.open)} things are not decided`] : []),
    ...(ticked < sheet.tasks.length
      ? [`${sheet.tasks.length - ticked} lines of the wire sheet are not ticked`]
      : []),
    ...(view.doing.readBack?.codes.length === 0 && !view.doing.planOutdated
      ? []
      : ['it was not read back as promised']),
    ...(view.doing.draft && typeof view.doing.draft !== 'string' ? [] : ['its baseline is not signed']),
  ];
  return (
    <SheetPart name="End" state={left.length === 0 ? 'ready' : undefined}>
      {act.error && <ProblemNotice error={act.error} />}
      <p className="text-sm">
        {left.length === 0
          ? 'Everything is decided, done, read back and signed.'
          : `Not ready to be closed: ${left.join('; ')}.`}
      </p>
      {may && (
        <p className="mt-2 flex flex-wrap gap-2">
          <AskOnce
            what="Close the replacement"
            note={`The sheet of ${view.tag} is kept as it stands, for ever. The old unit cannot be put back on it after that.`}
            yes="Close it"
            disabled={left.length > 0 || act.isPending}
            confirm={() => act.mutate({ what: 'close' })}
          />
          {view.doing.swap ? (
            <WithWhy
              what="Put the old unit back"
              note={`Serial ${view.old.serial} sits at ${view.tag} again, with its wires and its line; ticks of the wire sheet are taken back. What was answered stays.`}
              busy={act.isPending}
              act={(why) => act.mutate({ what: 'back', more: { why } })}
            />
          ) : (
            <WithWhy
              what="Give the replacement up"
              note="Nothing was done to a unit. What was said on the sheet stays readable."
              busy={act.isPending}
              act={(why) => act.mutate({ what: 'give-up', more: { why, version: undefined } })}
            />
          )}
        </p>
      )}
    </SheetPart>
  );
}
