// A proof run on this device: asked for whenever the server can be asked, its words brought whenever there is a network.

import type { NewProofSaying, ProofRunView } from '@drive-keep/api';
import { useCallback } from 'react';
import { get, put } from '../api/client.ts';
import { useBringing, type Bringing } from '../api/use-bringing.ts';
import { unsentWords, useProofs, type OwnProof } from './proof-store.ts';

export interface ProofState extends Bringing {
  readonly own: OwnProof | undefined;
  readonly waiting: number;
}

const keyOf = ({ step, toldAt }: NewProofSaying): string => `${step} ${toldAt}`;

export function useProof(id: string): ProofState {
  const own = useProofs(({ byId }) => byId[id]);
  const hear = useProofs((state) => state.hear);
  const bring = useCallback(async (): Promise<void> => {
    const stillUnsent = () => {
      const now = useProofs.getState().byId[id];
      return now ? unsentWords(now) : [];
    };
    let words = stillUnsent();
    if (words.length === 0) hear(await get<ProofRunView>(`proofs/${id}`), []);
    // What is said while something is on its way follows at once.
    while (words.length > 0) {
      hear(await put<ProofRunView>(`proofs/${id}/sayings`, { sayings: words }), words);
      const brought = new Set(words.map(keyOf));
      words = stillUnsent().filter((word) => !brought.has(keyOf(word)));
    }
  }, [id, hear]);
  const unsent = own ? unsentWords(own) : [];
  const bringing = useBringing(bring, unsent.map(keyOf).join());
  return { own, waiting: unsent.length, ...bringing };
}
