import type { PositionView, StartedJob } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { useSelection } from './selection.ts';

/** Starts a backup of the chosen positions, or of all that are shown when none is chosen. */
export function BackupBar({ shown }: { shown: readonly PositionView[] }) {
  const { tags, set } = useSelection();
  const [reason, setReason] = useState('Routine backup');
  const navigate = useNavigate();
  const chosen = shown.filter((position) => tags.has(position.tag));
  const offered = chosen.length > 0 ? chosen : shown;
  const wanted = offered.filter(({ unit }) => unit.line !== null).map(({ tag }) => tag);
  const byHand = offered.length - wanted.length;
  const start = useMutation<StartedJob, ProblemError>({
    mutationFn: () => post('backups', { positions: wanted, reason: reason.trim() }),
    onSuccess: ({ job, joined }) => {
      set([]);
      void navigate(`/jobs/${job.id}${joined ? '?joined=yes' : ''}`);
    },
  });
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3">
      <label className="flex items-center gap-2 text-sm">
        Reason
        <input
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          maxLength={200}
          className="h-9 w-60 rounded border border-rule bg-sheet px-2 text-base max-lg:h-12"
        />
      </label>
      <Button
        weight="main"
        disabled={start.isPending || wanted.length === 0 || reason.trim() === ''}
        onClick={() => start.mutate()}
      >
        Back up {chosen.length > 0 ? `${wanted.length} chosen` : `all ${wanted.length}`}
      </Button>
      {chosen.length > 0 ? (
        <Button weight="quiet" onClick={() => set([])}>
          Choose none
        </Button>
      ) : (
        <span className="text-sm text-soft">or choose some with the boxes</span>
      )}
      {byHand > 0 && (
        <span className="text-sm text-soft">
          {byHand === 1 ? 'One keypad-only unit is' : `${byHand} keypad-only units are`} left out: read off by
          hand
        </span>
      )}
      {start.error && <ProblemNotice error={start.error} />}
    </div>
  );
}
