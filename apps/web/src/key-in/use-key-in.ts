// A key-in sheet on this device, brought to the server whenever there is a network.

import type { KeyInSheetView } from '@drive-keep/api';
import { useCallback } from 'react';
import { get, put } from '../api/client.ts';
import { useBringing, type Bringing } from '../api/use-bringing.ts';
import { unsentMarks, useKeyInStore, type OwnSheet } from './key-in-store.ts';

export interface KeyInState extends Bringing {
  readonly own: OwnSheet | undefined;
  readonly waiting: number;
}

export function useKeyIn(id: string): KeyInState {
  const own = useKeyInStore(({ byId }) => byId[id]);
  const hear = useKeyInStore((state) => state.hear);
  const bring = useCallback(async (): Promise<void> => {
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
  }, [id, hear]);
  const unsent = own ? unsentMarks(own) : [];
  const bringing = useBringing(bring, unsent.map(({ place, at }) => `${place} ${at}`).join());
  return { own, waiting: unsent.length, ...bringing };
}
