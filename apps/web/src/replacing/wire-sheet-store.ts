// Wire sheets on this device, with what was ticked on them: kept in the browser's own storage at every touch, so that a sheet
// goes on without a network.

import type { NewSaying, ReplacementView } from '@drive-keep/api';
import type { Task } from '@drive-keep/core/replace';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export interface OwnTick {
  /** Done, with what there is to say; nothing: taken back. */
  readonly note: string | null;
  readonly at: string;
  /** The server has it, and who it was. */
  readonly sent: boolean;
  readonly by: string | null;
  /** Somebody else has taken it back, or done it before. */
  readonly other: string | null;
}

export interface OwnWireSheet {
  readonly tag: string;
  readonly duty: string;
  readonly from: string;
  readonly to: string;
  readonly state: ReplacementView['state'];
  readonly tasks: readonly Task[];
  readonly ticks: Readonly<Record<string, OwnTick>>;
}

interface WireSheetStore {
  readonly byId: Readonly<Record<string, OwnWireSheet>>;
  readonly tick: (id: string, line: string, note: string | null, at: string) => void;
  /** Takes over what the server has, keeping what this device has not brought yet; `brought` is what it was just told. */
  readonly hear: (view: ReplacementView, brought: readonly NewSaying[]) => void;
  /** The lines as they are worked out now. */
  readonly lay: (id: string, to: string, tasks: readonly Task[]) => void;
}

const UNKNOWN: Pick<OwnWireSheet, 'tasks' | 'ticks' | 'to'> = { tasks: [], ticks: {}, to: '' };

export const useWireSheets = create<WireSheetStore>()(
  persist(
    (set) => ({
      byId: {},
      tick: (id, line, note, at) =>
        set(({ byId }) => {
          const own = byId[id];
          if (!own) return {};
          const ticks = { ...own.ticks, [line]: { note, at, sent: false, by: null, other: null } };
          return { byId: { ...byId, [id]: { ...own, ticks } } };
        }),
      hear: (view, brought) =>
        set(({ byId }) => {
          const before = byId[view.id] ?? UNKNOWN;
          const ticks: Record<string, OwnTick> = { ...before.ticks };
          const told = new Set(brought.map(({ line, toldAt }) => `${line} ${toldAt}`));
          for (const { part, line, value, by, toldAt, other } of view.sayings) {
            if (part !== 'task') continue;
            const mine = ticks[line];
            const waits = mine && !mine.sent && mine.at !== toldAt;
            // What came too late to count has come all the same.
            if (waits && !told.has(`${line} ${mine.at}`)) continue;
            const note = value?.kind === 'done' ? value.note : null;
            const others = other ? `${other.by}: ${other.value === null ? 'not done' : 'done'}` : null;
            ticks[line] = { note, at: toldAt, sent: true, by, other: others };
          }
          const { tag, duty, state, old } = view;
          const sheet = { ...before, tag, duty, state, ticks, from: `${old.model} serial ${old.serial}` };
          return { byId: { ...byId, [view.id]: sheet } };
        }),
      lay: (id, to, tasks) =>
        set(({ byId }) => {
          const own = byId[id];
          return own ? { byId: { ...byId, [id]: { ...own, to, tasks } } } : {};
        }),
    }),
    { name: 'drive-keep-wire-sheets' },
  ),
);

/** What waits to be brought. */
export const unsentTicks = ({ ticks }: OwnWireSheet): readonly NewSaying[] =>
  Object.entries(ticks)
    .filter(([, { sent }]) => !sent)
    .map(([line, { note, at }]) => ({
      ...{ part: 'task' as const, line, seen: null, toldAt: at },
      value: note === null ? null : { kind: 'done' as const, note },
    }));
