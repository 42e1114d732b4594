import type { PositionDetailView, StartedJob } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useSession } from '../api/queries.ts';
import { stateOf } from '@drive-keep/api';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { showAge } from '../words/dates.ts';

/** Tag, duty, unit, motor and state of a position. */
export function HeadLine({ position }: { position: PositionDetailView }) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const { unit, lastTry } = position;
  const state = stateOf(position);
  const mayWork = session?.role !== 'viewer' && position.retiredAt === null;
  const backUp = useMutation<StartedJob, ProblemError>({
    mutationFn: () => post('backups', { positions: [position.tag], reason: 'Before work at the drive' }),
    onSuccess: ({ job, joined }) => navigate(`/jobs/${job.id}${joined ? '?joined=yes' : ''}`),
  });
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="font-mono text-2xl font-semibold">{position.tag}</h1>
        <span className="text-lg">{position.duty}</span>
        <span
          className={`rounded px-2 py-0.5 ${state.attention === 'plain' ? 'text-soft' : state.attention === 'stop' ? 'bg-stop-wash font-semibold' : 'bg-look-wash font-semibold'}`}
        >
          <span aria-hidden="true">{state.shape}</span> {state.text}
        </span>
        <span className="ml-auto flex flex-wrap gap-2">
          {mayWork && unit.line && (
            <Button onClick={() => backUp.mutate()} disabled={backUp.isPending}>
              Back up now
            </Button>
          )}
          {mayWork && !unit.line && <Way to="read-off">Read off at the keypad</Way>}
          {mayWork && <Way to="import">Import a file</Way>}
          {mayWork && position.isAxis && <Way to="axes">All axes</Way>}
          {mayWork && position.newestBackup && <Way to="set">Set values</Way>}
          {mayWork && position.newestBackup && <Way to="reset">Reset</Way>}
          <Way to="record">Record</Way>
        </span>
      </div>
      <p className="mt-1 text-sm text-soft">
        <span className="text-ink">
          {unit.maker} {unit.model}
        </span>{' '}
        {unit.rating} ({unit.ratingName}), {unit.regionName}, serial{' '}
        <span className="font-mono">{unit.serial}</span>, firmware {unit.firmware}
        {unit.line ? `, line ${unit.line.name} address ${unit.line.address}` : ', keypad only'} ·{' '}
        {position.motor} ·{' '}
        {position.newestBackup ? `backup ${showAge(position.newestBackup)}` : 'never backed up'}
      </p>
      {state.attention === 'stop' && lastTry && (
        <div className="mt-2">
          <Notice level="stop">
            Last try {showAge(lastTry.at)}: {lastTry.text}
          </Notice>
        </div>
      )}
      {backUp.error && <ProblemNotice error={backUp.error} />}
    </>
  );
}

function Way({ to, children }: { to: string; children: string }) {
  return (
    <Link
      to={to}
      className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
    >
      {children}
    </Link>
  );
}
