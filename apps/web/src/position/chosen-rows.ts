// Rows chosen for one decision, per position; kept while one looks at other screens.

import { create } from 'zustand';

interface ChosenRows {
  readonly byTag: Readonly<Record<string, ReadonlySet<string>>>;
  readonly toggle: (tag: string, code: string) => void;
  readonly set: (tag: string, codes: Iterable<string>) => void;
}

export const useChosenRows = create<ChosenRows>()((set) => ({
  byTag: {},
  toggle: (tag, code) =>
    set(({ byTag }) => {
      const codes = new Set(byTag[tag]);
      if (!codes.delete(code)) codes.add(code);
      return { byTag: { ...byTag, [tag]: codes } };
    }),
  set: (tag, codes) => set(({ byTag }) => ({ byTag: { ...byTag, [tag]: new Set(codes) } })),
}));

export const NONE_CHOSEN: ReadonlySet<string> = new Set();
