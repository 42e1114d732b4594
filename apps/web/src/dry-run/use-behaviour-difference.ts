// What the differences between two sets of a position do, asked of a worker once for each pair.

import type { DryRunView, VocabularyView } from '@drive-keep/api';
import type { Effects } from '@drive-keep/core/behaviour';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { useQuery } from '@tanstack/react-query';
import { get } from '../api/client.ts';
import { useDictionary, useVocabulary } from '../api/queries.ts';
import { inWorker } from '../ui/in-worker.ts';
import { behaviourDifference, type DifferenceInput } from './behaviour-difference.ts';

/** `key` changes when one of the two sets does. Nothing while it is worked out, or where one of them cannot be had. */
export function useBehaviourDifference(
  tag: string,
  a: string,
  b: string,
  dictionaryId: string | undefined,
  key: string,
): { readonly data: Effects | undefined; readonly failed: boolean } {
  const { data: dictionary } = useDictionary(dictionaryId);
  const { data: vocabulary } = useVocabulary();
  const { data, isError } = useQuery({
    queryKey: ['behaviour-difference', tag, a, b, key],
    enabled: dictionary !== undefined && vocabulary !== undefined,
    queryFn: () => ask(tag, a, b, dictionary as Dictionary, vocabulary as VocabularyView),
    staleTime: Infinity,
    retry: false,
  });
  return { data, failed: isError };
}

async function ask(
  tag: string,
  a: string,
  b: string,
  dictionary: Dictionary,
  vocabulary: VocabularyView,
): Promise<Effects> {
  const [before, view] = await Promise.all(
    [a, b].map((set) => get<DryRunView>(`positions/${tag}/dry-run?set=${encodeURIComponent(set)}`)),
  );
  if (!before || !view) throw new Error('a set is missing');
  const input: DifferenceInput = { before, view, dictionary, vocabulary };
  const make = () => new Worker(new URL('./difference.worker.ts', import.meta.url), { type: 'module' });
  return inWorker(make, behaviourDifference, input);
}
