// Trying a line: what was found is said in the server's words, with the time at which it was.

import type { LineTrial, LineView } from '@drive-keep/api';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import { post, type ProblemError } from '../api/client.ts';
import { Asking } from '../ui/answer.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { showTime } from '../words/dates.ts';

export type LineSettings = Pick<
  LineView,
  'host' | 'port' | 'framing' | 'timeoutMs' | 'retries' | 'pauseMs' | 'largestRead'
>;
type Tried = LineTrial & { readonly at: string };
type Trial = UseMutationResult<Tried, ProblemError, LineSettings>;

export const useTrial = (): Trial =>
  useMutation({
    mutationFn: async ({ host, port, framing, timeoutMs, retries, pauseMs, largestRead }) => {
      const settings = { host, port, framing, timeoutMs, retries, pauseMs, largestRead };
      return { ...(await post<LineTrial>('lines/try', settings)), at: new Date().toISOString() };
    },
  });

export function LineTrialText({ trial }: { trial: Trial }) {
  if (trial.isPending) return <Asking what="who is behind the gateway" />;
  if (trial.error)
    return (
      <div className="mt-2">
        <ProblemNotice error={trial.error} />
      </div>
    );
  if (!trial.data) return null;
  return (
    <div className="mt-2">
      <Notice level={trial.data.attention}>
        {trial.data.text} <span className="text-sm text-soft">Tried at {showTime(trial.data.at)}.</span>
      </Notice>
    </div>
  );
}
