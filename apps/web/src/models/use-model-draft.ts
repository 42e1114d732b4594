// A draft of a model on this screen: what is typed is brought to the server a moment later, which says what is wrong with it.
// What the server has not got yet is never told as kept.

import type { ModelDraftView, ModelTexts } from '@drive-keep/api';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { get, put, ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';

/** While somebody types, not every letter is sent. */
const TYPING_MS = 600;

export interface DraftOnScreen {
  readonly draft: ModelDraftView;
  /** As they stand on the screen. */
  readonly files: ModelTexts;
  readonly state: 'kept' | 'typing' | 'bringing';
  readonly error: ProblemError | undefined;
  readonly change: (files: Partial<ModelTexts>) => void;
  /** Takes what the server has instead of what is on the screen. */
  readonly takeTheirs: () => void;
  /** Another try of what could not be brought. */
  readonly again: () => void;
}

export function useModelDraft(id: string): { data: DraftOnScreen | undefined; error: Error | null } {
  const key = `model-drafts/${id}`;
  const { data: draft, error: unanswered } = useQuery<ModelDraftView, ProblemError>({
    queryKey: [key],
    queryFn: () => get(key),
    staleTime: Infinity,
  });
  const [own, setOwn] = useState<ModelTexts>();
  const [bringing, setBringing] = useState(false);
  const [error, setError] = useState<ProblemError>();
  const busy = useRef(false);
  /** What stood on the screen when it was left. */
  const left = useRef<ModelTexts>(undefined);
  const bring = useCallback(
    async (files: ModelTexts, version: number): Promise<void> => {
      if (busy.current) return;
      busy.current = true;
      setBringing(true);
      try {
        const kept = await put<ModelDraftView>(key, { files, version });
        queryClient.setQueryData([key], kept);
        const newer = left.current;
        if (newer && newer !== files) await put(key, { files: newer, version: kept.version });
        // What was typed meanwhile is brought next.
        setOwn((now) => (now === files ? undefined : now));
        setError(undefined);
      } catch (problem) {
        setError(problem instanceof ProblemError ? problem : undefined);
      } finally {
        busy.current = false;
        setBringing(false);
      }
    },
    [key],
  );
  const version = draft?.version;
  // Whoever leaves the screen within that moment has typed it all the same.
  const leave = useRef<() => void>(undefined);
  useEffect(() => {
    leave.current = () => {
      left.current = own;
      if (own && version !== undefined && !error) void bring(own, version);
    };
  }, [own, version, bring, error]);
  useEffect(() => () => leave.current?.(), []);
  useEffect(() => {
    if (!own || version === undefined || bringing || error) return undefined;
    const timer = setTimeout(() => void bring(own, version), TYPING_MS);
    return () => clearTimeout(timer);
  }, [own, version, bring, bringing, error]);
  if (!draft) return { data: undefined, error: unanswered };
  const files = own ?? draft.files;
  return {
    error: null,
    data: {
      draft,
      files,
      state: bringing ? 'bringing' : own ? 'typing' : 'kept',
      error,
      change: (more) => setOwn({ ...files, ...more }),
      takeTheirs: () => {
        setOwn(undefined);
        setError(undefined);
        void queryClient.invalidateQueries({ queryKey: [key] });
      },
      again: () => setError(undefined),
    },
  };
}
