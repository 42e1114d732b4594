// What was read off on this device, per position: kept in the browser's own storage at every touch, so that a phone that
// is put away, or a network that is gone, loses nothing.

import type { ReadOffConflict, ReadOffEntry } from '@drive-keep/api';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export interface OwnEntry {
  readonly raw: number;
  readonly at: string;
  /** The server has it. */
  readonly sent: boolean;
  /** What the server had when this device last heard of it; nothing where it had none. */
  readonly before: number | null;
}

export interface OwnReadOff {
  readonly serial: number;
  readonly entries: Readonly<Record<string, OwnEntry>>;
  readonly conflicts: readonly ReadOffConflict[];
}

interface ReadOffStore {
  readonly byTag: Readonly<Record<string, OwnReadOff>>;
  readonly enter: (tag: string, serial: number, entries: Readonly<Record<string, number>>) => void;
  /** Takes over what the server has, keeping what this device has not sent yet. */
  readonly hear: (
    tag: string,
    serial: number,
    theirs: readonly ReadOffEntry[],
    conflicts?: readonly ReadOffConflict[],
  ) => void;
  /** Settles a conflict: mine is sent again, knowing theirs; or theirs is taken. */
  readonly settle: (tag: string, conflict: ReadOffConflict, mine: boolean) => void;
  readonly forget: (tag: string) => void;
}

export const NOTHING_READ: OwnReadOff = { serial: 0, entries: {}, conflicts: [] };

export const useReadOffStore = create<ReadOffStore>()(
  persist(
    (set) => {
      const change = (tag: string, work: (own: OwnReadOff) => OwnReadOff) =>
        set(({ byTag }) => ({ byTag: { ...byTag, [tag]: work(byTag[tag] ?? NOTHING_READ) } }));
      return {
        byTag: {},
        enter: (tag, serial, entries) =>
          change(tag, (own) => {
            const at = new Date().toISOString();
            // Values of another unit say nothing of this one.
            const kept = own.serial === serial ? own.entries : {};
            const fresh = Object.entries(entries).map(([code, raw]) => {
              const known = kept[code];
              const before = known ? (known.sent ? known.raw : known.before) : null;
              return [code, { raw, at, sent: false, before }] as const;
            });
            return {
              serial,
              entries: { ...kept, ...Object.fromEntries(fresh) },
              conflicts: own.conflicts.filter(({ code }) => !(code in entries)),
            };
          }),
        hear: (tag, serial, theirs, conflicts) =>
          change(tag, (own) => {
            const kept = own.serial === serial ? own.entries : {};
            const entries: Record<string, OwnEntry> = { ...kept };
            for (const { code, raw, at } of theirs) {
              const mine = entries[code];
              if (mine && !mine.sent && mine.raw !== raw) continue;
              entries[code] = { raw, at: mine?.raw === raw ? mine.at : at, sent: true, before: null };
            }
            return { serial, entries, conflicts: conflicts ?? own.conflicts };
          }),
        settle: (tag, { code, mine, theirs }, keepMine) =>
          change(tag, (own) => ({
            ...own,
            conflicts: own.conflicts.filter((conflict) => conflict.code !== code),
            entries: {
              ...own.entries,
              [code]: keepMine
                ? { raw: mine, at: new Date().toISOString(), sent: false, before: theirs.raw }
                : { raw: theirs.raw, at: theirs.at, sent: true, before: null },
            },
          })),
        forget: (tag) =>
          set(({ byTag }) => ({
            byTag: Object.fromEntries(Object.entries(byTag).filter(([each]) => each !== tag)),
          })),
      };
    },
    { name: 'drive-keep-read-off' },
  ),
);

/** Entries that the server does not have yet; those in conflict wait for a person. */
export const unsentOf = ({ entries, conflicts }: OwnReadOff): readonly (readonly [string, OwnEntry])[] => {
  const open = new Set(conflicts.map(({ code }) => code));
  return Object.entries(entries).filter(([code, { sent }]) => !sent && !open.has(code));
};
