// The samples of a trace, unpacked; while it is recorded what is new comes every second.

import type { TraceView } from '@drive-keep/api';
import { unpackTrace, type Trace } from '@drive-keep/core/signals';
import { useEffect, useState } from 'react';

const AGAIN_MS = 1000;

export interface Samples {
  readonly trace: Trace | undefined;
  readonly fault: string | undefined;
}

export function useSamples(view: TraceView | undefined): Samples {
  const [kept, setKept] = useState<Samples & { readonly id: string }>({
    id: '',
    trace: undefined,
    fault: undefined,
  });
  const { id, state, signals } = view ?? {};
  useEffect(() => {
    if (id === undefined || signals === undefined) return undefined;
    let gone = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let whole: Trace | undefined;
    const ask = async (): Promise<void> => {
      const after = whole?.times.at(-1);
      const told = await fetchSamples(id, signals, after);
      if (gone) return;
      if (typeof told === 'string') setKept({ id, trace: whole, fault: told });
      else {
        const grown = whole ? joined(whole, told) : told;
        whole = grown;
        setKept({ id, trace: grown, fault: undefined });
      }
      if (state === 'recording') timer = setTimeout(() => void ask(), AGAIN_MS);
    };
    void ask();
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [id, state, signals]);
  return kept.id === id ? kept : { trace: undefined, fault: undefined };
}

async function fetchSamples(
  id: string,
  signals: TraceView['signals'],
  after: number | undefined,
): Promise<Trace | string> {
  try {
    const response = await fetch(`/api/traces/${id}/samples${after === undefined ? '' : `?after=${after}`}`);
    if (!response.ok)
      return ((await response.json()) as { detail?: string }).detail ?? 'It cannot be read now.';
    const read = unpackTrace(signals, new Uint8Array(await response.arrayBuffer()));
    return read.ok ? read.value : 'What came of this trace is damaged. Load the page again.';
  } catch {
    return 'Drive Keep does not answer. What is new comes as soon as it does.';
  }
}

const joined = (one: Trace, more: Trace): Trace => ({
  signals: one.signals,
  times: [...one.times, ...more.times],
  values: one.values.map((own, at) => [...own, ...(more.values[at] ?? [])]),
});
