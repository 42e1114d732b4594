import type { AxisLoadView, AxisOnFailure, WritePlanView } from '@drive-keep/api';
import type { Killing, Work } from '../killing.ts';
import { until } from '../running-plant.ts';
import { must } from './must.ts';
import { untruePlan } from './write-plan.ts';

const AXES = ['SP-ST-01', 'SP-ST-02', 'SP-ST-03'] as const;
const [FIRST, SECOND] = AXES;
/** Requests to an axis before its first write is read back. */
const INTO_ITS_WRITES = 9;

/** All axes, to their end; or with the second one broken in the middle, so that the first goes back. */
export function axisLoad(killing: Killing, onFailure: AxisOnFailure): Work {
  const { plant, looker } = killing;
  const unit = plant.unit(SECOND);
  let load: AxisLoadView | undefined;
  return {
    ready: async (doomed) => {
      unit.setMischief({ swap: null });
      unit.serial = unit.description.serial;
      for (const tag of AXES) plant.unit(tag).memory.force('2021:01', 333);
      // Axes that are held may be started again by hand; a load wants them running.
      await doomed.post(`positions/${FIRST}/controller`, { command: 'start' });
      await plant.backUp(doomed, ...AXES);
      const asked = { targets: [], onFailure };
      const made = must(await doomed.post<AxisLoadView>(`positions/${FIRST}/axis-loads`, asked));
      load = made;
      must(await doomed.post(`axis-loads/${made.id}/release`, { stoppedAndSafe: true }));
      if (onFailure === 'back') unit.setMischief({ swap: { after: INTO_ITS_WRITES, serial: 4711 } });
      return async () => {
        must(await doomed.post(`axis-loads/${made.id}/carry-out`));
        await until(async () => {
          const { state } = must(await looker.get<AxisLoadView>(`axis-loads/${made.id}`));
          return ['planned', 'released', 'loading'].includes(state) ? undefined : state;
        });
      };
    },
    // Where an axis went back, its own way back says what it holds.
    untrue: async () => {
      const told = await Promise.all(
        (load?.plans ?? []).map(async ({ id, tag }) => {
          const plans = must(await looker.get<readonly WritePlanView[]>(`positions/${tag}/write-plans`));
          return untruePlan(killing, plans.find(({ follows }) => follows === id)?.id ?? id);
        }),
      );
      return told.flat();
    },
  };
}
