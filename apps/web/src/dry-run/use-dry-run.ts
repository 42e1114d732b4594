// The answer to a sequence of events, from the worker. The answer before stays until the new one is there, and one that comes
// late is dropped.

import type { Event } from '@drive-keep/core/behaviour';
import { useEffect, useRef, useState } from 'react';
import type { FromWorker, ToWorker } from './dry-run.worker.ts';
import { DryRunner, type DryRunAnswer, type DryRunInput } from './dry-runner.ts';

interface Asked {
  /** The machine that is asked. */
  readonly input: DryRunInput;
  readonly ask: (events: readonly Event[]) => void;
}

export function useDryRun(input: DryRunInput, events: readonly Event[]): DryRunAnswer | undefined {
  const [answer, setAnswer] = useState<DryRunAnswer>();
  const asked = useRef<Asked>(undefined);
  useEffect(() => {
    const { ask, end } = open(input, setAnswer);
    asked.current = { input, ask };
    return end;
  }, [input]);
  useEffect(() => asked.current?.ask(events), [input, events]);
  return answer;
}

function open(input: DryRunInput, tell: (answer: DryRunAnswer) => void) {
  if (typeof Worker === 'undefined') {
    const runner = new DryRunner(input);
    return { ask: (events: readonly Event[]) => tell(runner.answer(events)), end: () => undefined };
  }
  const worker = new Worker(new URL('./dry-run.worker.ts', import.meta.url), { type: 'module' });
  const send = (message: ToWorker) => worker.postMessage(message);
  let last = 0;
  worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
    if (data.ask === last) tell(data.answer);
  };
  send({ kind: 'machine', input });
  return {
    ask: (events: readonly Event[]) => {
      last += 1;
      send({ kind: 'events', ask: last, events });
    },
    end: () => worker.terminate(),
  };
}
