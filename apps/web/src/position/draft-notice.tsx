// A baseline revision that waits: who proposed what and why, and for an engineer the signature.

import type { DraftView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { showTime } from '../words/dates.ts';

const PROPOSED: Readonly<Record<DraftView['of'], (draft: DraftView) => string>> = {
  differences: ({ codes }) => codes.join(', '),
  first: () => 'The newest backup',
  wiring: () => 'The values as they were, with the wiring of today',
  replacement: () => 'What the new unit holds after its replacement',
};

export function DraftNotice({ tag, draft }: { tag: string; draft: DraftView }) {
  const { data: session } = useSession();
  const [refusing, setRefusing] = useState(false);
  const [why, setWhy] = useState('');
  const refresh = () => queryClient.invalidateQueries();
  const sign = useMutation<unknown, ProblemError>({
    mutationFn: () =>
      post(`baseline-drafts/${draft.id}/sign`, draft.wiring === null ? {} : { wiring: draft.wiring }),
    onSuccess: refresh,
  });
  const refuse = useMutation<unknown, ProblemError>({
    mutationFn: () => post(`baseline-drafts/${draft.id}/refuse`, { reason: why }),
    onSuccess: refresh,
  });
  const error = sign.error ?? refuse.error;
  const own = draft.madeBy === session?.person;
  return (
    <div className="mt-3 space-y-2">
      <Notice level="look">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <span>
            <b>Revision {draft.revision} of the baseline waits for its signature.</b>{' '}
            {PROPOSED[draft.of](draft)}, proposed by {draft.madeBy}, {showTime(draft.madeAt)}: {draft.reason}
            {draft.wiring !== null && (
              <>
                . It is signed together with{' '}
                <Link to={`/positions/${tag}/wiring`} className="text-plum hover:underline">
                  revision {draft.wiring} of the wiring
                </Link>
                .
              </>
            )}{' '}
            <Proved tag={tag} draft={draft} />{' '}
            <Link to={`/positions/${tag}/dry-run?set=draft`} className="text-plum hover:underline">
              Dry run
            </Link>{' '}
            <Link to={`/positions/${tag}/checks?set=draft`} className="text-plum hover:underline">
              Checks
            </Link>
          </span>
          {session?.role === 'engineer' && !(draft.secondPerson && own) && (
            <span className="flex gap-2">
              <Button weight="main" disabled={sign.isPending} onClick={() => sign.mutate()}>
                Sign revision {draft.revision}
              </Button>
              <Button onClick={() => setRefusing(!refusing)}>Do not sign</Button>
            </span>
          )}
          {draft.secondPerson && own && <span className="text-sm">A second person has to sign it.</span>}
        </div>
        {refusing && (
          <form
            className="mt-2 flex flex-wrap gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              refuse.mutate();
            }}
          >
            <input
              autoFocus
              aria-label="Why it is not signed"
              placeholder="Why not"
              value={why}
              onChange={(event) => setWhy(event.target.value)}
              className="h-10 w-96 max-w-full rounded border border-rule bg-ground px-3"
            />
            <Button type="submit">Refuse it</Button>
          </form>
        )}
      </Notice>
      {error && <ProblemNotice error={error} />}
    </div>
  );
}

/** A position without a baseline: its newest backup can be proposed as the first one. */
export function FirstBaseline({ tag }: { tag: string }) {
  const [reason, setReason] = useState('Commissioned');
  const propose = useMutation<unknown, ProblemError>({
    mutationFn: () => post(`positions/${tag}/baseline-drafts`, { reason }),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        propose.mutate();
      }}
    >
      <span className="text-soft">No baseline yet.</span>
      <input
        aria-label="Reason"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        className="h-9 w-72 rounded border border-rule bg-sheet px-3 max-lg:h-12"
      />
      <Button type="submit" disabled={propose.isPending}>
        Propose the newest backup as baseline
      </Button>
      {propose.error && <ProblemNotice error={propose.error} />}
    </form>
  );
}

/** Which proof run the signature would name, or that none has shown on the machine what is signed. */
function Proved({ tag, draft: { proof } }: { tag: string; draft: DraftView }) {
  if (!proof)
    return (
      <>
        No{' '}
        <Link to={`/positions/${tag}/proofs`} className="text-plum hover:underline">
          proof run
        </Link>{' '}
        has shown it on the machine.
      </>
    );
  return (
    <>
      It names the{' '}
      <Link to={`/proofs/${proof.id}`} className="text-plum hover:underline">
        proof run of {showTime(proof.at)}
      </Link>
      , which has shown it on the machine.
    </>
  );
}
