import type { JobItemView, JobView } from '@drive-keep/api';

const KEPT = ['kept', 'kept-with-gaps'];

/** How the work on one unit ended: a quiet tick, a look, or a stop. */
export function OutcomeMark({ item }: { item: JobItemView }) {
  if (item.state === 'waiting') return <span className="text-soft">waiting</span>;
  if (item.state === 'reading') return <span>at work</span>;
  if (item.outcome === 'kept') return <span aria-label="done">✓</span>;
  if (item.outcome === 'kept-with-gaps') return <span className="font-semibold">? with gaps</span>;
  return <span className="font-semibold text-stop">! not done</span>;
}

export const STATE_TEXT: Readonly<Record<JobView['state'], string>> = {
  queued: 'waiting to begin',
  running: 'at work',
  done: 'ended',
  stopped: 'stopped',
  interrupted: 'interrupted',
};

export const isOpen = (job: JobView): boolean => job.state === 'queued' || job.state === 'running';

/** Units that were not done. */
export const leftOver = (job: JobView): number =>
  job.items.filter((item) => item.state === 'ended' && !KEPT.includes(item.outcome ?? '')).length;
