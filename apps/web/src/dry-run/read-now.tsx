import type { StartedJob } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useJob, usePosition, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';

/** Reads the unit as it is now, and says what came of it; what was read is the newest backup then. */
export function ReadNow({ tag, begin }: { tag: string; begin: () => void }) {
  const { data: session } = useSession();
  const { data: position } = usePosition(tag);
  const reading = useMutation<StartedJob, ProblemError>({
    mutationFn: () => post('backups', { positions: [tag], reason: 'For a dry run of the unit as it is' }),
    onSuccess: begin,
  });
  const may = session && session.role !== 'viewer' && position?.unit.line && position.retiredAt === null;
  if (!may) return null;
  return (
    <>
      <Button onClick={() => reading.mutate()} disabled={reading.isPending}>
        Back up now
      </Button>
      {reading.error && <ProblemNotice error={reading.error} />}
      {reading.data && <Reading id={reading.data.job.id} tag={tag} />}
    </>
  );
}

function Reading({ id, tag }: { id: string; tag: string }) {
  const { data: job } = useJob(id);
  const item = job?.items.find((each) => each.tag === tag);
  const part = item && item.total > 0 ? ` ${item.done} of ${item.total}` : '';
  return (
    <span role="status">
      {item?.state === 'ended' ? item.text : `Reading the unit${part} …`}{' '}
      <Link to={`/jobs/${id}`} className="text-plum hover:underline">
        Work
      </Link>
    </span>
  );
}
