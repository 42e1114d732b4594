import type { JobItemView, StartedJob } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useJob, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { isOpen, leftOver, OutcomeMark, STATE_TEXT } from './outcome.tsx';

/** Long work on units, as it happens. It goes on when the page is left. */
export function JobPage() {
  const { id = '' } = useParams();
  const [params] = useSearchParams();
  const { data: session } = useSession();
  const { data: job, error } = useJob(id);
  const navigate = useNavigate();
  const stop = useMutation<unknown, ProblemError>({ mutationFn: () => post(`jobs/${id}/stop`) });
  const again = useMutation<StartedJob, ProblemError>({
    mutationFn: () => post(`jobs/${id}/run-again`),
    onSuccess: (started) => navigate(`/jobs/${started.job.id}`),
  });
  if (!job) return <Unanswered error={error} what="this work" />;
  const ended = job.items.filter((item) => item.state === 'ended').length;
  const left = leftOver(job);
  const mayAct = session?.role !== 'viewer';
  return (
    <Page title={job.kind === 'backup' ? 'Backup' : 'Write'}>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="text-2xl font-semibold">
          {job.kind === 'backup' ? `Backup of ${job.items.length}` : job.reason}
        </h1>
        <span
          className={
            isOpen(job) || job.state === 'done' ? 'text-soft' : 'rounded bg-look-wash px-2 font-semibold'
          }
        >
          {STATE_TEXT[job.state]}, {ended} of {job.items.length}
        </span>
        <span className="text-sm text-soft">
          {job.requestedBy}, {showTime(job.requestedAt)}: {job.reason}
        </span>
        <span className="ml-auto flex gap-2">
          {mayAct && isOpen(job) && (
            <Button onClick={() => stop.mutate()} disabled={stop.isPending || stop.isSuccess}>
              {stop.isSuccess ? 'Stopping …' : 'Stop'}
            </Button>
          )}
          {mayAct && !isOpen(job) && left > 0 && job.kind === 'backup' && (
            <Button weight="main" onClick={() => again.mutate()} disabled={again.isPending}>
              Run the {left} again
            </Button>
          )}
        </span>
      </div>
      <div className="mt-3 space-y-2">
        {params.get('joined') === 'yes' && (
          <Notice level="plain">{job.requestedBy} had already started this backup; this is it.</Notice>
        )}
        {job.state === 'interrupted' && (
          <Notice level="look">
            The server was interrupted in the middle. What is marked with a tick was kept whole; nothing
            half-read was kept.
          </Notice>
        )}
        {(stop.error ?? again.error) && <ProblemNotice error={(stop.error ?? again.error) as ProblemError} />}
      </div>
      <ul className="mt-3">
        {job.items.map((item) => (
          <ItemLine key={item.tag} item={item} />
        ))}
      </ul>
    </Page>
  );
}

function ItemLine({ item }: { item: JobItemView }) {
  const share = item.state === 'ended' ? 1 : item.total === 0 ? 0 : item.done / item.total;
  const bad = item.outcome !== null && item.outcome !== 'kept' && item.outcome !== 'kept-with-gaps';
  return (
    <li className="grid min-h-10 items-center gap-x-4 border-b border-rule py-1 md:grid-cols-[8rem_14rem_7rem_7rem_1fr]">
      <Link to={`/positions/${item.tag}`} className="font-mono font-semibold hover:underline">
        {item.tag}
      </Link>
      <span className="truncate text-sm">{item.duty}</span>
      <progress
        value={bad ? 0 : share}
        max={1}
        aria-label={`Progress of ${item.tag}`}
        className="h-2 w-full appearance-none overflow-hidden rounded bg-rule [&::-webkit-progress-bar]:bg-rule [&::-webkit-progress-value]:bg-plum"
      />
      <OutcomeMark item={item} />
      <span className={`text-sm ${bad ? '' : 'text-soft'}`}>{item.text}</span>
    </li>
  );
}
