import type { RegisterPage, StartedJob } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { get, post, type ProblemError } from '../api/client.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { useSelection } from './selection.ts';

/** Starts a backup of the chosen positions, or of all that the filters let through when none is chosen. */
export function BackupBar({
  part,
  query,
  filtered,
}: {
  part: RegisterPage;
  query: string;
  filtered: boolean;
}) {
  const { tags, set } = useSelection();
  const [reason, setReason] = useState('Routine backup');
  const navigate = useNavigate();
  const count = tags.size > 0 ? tags.size : part.onLine;
  const byHand = part.total - part.onLine;
  const start = useMutation<StartedJob, ProblemError>({
    mutationFn: async () => {
      const positions = tags.size > 0 ? [...tags] : await tagsOnLine(query);
      return post('backups', { positions, reason: reason.trim() });
    },
    onSuccess: ({ job, joined }) => {
      set([]);
      void navigate(`/jobs/${job.id}${joined ? '?joined=yes' : ''}`);
    },
  });
  return (
    <div className="flex flex-wrap items-center gap-3">
      <label className="flex items-center gap-2 text-sm">
        Reason
        <input
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          maxLength={200}
          className="h-9 w-44 rounded border border-rule bg-sheet px-2 text-base max-lg:h-12"
        />
      </label>
      <Button
        weight="main"
        disabled={start.isPending || count === 0 || reason.trim() === ''}
        onClick={() => start.mutate()}
      >
        Back up {tags.size > 0 ? `${count} chosen` : `${filtered ? 'these' : 'all'} ${count}`}
      </Button>
      {tags.size > 0 ? (
        <Button weight="quiet" onClick={() => set([])}>
          Choose none
        </Button>
      ) : (
        byHand > 0 && <span className="text-sm text-soft">without {byHand} keypad-only</span>
      )}
      {start.error && <ProblemNotice error={start.error} />}
    </div>
  );
}

/** Tags of all that the filters let through and that have a line, however many parts that takes. */
async function tagsOnLine(query: string): Promise<readonly string[]> {
  const tags: string[] = [];
  for (let from = 0; ;) {
    const part = await get<RegisterPage>(`register?${query}${query && '&'}from=${from}&most=500`);
    tags.push(...part.positions.filter(({ unit }) => unit.line !== null).map(({ tag }) => tag));
    from += part.positions.length;
    if (from >= part.total || part.positions.length === 0) return tags;
  }
}
