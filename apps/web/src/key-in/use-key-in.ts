// A key-in sheet on this device, brought to the server whenever there is a network.

import type { KeyInSheetView } from '@drive-keep/api';
import { useCallback, useEffect, useRef, useState } from 'react';
import { get, ProblemError, put } from '../api/client.ts';
import { unsentMarks, useKeyInStore, type OwnSheet } from './key-in-store.ts';

const AGAIN_MS = 10_000;

export interface KeyInState {
  readonly own: OwnSheet | undefined;
  readonly waiting: number;
  readonly network: 'there' | 'away';
  /** A refusal of the server that no waiting mends. */
  readonly error: ProblemError | null;
  readonly sendNow: () => Promise<boolean>;
}

export function useKeyIn(id: string): KeyInState {
  const own = useKeyInStore(({ byId }) => byId[id]);
  const hear = useKeyInStore((state) => state.hear);
  const [network, setNetwork] = useState<KeyInState['network']>('there');
  const [error, setError] = useState<ProblemError | null>(null);
  const busy = useRef(false);
  const sendNow = useCallback(async (): Promise<boolean> => {
    if (busy.current) return false;
    busy.current = true;
    try {
      const path = `key-in-sheets/${id}`;
      const stillUnsent = () => {
        const now = useKeyInStore.getState().byId[id];
        return now ? unsentMarks(now) : [];
      };
      let marks = stillUnsent();
      if (marks.length === 0) hear(await get<KeyInSheetView>(path));
      // What is marked while something is on its way follows at once.
      while (marks.length > 0) {
        hear(await put<KeyInSheetView>(`${path}/marks`, { marks }));
        const brought = new Set(marks.map(({ place, at }) => `${place} ${at}`));
        marks = stillUnsent().filter(({ place, at }) => !brought.has(`${place} ${at}`));
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
  }, [id, hear]);
  const unsent = own ? unsentMarks(own) : [];
  const newest = unsent.map(({ place, at }) => `${place} ${at}`).join();
  useEffect(() => {
    const send = () => void sendNow();
    send();
    window.addEventListener('online', send);
    const again = setInterval(send, AGAIN_MS);
    return () => {
      window.removeEventListener('online', send);
      clearInterval(again);
    };
  }, [sendNow, newest]);
  return { own, waiting: unsent.length, network, error, sendNow };
}
