// Whether the wiring is signed: a baseline stands for the wiring that was kept when it was signed. A later wiring is proposed
// for a signature of its own, with the values as they were.

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { WiringView } from '@drive-keep/api';
import { post, type ProblemError } from '../api/client.ts';
import { useDecisions, useHistory } from '../api/queries.ts';
import { DraftNotice } from '../position/draft-notice.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';

export function WiringSignature({ view, mayWrite }: { view: WiringView; mayWrite: boolean }) {
  const { tag } = view;
  const { data: history, error } = useHistory(tag);
  const { data: decisions, error: decisionsError } = useDecisions(tag);
  const kept = view.revisions[0]?.revision ?? 0;
  if (!history || !decisions)
    return <Unanswered error={error ?? decisionsError} what="the signatures of this position" />;
  const baseline = history.baselines.at(-1);
  const { draft } = decisions;
  if (kept === 0 || view.revision !== kept) return null;
  if (draft) return <DraftNotice tag={tag} draft={draft} />;
  if (!baseline)
    return <p className="mt-1 text-soft">Not signed yet: the position’s first baseline will hold it.</p>;
  if (baseline.wiring === kept)
    return (
      <p className="mt-1 text-soft">
        Revision {kept} is signed: it belongs to revision {baseline.revision} of the baseline, signed by{' '}
        {baseline.signedBy}.
      </p>
    );
  return (
    <div className="mt-3">
      <Notice level="look">
        <p>
          Revision {kept} of the wiring is not signed. Revision {baseline.revision} of the baseline{' '}
          {baseline.wiring === null
            ? 'was signed before a wiring was kept.'
            : `was signed with revision ${baseline.wiring} of the wiring.`}
        </p>
        {mayWrite && <Proposing key={kept} view={view} />}
      </Notice>
    </div>
  );
}

function Proposing({ view }: { view: WiringView }) {
  const [reason, setReason] = useState(view.revisions[0]?.why ?? '');
  const queries = useQueryClient();
  const propose = useMutation<unknown, ProblemError>({
    mutationFn: () => post(`positions/${view.tag}/wiring/baseline-draft`, { reason }),
    onSuccess: () => queries.invalidateQueries(),
  });
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!propose.isPending) propose.mutate();
      }}
    >
      <input
        aria-label="Reason for the signature"
        value={reason}
        maxLength={300}
        className="min-h-9 w-96 max-w-full rounded border border-rule bg-sheet px-2 max-lg:min-h-12"
        onChange={({ target }) => setReason(target.value)}
      />
      <Button type="submit" disabled={reason.trim().length < 3 || propose.isPending}>
        Propose it for signature
      </Button>
      {propose.error && <ProblemNotice error={propose.error} />}
    </form>
  );
}
