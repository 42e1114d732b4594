// Positions that are chosen for the next backup; kept while one looks at other screens.

import { create } from 'zustand';

interface Selection {
  readonly tags: ReadonlySet<string>;
  readonly toggle: (tag: string) => void;
  readonly set: (tags: Iterable<string>) => void;
}

export const useSelection = create<Selection>()((set) => ({
  tags: new Set(),
  toggle: (tag) =>
    set(({ tags }) => {
      const next = new Set(tags);
      if (!next.delete(tag)) next.add(tag);
      return { tags: next };
    }),
  set: (tags) => set({ tags: new Set(tags) }),
}));
