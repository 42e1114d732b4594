// Brings to the server what a device has kept for itself, whenever there is a network: at once, when it comes back, and
// every now and then.

import { useCallback, useEffect, useRef, useState } from 'react';
import { ProblemError } from './client.ts';

const AGAIN_MS = 10_000;

export interface Bringing {
  readonly network: 'there' | 'away';
  /** A refusal of the server that no waiting mends. */
  readonly error: ProblemError | null;
  /** True where the server has answered. */
  readonly sendNow: () => Promise<boolean>;
}

/** `bring` does the work; `pending` changes with what waits to be brought, which is then brought at once. */
export function useBringing(bring: () => Promise<void>, pending: string): Bringing {
  const [network, setNetwork] = useState<Bringing['network']>('there');
  const [error, setError] = useState<ProblemError | null>(null);
  const busy = useRef(false);
  const sendNow = useCallback(async (): Promise<boolean> => {
    if (busy.current) return false;
    busy.current = true;
    try {
      await bring();
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
  }, [bring]);
  useEffect(() => {
    const send = () => void sendNow();
    send();
    window.addEventListener('online', send);
    const again = setInterval(send, AGAIN_MS);
    return () => {
      window.removeEventListener('online', send);
      clearInterval(again);
    };
  }, [sendNow, pending]);
  return { network, error, sendNow };
}
