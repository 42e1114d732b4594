// A proof run at the machine: every step with what to do and what must be seen. In any order, by several people, on a phone, and
// on without a network.

import type { ProofRunView, ProofStepView } from '@drive-keep/api';
import { PART_NAMES, PROOF_PARTS } from '@drive-keep/core/prove';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { BroughtProgress } from '../ui/brought-progress.tsx';
import { Button } from '../ui/button.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { ProofStepRow } from './proof-step.tsx';
import { useProofs, type OwnProof } from './proof-store.ts';
import { useProof, type ProofState } from './use-proof.ts';

export function ProofPage() {
  const { id = '' } = useParams();
  const state = useProof(id);
  const { own } = state;
  if (!own) return <Unanswered error={state.error} what="this proof run" />;
  const { run } = own;
  const said = run.planned.filter((step) => (own.sayings[step.id]?.verdict ?? null) !== null).length;
  return (
    <Page title={`Proof ${run.tag}`}>
      <div className="mx-auto max-w-3xl">
        <Head run={run} />
        {run.state === 'open' && (
          <BroughtProgress
            done={said}
            total={run.planned.length}
            label="Said so far"
            network={state.network}
            kept={keptText(state)}
          />
        )}
        {state.error && <ProblemNotice error={state.error} />}
        {run.state === 'open' && run.unitGone && (
          <div className="mt-3">
            <Notice level="stop">
              Another unit sits at {run.tag} since this run began: nothing of it can be gone on with. Give it
              up, and begin anew.
            </Notice>
          </div>
        )}
        {run.state === 'open' && run.wiringRevision === 0 && (
          <div className="mt-3">
            <Notice level="look">
              No wiring was kept of {run.tag} when this began: what contacts bring about is not among the
              steps.{' '}
              <Link to={`/positions/${run.tag}/wiring`} className="text-plum underline">
                Keep the wiring
              </Link>
              , and begin anew.
            </Notice>
          </div>
        )}
        {run.state !== 'open' && <Ended run={run} />}
        <Parts own={own} state={state} />
        {run.state === 'open' && <End own={own} state={state} left={run.planned.length - said} />}
      </div>
    </Page>
  );
}

function Head({ run }: { run: ProofRunView }) {
  return (
    <>
      <h1 className="text-xl font-semibold">
        Proof run{' '}
        <Link to={`/positions/${run.tag}/proofs`} className="font-mono text-plum hover:underline">
          {run.tag}
        </Link>
      </h1>
      <p className="text-soft">
        {run.duty} · {run.model} {run.rating}, serial <b className="font-mono text-ink">{run.serial}</b>
      </p>
      <p className="text-soft">
        {run.why}. Begun by {run.startedBy}, {showTime(run.startedAt)}, by{' '}
        {run.set.title.charAt(0).toLowerCase() + run.set.title.slice(1)}
        {run.set.at && ` of ${showTime(run.set.at)}`}
        {run.wiringRevision === 0
          ? ', without a wiring'
          : ` and revision ${run.wiringRevision} of the wiring`}
        .
      </p>
      <p className="text-soft">
        {run.scope === 'whole'
          ? `Every outcome that its contacts and keys can reach, from ${run.states} states.`
          : `What matters since the proof run of ${run.since ? showTime(run.since.at) : ''}: ${run.leftOut} steps are left out.`}
        {run.unfinished && ' Not all states were looked at: other outcomes may be reached.'}
        {run.untold > 0 && ` ${run.untold} ways end where its model does not tell what it does.`}
      </p>
      <div className="my-2 flex flex-wrap gap-3 print:hidden">
        <FileMenu
          name="Save as"
          label="Save the proof record as a file"
          files={['pdf', 'csv', 'xlsx'].map((format) => ({
            name: format.toUpperCase(),
            href: `/api/proofs/${run.id}/proof-record?format=${format}`,
          }))}
        />
      </div>
    </>
  );
}

function keptText({ waiting, network }: ProofState): string {
  if (network === 'away')
    return `No network: ${waiting} words on this device only. Go on; they are sent when it is back.`;
  return waiting > 0 ? `${waiting} being sent` : 'All words are on the server.';
}

function Ended({ run }: { run: ProofRunView }) {
  const { state, endedBy, endedAt, endedWhy, passed, failed, notDone, steps } = run;
  return (
    <div className="mt-3">
      <Notice level={state === 'closed' && failed > 0 ? 'look' : 'plain'}>
        {state === 'closed' ? 'Closed' : 'Given up'} by {endedBy}, {endedAt && showTime(endedAt)}
        {state === 'closed'
          ? `: ${passed} of ${steps} steps passed, ${failed} failed, ${notDone} not done.`
          : `: ${endedWhy}.`}
      </Notice>
    </div>
  );
}

function Parts({ own: { run, sayings }, state }: { own: OwnProof; state: ProofState }) {
  const { data: session } = useSession();
  const [address, setAddress] = useSearchParams();
  const chosen = address.get('step');
  // Without a network the session may not be known: the server decides when the words come.
  const may = run.state === 'open' && !run.unitGone && session?.role !== 'viewer';
  const onlyLeft = address.get('only') === 'open';
  const go = (step: string | null, only: boolean) =>
    setAddress(
      { ...(step === null ? {} : { step }), ...(only ? { only: 'open' } : {}) },
      { replace: true, preventScrollReset: true },
    );
  const isLeft = ({ id }: ProofStepView) => (sayings[id]?.verdict ?? null) === null;
  const shown = (step: ProofStepView) => !onlyLeft || isLeft(step) || step.id === chosen;
  return (
    <>
      <label className="mt-3 flex min-h-12 items-center gap-2 print:hidden">
        <input
          type="checkbox"
          className="size-5"
          checked={onlyLeft}
          onChange={() => void go(chosen, !onlyLeft)}
        />
        Only steps of which nothing was said
      </label>
      {PROOF_PARTS.map((part) => {
        const all = run.planned.filter((step) => step.part === part);
        const steps = all.filter(shown);
        if (steps.length === 0) return null;
        const left = all.filter(isLeft).length;
        return (
          <section key={part} className="mt-5">
            <h2 className="border-b-2 border-rule pb-1 font-semibold">
              {PART_NAMES[part]}{' '}
              <span className="font-normal text-soft">
                {left === 0 ? 'all said' : `${left} of ${all.length} left`}
              </span>
            </h2>
            <ul>
              {steps.map((step) => (
                <ProofStepRow
                  key={step.id}
                  run={run.id}
                  inputs={run.inputs}
                  step={step}
                  word={sayings[step.id]}
                  evidence={run.evidence.filter((each) => each.step === step.id)}
                  may={may}
                  open={chosen === step.id}
                  online={state.network === 'there'}
                  onOpen={() => void go(step.id === chosen ? null : step.id, onlyLeft)}
                  refresh={() => void state.sendNow()}
                />
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}

function End({ own: { run }, state, left }: { own: OwnProof; state: ProofState; left: number }) {
  const { data: session } = useSession();
  const hear = useProofs((store) => store.hear);
  const [why, setWhy] = useState('');
  const heard = (fresh: ProofRunView) => {
    hear(fresh, []);
    void queryClient.invalidateQueries({ queryKey: [`positions/${run.tag}/proofs`] });
  };
  const close = useMutation<ProofRunView, ProblemError>({
    mutationFn: async () => {
      await state.sendNow();
      return post(`proofs/${run.id}/close`);
    },
    onSuccess: heard,
  });
  const giveUp = useMutation<ProofRunView, ProblemError>({
    mutationFn: () => post(`proofs/${run.id}/give-up`, { why }),
    onSuccess: heard,
  });
  if (!session || session.role === 'viewer') return null;
  const waits = state.network === 'away' || state.waiting > 0;
  return (
    <section className="mt-6 space-y-3 border-t-2 border-plum pt-4 print:hidden">
      {left > 0 && (
        <Notice level="look">
          Of {left === 1 ? 'one step' : `${left} steps`} nobody has said anything yet.
        </Notice>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Button
          weight="main"
          className="min-h-14 text-base"
          disabled={waits || left > 0 || run.unitGone || close.isPending}
          onClick={() => close.mutate()}
        >
          Close the proof run
        </Button>
        <Button className="min-h-14" onClick={() => window.print()}>
          Print it
        </Button>
        {waits && <span className="text-sm text-soft">It can be closed when the network is back.</span>}
      </div>
      <details>
        <summary className="min-h-12 cursor-pointer py-3 text-soft">
          Give it up before everything was said
        </summary>
        <div className="flex flex-wrap gap-3">
          <input
            aria-label="Why it is given up"
            placeholder="Why"
            value={why}
            maxLength={300}
            className="h-12 min-w-0 flex-1 rounded border border-rule bg-sheet px-3"
            onChange={({ target }) => setWhy(target.value)}
          />
          <Button
            className="min-h-12"
            disabled={why.trim().length < 3 || giveUp.isPending}
            onClick={() => giveUp.mutate()}
          >
            Give it up
          </Button>
        </div>
      </details>
      {close.error && <ProblemNotice error={close.error} />}
      {giveUp.error && <ProblemNotice error={giveUp.error} />}
    </section>
  );
}
