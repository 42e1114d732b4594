// Differences marked for putting back, per position; kept while one looks at other screens.

import { create } from 'zustand';

interface Marks {
  readonly byTag: Readonly<Record<string, ReadonlySet<string>>>;
  readonly toggle: (tag: string, code: string) => void;
  readonly set: (tag: string, codes: Iterable<string>) => void;
}

export const useMarks = create<Marks>()((set) => ({
  byTag: {},
  toggle: (tag, code) =>
    set(({ byTag }) => {
      const codes = new Set(byTag[tag]);
      if (!codes.delete(code)) codes.add(code);
      return { byTag: { ...byTag, [tag]: codes } };
    }),
  set: (tag, codes) => set(({ byTag }) => ({ byTag: { ...byTag, [tag]: new Set(codes) } })),
}));

export const NO_MARKS: ReadonlySet<string> = new Set();
