// What a unit shows now, from the server's stream. Nothing older than two seconds counts as present, whatever the reason.

import type { ExpectedView, WatchEvent } from '@drive-keep/api';
import { useEffect, useState } from 'react';

export type Sample = Extract<WatchEvent, { kind: 'sample' }>;

export interface Now {
  /** Nothing while none is there that is young enough. */
  readonly sample: Sample | null;
  /** When the last one came, in ms since 1970 by the server; nothing before the first. */
  readonly last: number | null;
  /** Why nothing comes, as far as it is known. */
  readonly silent: string | null;
  readonly expected: ExpectedView | null;
}

/** What was read longer ago is not shown as present, in ms. */
const PRESENT_MS = 2000;
const LOOK_MS = 250;
const START: Now = { sample: null, last: null, silent: null, expected: null };
const LOST = 'Drive Keep does not answer. Values come again as soon as it does.';

/** `also` are codes of settings that are read, too. */
export function useNow(tag: string, also = ''): Now {
  const [kept, setKept] = useState({ tag, ...START });
  useEffect(() => {
    let arrived = Number.NEGATIVE_INFINITY;
    const set = (change: Partial<Now>) =>
      setKept((before) => ({ ...(before.tag === tag ? before : START), ...change, tag }));
    const events = new EventSource(
      `/api/positions/${tag}/now${also === '' ? '' : `?also=${encodeURIComponent(also)}`}`,
    );
    events.addEventListener('now', ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as WatchEvent;
      if (event.kind === 'expected') return set({ expected: event.expected });
      if (event.kind === 'silent') return set({ silent: event.text });
      arrived = performance.now();
      set({ sample: event, last: event.at, silent: null });
    });
    events.addEventListener('error', () => set({ silent: LOST }));
    const looking = setInterval(() => {
      if (performance.now() - arrived > PRESENT_MS) set({ sample: null });
    }, LOOK_MS);
    return () => {
      clearInterval(looking);
      events.close();
    };
  }, [tag, also]);
  return kept.tag === tag ? kept : START;
}
