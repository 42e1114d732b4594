// Keeps the machine, so that an event costs no more than the event.

import type { Event } from '@drive-keep/core/behaviour';
import { DryRunner, type DryRunAnswer, type DryRunInput } from './dry-runner.ts';

export type ToWorker =
  | { readonly kind: 'machine'; readonly input: DryRunInput }
  | { readonly kind: 'events'; readonly ask: number; readonly events: readonly Event[] };

export interface FromWorker {
  readonly ask: number;
  readonly answer: DryRunAnswer;
}

let runner: DryRunner | undefined;

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.kind === 'machine') runner = new DryRunner(data.input);
  else if (runner) {
    const told: FromWorker = { ask: data.ask, answer: runner.answer(data.events) };
    self.postMessage(told);
  }
};
