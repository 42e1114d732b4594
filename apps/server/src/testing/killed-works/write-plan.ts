import type { WritePlanView } from '@drive-keep/api';
import type { Killing, Work } from '../killing.ts';
import { must } from './must.ts';

/** What a plan says of its writes against what the unit holds; nobody else has been there since. */
export async function untruePlan({ plant, looker }: Killing, id: string): Promise<readonly string[]> {
  if (id === '') return [];
  const plan = must(await looker.get<WritePlanView>(`write-plans/${id}`));
  const { memory } = plant.unit(plan.tag);
  return plan.steps.flatMap(({ code, from, to, state, phase }) => {
    // A reset sets all values at once: of its steps only those after it say something about one value.
    const held = memory.get(code);
    const wrong =
      (state === 'written' && held !== to && phase !== 'reset') ||
      (state === 'planned' && plan.kind !== 'reset' && from !== null && held !== from);
    return wrong
      ? [`${plan.tag} ${code}: ${state}, from ${JSON.stringify(from)} to ${to}, holds ${held}`]
      : [];
  });
}

export function writePlan(killing: Killing): Work {
  const { plant, looker } = killing;
  const tag = 'KL1-RD-07';
  const codes = ['ramp.up', 'preset.contact.3', 'stop.mode'].map((meaning) => plant.code(meaning));
  let id = '';
  return {
    ready: async (doomed) => {
      const { memory } = plant.unit(tag);
      for (const code of codes) memory.force(code, memory.get(code) === 3 ? 4 : 3);
      await plant.backUp(doomed, tag);
      id = must(
        await doomed.post<WritePlanView>(`positions/${tag}/write-plans`, { target: 'baseline', codes }),
      ).id;
      must(await doomed.post(`write-plans/${id}/release`, { stoppedAndSafe: true }));
      return async () => {
        must(await doomed.post(`write-plans/${id}/carry-out`));
        await plant.planEnd(looker, id);
      };
    },
    untrue: () => untruePlan(killing, id),
  };
}
