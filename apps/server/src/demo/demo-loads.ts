// What the drives of the demo plant turn, by their duty, and the processes behind their loops.

import type { LoadPlan, ProcessPlan } from '@drive-keep/plant-sim';
import type { DemoPosition } from './story.ts';

const LOADS: readonly (readonly [RegExp, LoadPlan])[] = [
  [/fan/i, { kind: 'fan', torque: 0.78, inertiaSeconds: 2.4 }],
  [/pump/i, { kind: 'pump', torque: 0.72, inertiaSeconds: 0.15 }],
  [/agitator/i, { kind: 'agitator', torque: 0.66, inertiaSeconds: 0.4 }],
  [/lift/i, { kind: 'hoist', torque: 0.45, inertiaSeconds: 0.2 }],
  [/mill/i, { kind: 'belt', torque: 0.74, inertiaSeconds: 1.6 }],
  [/disc/i, { kind: 'belt', torque: 0.3, inertiaSeconds: 0.9 }],
];
const BELT: LoadPlan = { kind: 'belt', torque: 0.58, inertiaSeconds: 0.25 };

/** A draught of −100…0 Pa: full signal at standstill, less the faster the fan draws. */
const DRAUGHT = { rest: 0.98, full: 0.1, square: true, lagSeconds: 1.8, deadSeconds: 0.4, noise: 0.004 };
const PRESSURE = { rest: 0.05, full: 0.85, square: true, lagSeconds: 0.8, deadSeconds: 0.15, noise: 0.003 };

/** `transmitter` is the field device on the actual value of its loop; nothing where none works. */
export function loadOf({ duty }: DemoPosition, transmitter: string | undefined): LoadPlan {
  const load = LOADS.find(([known]) => known.test(duty))?.[1] ?? BELT;
  if (transmitter === undefined) return load;
  const process: ProcessPlan = { transmitter, ...(/draught/i.test(duty) ? DRAUGHT : PRESSURE) };
  return { ...load, process };
}
