// Reading off on this device, brought to the server whenever there is a network. What is entered while one is away is
// sent when it comes back; what two people entered differently waits for a choice.

import type { BroughtEntry, ReadOffSync, ReadOffView } from '@drive-keep/api';
import { useCallback, useEffect, useRef, useState } from 'react';
import { get, ProblemError, put } from '../api/client.ts';
import { NOTHING_READ, unsentOf, useReadOffStore, type OwnReadOff } from './read-off-store.ts';

const AGAIN_MS = 10_000;

export interface ReadOffState {
  readonly own: OwnReadOff;
  readonly waiting: number;
  readonly network: 'there' | 'away';
  /** A refusal of the server that no waiting mends. */
  readonly error: ProblemError | null;
  readonly sendNow: () => Promise<boolean>;
}

export function useReadOff(tag: string, serial: number): ReadOffState {
  const stored = useReadOffStore(({ byTag }) => byTag[tag]);
  const own = stored?.serial === serial ? stored : NOTHING_READ;
  const hear = useReadOffStore((state) => state.hear);
  const [network, setNetwork] = useState<ReadOffState['network']>('there');
  const [error, setError] = useState<ProblemError | null>(null);
  const busy = useRef(false);
  const sendNow = useCallback(async (): Promise<boolean> => {
    if (busy.current) return false;
    busy.current = true;
    try {
      const now = useReadOffStore.getState().byTag[tag];
      const unsent = now?.serial === serial ? unsentOf(now) : [];
      if (unsent.length === 0) {
        const { readOff } = await get<{ readOff: ReadOffView | null }>(`positions/${tag}/read-off`);
        if (readOff?.serial === serial) hear(tag, serial, readOff.entries);
      } else {
        const entries: BroughtEntry[] = unsent.map(([code, { raw, at, before }]) => ({
          code,
          raw,
          at,
          before,
        }));
        const { readOff, conflicts } = await put<ReadOffSync>(`positions/${tag}/read-off`, {
          serial,
          entries,
        });
        hear(tag, serial, readOff.entries, conflicts);
      }
      setNetwork('there');
      setError(null);
      return true;
    } catch (problem) {
      const away = problem instanceof ProblemError && problem.problem.status === 0;
      setNetwork(away ? 'away' : 'there');
      if (!away && problem instanceof ProblemError) setError(problem);
      return false;
    } finally {
      busy.current = false;
    }
  }, [tag, serial, hear]);
  const waiting = unsentOf(own).length;
  useEffect(() => {
    const send = () => void sendNow();
    send();
    window.addEventListener('online', send);
    const again = setInterval(send, AGAIN_MS);
    return () => {
      window.removeEventListener('online', send);
      clearInterval(again);
    };
  }, [sendNow, waiting]);
  return { own, waiting, network, error, sendNow };
}
