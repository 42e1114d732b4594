// Follows the server while it goes along with a step. A connection that breaks is taken up again: the step then begins anew,
// because nobody saw what happened meanwhile.

import type { ProofEvidenceView, ProofWatchEvent } from '@drive-keep/api';
import type { Judgement } from '@drive-keep/core/prove';
import { useEffect, useRef, useState } from 'react';

export interface Watching {
  readonly judgement: Judgement | null;
  readonly shown: string;
  /** Why nothing comes. */
  readonly silent: string | null;
  readonly reading: { readonly done: number; readonly total: number } | null;
  readonly evidence: ProofEvidenceView | null;
}

const START: Watching = { judgement: null, shown: '', silent: null, reading: null, evidence: null };
const LOST = 'Drive Keep does not answer. The step begins anew when it does.';

export function useWatching(
  run: string,
  step: string,
  onKept: (evidence: ProofEvidenceView) => void,
): Watching {
  const [state, setState] = useState(START);
  // The step is what is watched; who hears of its end does not begin it anew.
  const told = useRef(onKept);
  useEffect(() => {
    told.current = onKept;
  });
  useEffect(() => {
    const set = (change: Partial<Watching>) => setState((before) => ({ ...before, ...change }));
    const events = new EventSource(`/api/proofs/${run}/watching?step=${encodeURIComponent(step)}`);
    events.addEventListener('proof', ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as ProofWatchEvent;
      switch (event.kind) {
        case 'judging':
          return set({ judgement: event.judgement, shown: event.shown, silent: null });
        case 'silent':
          return set({ judgement: event.judgement, shown: '', silent: event.text });
        case 'reading':
          return set({ reading: event, silent: null });
        case 'kept':
          events.close();
          set({ evidence: event.evidence });
          told.current(event.evidence);
      }
    });
    events.addEventListener('error', () => set({ judgement: null, shown: '', silent: LOST }));
    return () => events.close();
  }, [run, step]);
  return state;
}
