// Deciding about differences: what is decided now, and the ways to change it. Decisions are kept on the server for the
// person who makes them, until they are finished.

import type { DecisionKind, DecisionsView, DecisionView, FinishedDecisions } from '@drive-keep/api';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { post, put, remove, type ProblemError } from '../api/client.ts';
import { queryClient, useDecisions } from '../api/queries.ts';

export interface Wish {
  readonly codes: readonly string[];
  readonly kind: DecisionKind;
  readonly reason?: string;
  readonly until?: string;
}

interface Change {
  readonly work: () => Promise<DecisionsView>;
  readonly wish?: Wish;
}

const isAbout = (open: Pick<Wish, 'codes' | 'kind'>, wish: Wish): boolean =>
  open.kind === wish.kind && open.codes.join() === wish.codes.join();

export interface Deciding {
  readonly byCode: ReadonlyMap<string, DecisionView>;
  readonly open: readonly DecisionView[];
  readonly draft: DecisionsView['draft'];
  /** Decides at once, or asks for the reason first where one is wanted. */
  readonly decide: (wish: Wish) => void;
  readonly asking: { readonly codes: readonly string[]; readonly kind: DecisionKind } | null;
  readonly ask: (asking: Deciding['asking']) => void;
  readonly withdraw: (codes: readonly string[]) => void;
  readonly endToleration: (code: string) => void;
  readonly finish: UseMutationResult<FinishedDecisions, ProblemError, void>;
  readonly error: ProblemError | null;
}

export function useDeciding(tag: string): Deciding {
  const { data } = useDecisions(tag);
  const [asking, setAsking] = useState<Deciding['asking']>(null);
  const path = `positions/${tag}/decisions`;
  const change = useMutation<DecisionsView, ProblemError, Change>({
    mutationFn: ({ work }) => work(),
    onSuccess: (now, { wish }) => {
      queryClient.setQueryData([path], now);
      // What is asked for meanwhile about another row stays.
      setAsking((open) => (open && wish && isAbout(open, wish) ? null : open));
    },
  });
  const finish = useMutation<FinishedDecisions, ProblemError>({
    mutationFn: () => post(`${path}/finish`),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  const byCode = useMemo(
    () => new Map([...(data?.inForce ?? []), ...(data?.open ?? [])].map((each) => [each.code, each])),
    [data],
  );
  return {
    byCode,
    open: data?.open ?? [],
    draft: data?.draft ?? null,
    decide: (wish) => change.mutate({ wish, work: () => put(path, wish) }),
    asking,
    ask: setAsking,
    withdraw: (codes) => change.mutate({ work: () => post(`${path}/withdraw`, { codes }) }),
    endToleration: (code) =>
      change.mutate({
        work: async () => {
          const now = await remove<DecisionsView>(`positions/${tag}/tolerations/${encodeURIComponent(code)}`);
          await queryClient.invalidateQueries({ queryKey: [`positions/${tag}`] });
          return now;
        },
      }),
    finish,
    error: change.error ?? finish.error,
  };
}
