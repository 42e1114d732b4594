import type { StartedJob } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import type { Killing, Work } from '../killing.ts';
import { must } from './must.ts';

export function backup({ plant, looker }: Killing): Work {
  const positions = ['DR-CF-01', 'SP-ST-03'];
  let begunAt = '';
  return {
    ready: (doomed) => {
      begunAt = new Date().toISOString();
      return Promise.resolve(async () => {
        const { job } = must(await doomed.post<StartedJob>('backups', { positions, reason: 'Kill' }));
        await plant.jobEnd(looker, job.id);
      });
    },
    // A unit is told as kept exactly if the backup is there, and one that was looked at.
    untrue: async () => {
      const rows = await plant.app
        .get(DataSource)
        .query<{ text: string }[]>(
          `select j.id || ': ' || i.outcome as text from job j join job_item i on i.job_id = j.id left join backup b on b.id = i.backup_id where j.requested_at >= $1 and (i.outcome in ('kept', 'kept-with-gaps')) <> (b.id is not null)`,
          [begunAt],
        );
      return rows.map(({ text }) => text);
    },
  };
}
