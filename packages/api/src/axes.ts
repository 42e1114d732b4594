import type { WritePlanView } from './writing.ts';

export type AxisLoadState =
  'planned' | 'released' | 'loading' | 'done' | 'refused' | 'failed' | 'interrupted';
/** What the axes that were written do when another one fails: keep the new values, or go back to the old ones. */
export type AxisOnFailure = 'stay' | 'back';

export const CONTROLLER_COMMANDS = ['hold', 'start'] as const;
export type ControllerCommand = (typeof CONTROLLER_COMMANDS)[number];

/** What the controller of a machine does at this moment; `silent` where it does not answer. */
export interface ControllerView {
  readonly state: 'runs' | 'held' | 'not-ready' | 'silent';
}

/** A machine whose axes are moved together, with what each of them can be loaded with. */
export interface AxisMachineView {
  readonly area: string;
  readonly machine: string;
  readonly axes: readonly {
    readonly tag: string;
    readonly duty: string;
    readonly model: string;
    readonly rating: string;
    readonly serial: number;
  }[];
  readonly loads: readonly {
    readonly id: string;
    readonly madeAt: string;
    readonly madeBy: string;
    readonly state: AxisLoadState;
  }[];
}

export interface AxisLoadView {
  readonly id: string;
  readonly area: string;
  readonly machine: string;
  readonly state: AxisLoadState;
  readonly onFailure: AxisOnFailure;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly release: { readonly by: string; readonly until: string } | null;
  readonly text: string;
  readonly jobId: string | null;
  /** Somebody may state that the machine is stopped: nothing was written to any axis. */
  readonly mayBeReleased: boolean;
  readonly plans: readonly WritePlanView[];
}
