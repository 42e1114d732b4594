// What people say of lines of a sheet: brought to the server one after the other, each with the word that it answers. A page
// that only looks has none.

import type { EarlierSaying, NewSaying, ReplacementView, SayingView } from '@drive-keep/api';
import type { SaidValue, Saying, SayingPart } from '@drive-keep/core/replace';
import { useMutation } from '@tanstack/react-query';
import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';
import { put, type ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';

export interface Speaking {
  /** Whether this person may say something here. */
  readonly may: boolean;
  readonly say: (part: SayingPart, line: string, value: SaidValue | null) => void;
  readonly last: (part: SayingPart, line: string) => SayingView | undefined;
  /** What was said of the same line in replacements that are closed. */
  readonly before: (part: SayingPart, line: string) => readonly EarlierSaying[];
  /** Lines whose word is on its way, or was not taken. */
  readonly onTheWay: ReadonlySet<string>;
  readonly refused: ReadonlyMap<string, string>;
}

const NOBODY: Speaking = {
  may: false,
  say: () => undefined,
  last: () => undefined,
  before: () => [],
  onTheWay: new Set(),
  refused: new Map(),
};

const SpeakingContext = createContext(NOBODY);
export const useSpeaking = (): Speaking => useContext(SpeakingContext);

const keyOf = ({ part, line }: Pick<Saying, 'part' | 'line'>): string => `${part} ${line}`;

export function SpeakingOf({
  view,
  may,
  children,
}: {
  view: ReplacementView;
  may: boolean;
  children: ReactNode;
}) {
  const [onTheWay, setOnTheWay] = useState<ReadonlySet<string>>(new Set());
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const path = `replacements/${view.id}`;
  const bring = useMutation<ReplacementView, ProblemError, NewSaying>({
    // In the order in which it was said.
    scope: { id: path },
    mutationFn: (saying) => put(`${path}/sayings`, { sayings: [saying] }),
    onSuccess: (fresh) => queryClient.setQueryData([path], fresh),
    onError: (error, saying) => {
      setRefused((before) => new Map([...before, [keyOf(saying), error.message]]));
      void queryClient.invalidateQueries({ queryKey: [path] });
    },
    onSettled: (_, __, saying) =>
      setOnTheWay((before) => new Set([...before].filter((key) => key !== keyOf(saying)))),
  });
  const { mutate } = bring;
  const speaking = useMemo((): Speaking => {
    const words = new Map(view.sayings.map((each) => [keyOf(each), each]));
    return {
      ...{ may, onTheWay, refused },
      last: (part, line) => words.get(keyOf({ part, line })),
      before: (part, line) => view.earlier.filter((each) => each.part === part && each.line === line),
      say: (part, line, value) => {
        const key = keyOf({ part, line });
        setRefused((before) => new Map([...before].filter(([each]) => each !== key)));
        setOnTheWay((before) => new Set([...before, key]));
        mutate({ part, line, value, seen: words.get(key)?.id ?? null, toldAt: new Date().toISOString() });
      },
    };
  }, [view, may, onTheWay, refused, mutate]);
  return <SpeakingContext value={speaking}>{children}</SpeakingContext>;
}
