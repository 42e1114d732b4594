// The sheet of what is asked; the one before stays on the screen until the next has come.

import type { ReplacementView, VocabularyView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { useQuery } from '@tanstack/react-query';
import type { SheetAnswer, SheetQuestion } from './sheet-answer.ts';
import { askForSheet } from './sheet-worker.ts';

/** `key` names the question; without a question nothing is asked. */
export function useSheet(key: readonly unknown[], question: SheetQuestion | undefined) {
  return useQuery<SheetAnswer>({
    queryKey: ['sheet', ...key],
    enabled: question !== undefined,
    retry: false,
    staleTime: Infinity,
    // Answers are many and large; what is shown is kept anyway.
    gcTime: 60_000,
    networkMode: 'always',
    placeholderData: (before) => before,
    queryFn: () => {
      if (!question) throw new Error('nothing to ask');
      return askForSheet(question);
    },
  });
}

/** What is asked of a replacement that is kept, and what it hangs on. */
export function questionOf(
  view: ReplacementView,
  old: Dictionary,
  fresh: Dictionary,
  vocabulary: VocabularyView | undefined,
): { readonly key: readonly unknown[]; readonly question: SheetQuestion | undefined } {
  const { rating, region } = view.old;
  // Ticks change nothing of what is worked out.
  const sayings = view.sayings.filter(({ part }) => part !== 'task');
  const last = Math.max(0, ...sayings.map(({ id }) => Number(id)));
  return {
    key: [view.id, view.version, view.wiringRevision, view.ambient, last, old.revision, fresh.revision],
    question: vocabulary && {
      ...{ old, fresh, vocabulary, sayings, outfit: { rating, region }, readings: view.readings },
      ...{
        wiring: view.wiring,
        onLine: view.old.line !== null,
        ambient: view.ambient,
        cross: view.cross.text,
      },
      ...{ region: view.fresh.region, rating: view.fresh.rating },
    },
  };
}
