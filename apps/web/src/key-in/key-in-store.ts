// Key-in sheets on this device, with what was marked on them: kept in the browser's own storage at every touch, so that a
// sheet goes on without a network.

import type { KeyInMark, KeyInSheetView, KeptKeyInMark, OtherKeyInMark } from '@drive-keep/api';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export interface OwnMark extends KeyInMark {
  /** The server has it. */
  readonly sent: boolean;
  /** Who marked it, where it came from the server. */
  readonly by: string | null;
  readonly other: OtherKeyInMark | null;
}

export interface OwnSheet {
  readonly sheet: KeyInSheetView;
  readonly marks: Readonly<Record<number, OwnMark>>;
}

interface KeyInStore {
  readonly byId: Readonly<Record<string, OwnSheet>>;
  readonly mark: (id: string, mark: KeyInMark) => void;
  /** Takes over what the server has, keeping newer marks of this device. */
  readonly hear: (sheet: KeyInSheetView) => void;
}

const fromServer = (mark: KeptKeyInMark): OwnMark => ({ ...mark, sent: true });

export const useKeyInStore = create<KeyInStore>()(
  persist(
    (set) => ({
      byId: {},
      mark: (id, mark) =>
        set(({ byId }) => {
          const own = byId[id];
          if (!own) return {};
          const marks = {
            ...own.marks,
            [mark.place]: { ...mark, sent: false, by: null, other: own.marks[mark.place]?.other ?? null },
          };
          return { byId: { ...byId, [id]: { ...own, marks } } };
        }),
      hear: (sheet) =>
        set(({ byId }) => {
          const marks: Record<number, OwnMark> = { ...byId[sheet.id]?.marks };
          for (const theirs of sheet.marks) {
            const mine = marks[theirs.place];
            // What was marked here and not brought yet stays; clocks of devices say nothing.
            if (mine && !mine.sent && ![theirs.at, theirs.other?.at].includes(mine.at)) continue;
            marks[theirs.place] = fromServer(theirs);
          }
          return { byId: { ...byId, [sheet.id]: { sheet, marks } } };
        }),
    }),
    { name: 'drive-keep-key-in' },
  ),
);

export const unsentMarks = ({ marks }: OwnSheet): readonly KeyInMark[] =>
  Object.values(marks)
    .filter(({ sent }) => !sent)
    .map(({ place, state, found, note, at }) => ({ place, state, found, note, at }));
