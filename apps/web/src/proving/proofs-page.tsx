// Proof runs of a position: whether one is asked for, the one that is open, those that ended, and the sheet that begins one.

import type { PositionDetailView, ProofMark, ProofRunView, ProofScope, ProofsView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, usePosition, useProofList, useSession } from '../api/queries.ts';
import { HeadLine } from '../position/head-line.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

export function ProofsPage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: proofs, error: notListed } = useProofList(tag);
  const { data: session } = useSession();
  if (!position) return <Unanswered error={error} what="this position" />;
  const mayWork = session?.role !== 'viewer' && position.retiredAt === null;
  return (
    <Page title={`Proofs of ${tag}`}>
      <HeadLine position={position} />
      <p className="mt-2 text-sm">
        <Link to={`/positions/${tag}`} className="text-plum underline">
          Back to the comparison
        </Link>
      </p>
      {proofs?.asked && (
        <div className="mt-3">
          <Notice level="look">
            {proofs.asked.text}, {showTime(proofs.asked.since)}. What it does has not been proved since.
          </Notice>
        </div>
      )}
      {mayWork && proofs && <Begin position={position} proofs={proofs} />}
      <SheetPart name="Kept" state={proofs ? `${proofs.runs.length}` : ''}>
        {proofs ? <Kept runs={proofs.runs} /> : <Unanswered error={notListed} what="its proof runs" />}
      </SheetPart>
    </Page>
  );
}

function Kept({ runs }: { runs: readonly ProofMark[] }) {
  if (runs.length === 0)
    return <Nothing>No proof run yet. The first one stands here, with what was seen and by whom.</Nothing>;
  return (
    <ul className="border-t border-rule">
      {runs.map(
        ({ id, state, scope, why, startedAt, startedBy, endedBy, steps, passed, failed, notDone }) => (
          <li key={id} className="grid gap-x-4 border-b border-rule py-1.5 md:grid-cols-[10.5rem_1fr_1fr]">
            <span>{showTime(startedAt)}</span>
            <span>
              <Link
                to={`/proofs/${id}`}
                className="font-semibold text-plum hover:underline max-lg:inline-block max-lg:py-3"
              >
                {scope === 'whole' ? 'All of it' : 'What was changed'}
              </Link>
              <span className="block text-sm text-soft">
                {why}. {startedBy}
                {endedBy && endedBy !== startedBy && `, ended by ${endedBy}`}
              </span>
            </span>
            <span>
              {state === 'open' ? <b>open</b> : state === 'given-up' ? 'given up' : 'closed'}:{' '}
              <span className={failed > 0 ? 'bg-stop-wash px-1 font-semibold' : ''}>
                {passed} of {steps} passed{failed > 0 && `, ${failed} failed`}
                {notDone > 0 && `, ${notDone} not done`}
              </span>
            </span>
          </li>
        ),
      )}
    </ul>
  );
}

const SETS = [
  { id: 'newest', name: 'As it was read last' },
  { id: 'baseline', name: 'Signed baseline' },
];

function Begin({ position, proofs }: { position: PositionDetailView; proofs: ProofsView }) {
  const { tag } = position;
  const open = proofs.runs.find(({ state }) => state === 'open');
  const before = proofs.runs.some(({ state }) => state === 'closed');
  const [set, setSet] = useState('newest');
  const [scope, setScope] = useState<ProofScope>(
    before && proofs.asked?.whole !== true ? 'changed' : 'whole',
  );
  const [why, setWhy] = useState(proofs.asked?.text ?? '');
  const navigate = useNavigate();
  const begin = useMutation<ProofRunView, ProblemError>({
    mutationFn: () => post(`positions/${tag}/proofs`, { set, scope, why: why.trim() }),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: [`positions/${tag}/proofs`] });
      void navigate(`/proofs/${id}`);
    },
  });
  if (open)
    return (
      <SheetPart name="Open" state="">
        <p>
          A proof run of {open.startedBy} is open: {open.passed + open.failed + open.notDone} of {open.steps}{' '}
          steps were said.{' '}
          <Link
            to={`/proofs/${open.id}`}
            className="font-semibold text-plum underline max-lg:inline-block max-lg:py-3"
          >
            Go on with it
          </Link>
        </p>
      </SheetPart>
    );
  return (
    <SheetPart name="Begin" state="">
      <p className="text-sm text-soft">
        Its steps follow from its set and its wiring: what hands do, and what must be seen. Drive Keep reads
        along where there is a line, and starts nothing.
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Choice
          label="What it should hold"
          value={set}
          options={SETS}
          onChange={({ target }) => setSet(target.value)}
        />
        <Choice
          label="How much"
          value={scope}
          options={[
            { id: 'whole', name: 'All of it' },
            ...(before ? [{ id: 'changed', name: 'What matters since the last proof run' }] : []),
          ]}
          onChange={({ target }) => setScope(target.value as ProofScope)}
        />
        <label className="grid min-w-60 flex-1 text-sm">
          Why
          <input
            value={why}
            maxLength={300}
            placeholder="After the replacement"
            className="h-9 rounded border border-rule bg-sheet px-2 max-lg:h-12"
            onChange={({ target }) => setWhy(target.value)}
          />
        </label>
        <Button
          weight="main"
          disabled={why.trim().length < 3 || begin.isPending}
          onClick={() => begin.mutate()}
        >
          Begin a proof run
        </Button>
      </div>
      {begin.error && <ProblemNotice error={begin.error} />}
    </SheetPart>
  );
}
