// Hashing everything again: a quiet line when all is well, a stop that names what is damaged when it is not.

import type { IntegrityReport } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useIntegrity, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { showTime } from '../words/dates.ts';

export function IntegrityCheck() {
  const { data: session } = useSession();
  const { data } = useIntegrity();
  const check = useMutation<IntegrityReport, ProblemError>({
    mutationFn: () => post('integrity'),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  const report = data?.report;
  return (
    <div className="mt-2 space-y-2">
      <div className="flex flex-wrap items-center gap-3 text-sm text-soft">
        {session?.role === 'engineer' && (
          <Button disabled={check.isPending} onClick={() => check.mutate()}>
            Check everything that was kept
          </Button>
        )}
        {report && report.damaged.length === 0 && (
          <span>
            ✓ {showTime(report.at)}: {report.checked} contents, all as they were kept
          </span>
        )}
      </div>
      {report?.damaged.map(({ hash, usedBy, restoreFrom }) => (
        <Notice key={hash} level="stop">
          Damaged: <span className="font-mono text-sm break-all">{hash}</span>. Used by {usedBy.join('; ')}.
          Restore from: {restoreFrom}
        </Notice>
      ))}
      {check.error && <ProblemNotice error={check.error} />}
    </div>
  );
}
