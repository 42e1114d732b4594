import type { ComparisonView, WritePlanView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { NO_MARKS, useMarks } from './marks.ts';

/** Leads from marked differences to a write plan. Nothing is written before the plan was seen and released. */
export function PutBackBar({ tag, comparison }: { tag: string; comparison: ComparisonView }) {
  const marks = useMarks(({ byTag }) => byTag[tag] ?? NO_MARKS);
  const set = useMarks((state) => state.set);
  const navigate = useNavigate();
  const codes = comparison.rows.filter((row) => marks.has(row.code)).map((row) => row.code);
  const plan = useMutation<WritePlanView, ProblemError>({
    mutationFn: () => post(`positions/${tag}/write-plans`, { target: comparison.a.reference, codes }),
    onSuccess: (made) => {
      set(tag, []);
      void navigate(`/write-plans/${made.id}`);
    },
  });
  if (codes.length === 0) return null;
  return (
    <div className="sticky bottom-0 mt-4 flex flex-wrap items-center gap-4 border-t-2 border-plum bg-sheet px-4 py-3">
      <span>
        <b>{codes.length}</b> marked to go back to <b>A</b>:{' '}
        <span className="font-mono">{codes.join(', ')}</span>
      </span>
      <Button weight="main" disabled={plan.isPending} onClick={() => plan.mutate()}>
        Make a write plan
      </Button>
      <Button weight="quiet" onClick={() => set(tag, [])}>
        Unmark all
      </Button>
      {plan.error && <ProblemNotice error={plan.error} />}
    </div>
  );
}
