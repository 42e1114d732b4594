// Reading off on this device, brought to the server whenever there is a network. What is entered while one is away is
// sent when it comes back; what two people entered differently waits for a choice.

import type { BroughtEntry, ReadOffSync, ReadOffView } from '@drive-keep/api';
import { useCallback } from 'react';
import { get, put } from '../api/client.ts';
import { useBringing, type Bringing } from '../api/use-bringing.ts';
import { NOTHING_READ, unsentOf, useReadOffStore, type OwnReadOff } from './read-off-store.ts';

export interface ReadOffState extends Bringing {
  readonly own: OwnReadOff;
  readonly waiting: number;
}

export function useReadOff(tag: string, serial: number): ReadOffState {
  const stored = useReadOffStore(({ byTag }) => byTag[tag]);
  const own = stored?.serial === serial ? stored : NOTHING_READ;
  const hear = useReadOffStore((state) => state.hear);
  const bring = useCallback(async (): Promise<void> => {
    const now = useReadOffStore.getState().byTag[tag];
    const unsent = now?.serial === serial ? unsentOf(now) : [];
    if (unsent.length === 0) {
      const { readOff } = await get<{ readOff: ReadOffView | null }>(`positions/${tag}/read-off`);
      if (readOff?.serial === serial) hear(tag, serial, readOff.entries);
      return;
    }
    const entries: BroughtEntry[] = unsent.map(([code, { raw, at, before }]) => ({ code, raw, at, before }));
    const { readOff, conflicts } = await put<ReadOffSync>(`positions/${tag}/read-off`, { serial, entries });
    hear(tag, serial, readOff.entries, conflicts);
  }, [tag, serial, hear]);
  const waiting = unsentOf(own).length;
  return { own, waiting, ...useBringing(bring, String(waiting)) };
}
