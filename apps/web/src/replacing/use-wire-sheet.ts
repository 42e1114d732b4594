// A wire sheet on this device: its lines worked out whenever the server can be asked, its ticks brought whenever there is a
// network.

import type { NewSaying, ReplacementView } from '@drive-keep/api';
import { useCallback, useEffect, useState } from 'react';
import { get, put } from '../api/client.ts';
import { useDictionary, useReplacementRecord, useVocabulary } from '../api/queries.ts';
import { useBringing, type Bringing } from '../api/use-bringing.ts';
import { questionOf, useSheet } from './use-sheet.ts';
import { unsentTicks, useWireSheets, type OwnWireSheet } from './wire-sheet-store.ts';

export interface WireSheetState extends Bringing {
  readonly own: OwnWireSheet | undefined;
  readonly waiting: number;
}

export function useWireSheet(id: string): WireSheetState {
  const own = useWireSheets(({ byId }) => byId[id]);
  const hear = useWireSheets((state) => state.hear);
  const [view, setView] = useState<ReplacementView>();
  const take = useCallback(
    (fresh: ReplacementView, brought: readonly NewSaying[] = []) => {
      setView(fresh);
      hear(fresh, brought);
    },
    [hear],
  );
  const bring = useCallback(async (): Promise<void> => {
    const path = `replacements/${id}`;
    const stillUnsent = () => {
      const now = useWireSheets.getState().byId[id];
      return now ? unsentTicks(now) : [];
    };
    let ticks = stillUnsent();
    if (ticks.length === 0) take(await get<ReplacementView>(path));
    // What is ticked while something is on its way follows at once.
    while (ticks.length > 0) {
      take(await put<ReplacementView>(`${path}/sayings`, { sayings: ticks }), ticks);
      const brought = new Set(ticks.map(({ line, toldAt }) => `${line} ${toldAt}`));
      ticks = stillUnsent().filter(({ line, toldAt }) => !brought.has(`${line} ${toldAt}`));
    }
  }, [id, take]);
  useLines(view);
  const unsent = own ? unsentTicks(own) : [];
  const bringing = useBringing(bring, unsent.map(({ line, toldAt }) => `${line} ${toldAt}`).join());
  return { own, waiting: unsent.length, ...bringing };
}

/** Lays the lines of the sheet; those of a closed one as they were kept. */
function useLines(view: ReplacementView | undefined): void {
  const lay = useWireSheets((state) => state.lay);
  const { data: old } = useDictionary(view?.oldDictionary);
  const { data: fresh } = useDictionary(view?.fresh.dictionary);
  const { data: vocabulary } = useVocabulary();
  const closed = view?.state === 'closed';
  const { data: record } = useReplacementRecord(view?.id ?? '', closed);
  const asked =
    view && old && fresh && !closed
      ? questionOf(view, old, fresh, vocabulary)
      : { key: ['no sheet', view?.id], question: undefined };
  const { data, isPlaceholderData } = useSheet(asked.key, asked.question);
  const sheet = record?.sheet ?? (isPlaceholderData ? undefined : data?.sheet);
  const id = view?.id;
  useEffect(() => {
    if (id !== undefined && sheet && fresh)
      lay(id, `${fresh.maker} ${fresh.name} ${sheet.rating}`, sheet.tasks);
  }, [id, sheet, fresh, lay]);
}
