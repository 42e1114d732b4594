// Hashing everything again: a quiet line when all is well, a stop that names what is damaged when it is not.

import type { IntegrityReport } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useIntegrity, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { showTime } from '../words/dates.ts';

const MOST_SHOWN = 20;

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
        {report && report.damaged.length === 0 && report.findings.length === 0 && (
          <span>
            ✓ {showTime(report.at)}: {report.checked} contents and {report.rows} rows of evidence, all as they
            were kept
          </span>
        )}
        {data && !report && <span>Nothing has been checked yet; the check of every night will do it.</span>}
      </div>
      {report?.damaged.map(({ hash, usedBy, restoreFrom }) => (
        <Notice key={hash} level="stop">
          Damaged: <span className="font-mono text-sm break-all">{hash}</span>. Used by {usedBy.join('; ')}.
          Restore from: {restoreFrom}
        </Notice>
      ))}
      {report && report.findings.length > 0 && (
        <Notice level="stop">
          {showTime(report.at)}: {report.findings.length} things do not fit together. Restore a copy of the
          database from before, beside this one, and compare.
          <ul className="mt-1 list-disc pl-5 text-sm">
            {report.findings.slice(0, MOST_SHOWN).map(({ what, text }) => (
              <li key={`${what} ${text}`}>{text}</li>
            ))}
          </ul>
          {report.findings.length > MOST_SHOWN && (
            <p className="text-sm">
              and {report.findings.length - MOST_SHOWN} more, which npm run verify names
            </p>
          )}
        </Notice>
      )}
      {check.error && <ProblemNotice error={check.error} />}
    </div>
  );
}
