import { setTimeout as after } from 'node:timers/promises';
import type { RoundView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import type { Killing, Work } from '../killing.ts';
import { until } from '../running-plant.ts';
import { must } from './must.ts';

const ASKED = {
  ...{ at: '03:00', days: [0, 1, 2, 3, 4, 5, 6], retries: 0, quiet: null, enabled: true },
  scope: { areas: ['Drying'], models: [], criticalities: [] },
};

/** A round that becomes due: its run, its backup and what is said of what failed. */
export function round({ plant, looker }: Killing): Work {
  const sql = (text: string, values: unknown[] = []) =>
    plant.app.get(DataSource).query<unknown[]>(text, values);
  let made: RoundView | undefined;
  let count = 0;
  const runs = async () => {
    const rounds = must(await looker.get<readonly RoundView[]>('rounds'));
    return rounds.find(({ id }) => id === made?.id)?.runs ?? [];
  };
  return {
    ready: async (doomed) => {
      await sql('update round set enabled = false');
      count += 1;
      const { id } = (made = must(
        await doomed.post<RoundView>('rounds', { ...ASKED, name: `Kill ${count}` }),
      ));
      return async () => {
        // As if it had last been due a day before.
        await sql(`update round_run set due_at = due_at - interval '1 day' where round_id = $1`, [id]);
        await until(async () => {
          const [newest] = await runs();
          return newest?.state === 'done' ? newest : after(100, undefined);
        });
      };
    },
    // One run of that due time, with a backup that tells of each unit.
    untrue: async () => {
      await sql('update round set enabled = false where id = $1', [made?.id]);
      const told = await runs();
      const lost = told.some(({ jobId }) => jobId === null);
      return told.length > 1 || lost ? [JSON.stringify(told)] : [];
    },
  };
}
