import type { WritePlanView } from '@drive-keep/api';
import type { Killing, Work } from '../killing.ts';
import { must } from './must.ts';
import { untruePlan } from './write-plan.ts';

export function reset(killing: Killing): Work {
  const { plant, looker } = killing;
  const tag = 'KL1-CA-01';
  const unit = plant.unit(tag);
  const held = Object.keys(unit.memory.snapshot()).map((code) => [code, unit.memory.get(code)] as const);
  unit.runContact = false;
  let id = '';
  return {
    ready: async (doomed) => {
      for (const [code, value] of held) if (value !== undefined) unit.memory.force(code, value);
      await plant.backUp(doomed, tag);
      const asked = { region: '50-hz', scope: 0, putBack: ['FL01', 'FL02'] };
      id = must(await doomed.post<WritePlanView>(`positions/${tag}/reset-plans`, asked)).id;
      must(await doomed.post(`write-plans/${id}/release`, { stoppedAndSafe: true }));
      return async () => {
        must(await doomed.post(`write-plans/${id}/carry-out`));
        await plant.planEnd(looker, id);
      };
    },
    untrue: () => untruePlan(killing, id),
  };
}
