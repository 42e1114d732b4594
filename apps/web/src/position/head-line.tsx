import type { PositionDetailView, StartedJob } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Menu, MenuWay } from '../ui/menu.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Way } from '../ui/way.tsx';
import { StateNotice } from './state-notice.tsx';
import { showAge } from '../words/dates.ts';
import { STATE_SHAPES } from '../words/state-shapes.ts';

/** With how much of it is open. */
const checksName = ({ findings }: PositionDetailView): string =>
  findings && findings.stop + findings.look > 0 ? `Checks: ${findings.stop + findings.look}` : 'Checks';

/** Tag, duty, unit, motor and state of a position. */
export function HeadLine({ position }: { position: PositionDetailView }) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const { unit, state } = position;
  const mayWork = session?.role !== 'viewer' && position.retiredAt === null;
  const backUp = useMutation<StartedJob, ProblemError>({
    mutationFn: () => post('backups', { positions: [position.tag], reason: 'Before work at the drive' }),
    onSuccess: ({ job, joined }) => navigate(`/jobs/${job.id}${joined ? '?joined=yes' : ''}`),
  });
  // The same from every leaf of the position.
  const here = `/positions/${position.tag}`;
  const others = [
    ...(mayWork ? [{ to: 'import', name: 'Import a file' }] : []),
    ...(mayWork && position.isAxis ? [{ to: 'axes', name: 'All axes' }] : []),
    ...(mayWork && position.newestBackup ? [{ to: 'set', name: 'Set values' }] : []),
    ...(mayWork && position.newestBackup ? [{ to: 'reset', name: 'Reset' }] : []),
    ...(unit.line ? [{ to: 'now', name: 'Live' }] : []),
    { to: 'traces', name: 'Traces' },
    { to: 'proofs', name: 'Proofs' },
    { to: 'checks', name: checksName(position) },
    { to: 'wiring', name: 'Wiring' },
    { to: 'dry-run', name: 'Dry run' },
    { to: 'successor', name: 'Successor' },
    ...(mayWork ? [{ to: `/drafts?for=${position.tag}`, name: 'First settings' }] : []),
    { to: 'record', name: 'Record' },
  ];
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="font-mono text-2xl font-semibold">{position.tag}</h1>
        <span className="text-lg">{position.duty}</span>
        <span
          className={`rounded px-2 py-0.5 ${state.attention === 'plain' ? 'text-soft' : state.attention === 'stop' ? 'bg-stop-wash font-semibold' : 'bg-look-wash font-semibold'}`}
        >
          <span aria-hidden="true">{STATE_SHAPES[state.kind]}</span> {state.text}
        </span>
        <span className="ml-auto flex flex-wrap gap-2">
          {mayWork && unit.line && (
            <Button onClick={() => backUp.mutate()} disabled={backUp.isPending}>
              Back up now
            </Button>
          )}
          {mayWork && !unit.line && <Way to={`${here}/read-off`}>Read off at the keypad</Way>}
          {/* On a phone the differences come first: what else there is to do is folded. */}
          <span className="contents max-md:hidden">
            {others.map(({ to, name }) => (
              <Way key={to} to={to.startsWith('/') ? to : `${here}/${to}`}>
                {name}
              </Way>
            ))}
          </span>
          <Menu name="More" className="min-h-12 border border-rule bg-sheet px-3 font-medium md:hidden">
            {others.map(({ to, name }) => (
              <MenuWay key={to} to={to.startsWith('/') ? to : `${here}/${to}`}>
                {name}
              </MenuWay>
            ))}
          </Menu>
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
      <StateNotice
        position={position}
        mayWork={mayWork}
        backUp={() => backUp.mutate()}
        busy={backUp.isPending}
      />
      {backUp.error && <ProblemNotice error={backUp.error} />}
    </>
  );
}
