import { Link } from 'react-router';
import { useRecentJobs } from '../api/queries.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { leftOver, STATE_TEXT } from './outcome.tsx';

/** What is at work and what was: the newest fifty. */
export function JobsPage() {
  const { data: jobs, error } = useRecentJobs();
  if (!jobs) return <Unanswered error={error} what="the work on units" />;
  return (
    <Page title="Work">
      <h1 className="text-2xl font-semibold">Work on units</h1>
      {jobs.length === 0 && (
        <Nothing>Nothing yet. Backups and writes are listed here, as they happen.</Nothing>
      )}
      <table className="mt-3 w-full text-left">
        <thead className="text-sm text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 font-normal">Begun</th>
            <th className="font-normal">What</th>
            <th className="font-normal">By</th>
            <th className="font-normal">State</th>
            <th className="font-normal">Not done</th>
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => (
            <tr key={job.id} className="h-9 border-b border-rule hover:bg-plum-wash">
              <td>
                <Link to={`/jobs/${job.id}`} className="text-plum hover:underline">
                  {showTime(job.requestedAt)}
                </Link>
              </td>
              <td>
                {job.kind === 'backup' ? `Backup of ${job.items.length}` : 'Write'}: {job.reason}
              </td>
              <td>{job.requestedBy}</td>
              <td>{STATE_TEXT[job.state]}</td>
              <td>{leftOver(job) || ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Page>
  );
}
