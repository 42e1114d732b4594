import type { FinishedDecisions, WritePlanView } from '@drive-keep/api';
import type { Killing, Work } from '../killing.ts';
import { must } from './must.ts';

export function decisions({ plant, looker }: Killing): Work {
  const tag = 'GL-PU-01';
  let finished: FinishedDecisions | undefined;
  const counts = async () => {
    const { open } = must(await looker.get<{ open: readonly unknown[] }>(`positions/${tag}/decisions`));
    const plans = must(await looker.get<readonly WritePlanView[]>(`positions/${tag}/write-plans`));
    return { open: open.length, plans: plans.length };
  };
  let before = { open: 0, plans: 0 };
  return {
    ready: async (doomed) => {
      finished = undefined;
      await plant.backUp(doomed, tag);
      const { rows } = must(
        await looker.get<{ rows: readonly { code: string }[] }>(
          `positions/${tag}/comparison?a=baseline&b=newest`,
        ),
      );
      const codes = rows.map(({ code }) => code);
      must(await doomed.ask('PUT', `positions/${tag}/decisions`, { codes, kind: 'put-back' }));
      before = await counts();
      return async () => {
        finished = must(await doomed.post<FinishedDecisions>(`positions/${tag}/decisions/finish`));
      };
    },
    // Either all of it happened, or nothing of it.
    untrue: async () => {
      const after = await counts();
      const all = after.open === 0 && after.plans === before.plans + 1;
      const none = after.open === before.open && after.plans === before.plans && !finished;
      return all || none ? [] : [`half finished: ${JSON.stringify({ before, after, finished })}`];
    },
  };
}
