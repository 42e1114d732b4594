// What somebody types into the fields of a draft: counted at once, brought to the server a moment later, and never lost. Of a field
// that somebody else has changed meanwhile both words are shown, and a person decides.

import type { DraftFieldView, NewDraftField, SettingsDraftView } from '@drive-keep/api';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { put, type ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { takeView } from './take-view.ts';

/** A person pauses between two words. */
const PAUSE_MS = 500;
/** Without a network it is tried again. */
const AGAIN_MS = 4000;
const NO_NETWORK = 0;
const CONFLICT = 409;

interface Own {
  readonly text: string;
  readonly why: string;
  /** The word that was looked at when the typing began. */
  readonly seen: string | null;
}

export interface Typing {
  readonly may: boolean;
  /** Last words with what is being typed laid over them. */
  readonly fields: readonly { readonly key: string; readonly text: string; readonly why: string }[];
  readonly type: (fields: Readonly<Record<string, string>>) => void;
  readonly word: (key: string) => DraftFieldView | undefined;
  /** Typed here and not kept yet. */
  readonly isOnTheWay: (key: string) => boolean;
  readonly onTheWay: number;
  readonly refused: ReadonlyMap<string, string>;
  /** Somebody else was there first: his word, or mine after all. */
  readonly takeTheirs: (key: string) => void;
  readonly keepMine: (key: string) => void;
  readonly trouble: string | null;
}

export function useTyping(view: SettingsDraftView, may: boolean): Typing {
  const [own, setOwn] = useState<ReadonlyMap<string, Own>>(new Map());
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const [trouble, setTrouble] = useState<string | null>(null);
  const [tries, setTries] = useState(0);
  const path = `drafts/${view.id}`;
  const words = useMemo(() => new Map(view.fields.map((each) => [each.key, each])), [view.fields]);
  const latest = useRef({ own, words, refused });
  useEffect(() => {
    latest.current = { own, words, refused };
  });

  const bring = useBringing(path, latest, { setOwn, setRefused, setTrouble, setTries });

  const open = [...own.keys()].filter((key) => !refused.has(key)).length;
  useEffect(() => {
    if (open === 0 || trouble !== null) return;
    const timer = setTimeout(() => void bring(), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [own, open, bring, tries, trouble]);
  useEffect(() => {
    if (trouble === null) return;
    const timer = setTimeout(() => void bring(), AGAIN_MS);
    return () => clearTimeout(timer);
  }, [trouble, bring, tries]);
  useWarning(own.size > 0);

  const forget = (key: string) => {
    setRefused((before) => new Map([...before].filter(([each]) => each !== key)));
  };
  const fields = useMemo(() => {
    const all = new Map<string, { key: string; text: string; why: string }>(
      view.fields.map(({ key, text, why }) => [key, { key, text, why }]),
    );
    for (const [key, { text, why }] of own) all.set(key, { key, text, why });
    return [...all.values()];
  }, [view.fields, own]);
  return {
    ...{ may, fields, refused, trouble, onTheWay: own.size },
    word: (key) => words.get(key),
    isOnTheWay: (key) => own.has(key),
    type: (typed) => {
      setTrouble(null);
      setOwn((before) => {
        const next = new Map(before);
        for (const [key, text] of Object.entries(typed)) {
          const seen = before.get(key)?.seen ?? words.get(key)?.id ?? null;
          next.set(key, { text, why: words.get(key)?.why ?? '', seen });
        }
        return next;
      });
    },
    takeTheirs: (key) => {
      setOwn((before) => new Map([...before].filter(([each]) => each !== key)));
      forget(key);
    },
    keepMine: (key) => {
      setOwn((before) => {
        const mine = before.get(key);
        return mine ? new Map([...before, [key, { ...mine, seen: words.get(key)?.id ?? null }]]) : before;
      });
      forget(key);
    },
  };
}

type Set<T> = (change: (before: T) => T) => void;

interface State {
  readonly setOwn: Set<ReadonlyMap<string, Own>>;
  readonly setRefused: Set<ReadonlyMap<string, string>>;
  readonly setTrouble: (why: string | null) => void;
  readonly setTries: Set<number>;
}

/** Brings all that waits in one go; of one that is not taken the others are. */
function useBringing(
  path: string,
  latest: {
    readonly current: {
      readonly own: ReadonlyMap<string, Own>;
      readonly refused: ReadonlyMap<string, string>;
    };
  },
  { setOwn, setRefused, setTrouble, setTries }: State,
): () => Promise<void> {
  const bringing = useRef(false);
  return useCallback(async () => {
    if (bringing.current) return;
    const waiting = [...latest.current.own].filter(([key]) => !latest.current.refused.has(key));
    if (waiting.length === 0) return;
    bringing.current = true;
    const sent = new Map(waiting);
    try {
      const fields = waiting.map(([key, { text, why, seen }]): NewDraftField => ({ key, text, why, seen }));
      const fresh = await put<SettingsDraftView>(`${path}/fields`, { fields });
      await takeView(fresh);
      setTrouble(null);
      // What was typed on since then goes with the next one.
      setOwn((before) => new Map([...before].filter(([key, each]) => sent.get(key)?.text !== each.text)));
    } catch (error) {
      const { message, problem } = error as ProblemError;
      if (problem.status === CONFLICT && waiting.length > 1)
        await oneByOne(path, waiting, setOwn, setRefused);
      else if (problem.status === CONFLICT)
        setRefused((before) => new Map([...before, [waiting[0]?.[0] ?? '', message]]));
      else setTrouble(message);
      void queryClient.invalidateQueries({ queryKey: [path] });
      if (problem.status === NO_NETWORK) setTimeout(() => setTries((before) => before + 1), AGAIN_MS);
    } finally {
      bringing.current = false;
      setTries((before) => before + 1);
    }
  }, [path, latest, setOwn, setRefused, setTrouble, setTries]);
}

/** All of them are taken or none: the one that somebody else has changed is found by bringing each alone. */
async function oneByOne(
  path: string,
  waiting: readonly (readonly [string, Own])[],
  setOwn: (change: (before: ReadonlyMap<string, Own>) => ReadonlyMap<string, Own>) => void,
  setRefused: (change: (before: ReadonlyMap<string, string>) => ReadonlyMap<string, string>) => void,
): Promise<void> {
  for (const [key, { text, why, seen }] of waiting)
    try {
      await put<SettingsDraftView>(`${path}/fields`, { fields: [{ key, text, why, seen }] });
      setOwn((before) => new Map([...before].filter(([each, now]) => each !== key || now.text !== text)));
    } catch (error) {
      const { message } = error as ProblemError;
      setRefused((before) => new Map([...before, [key, message]]));
    }
}

/** Whoever closes the window before all of it is kept is asked. */
function useWarning(open: boolean): void {
  useEffect(() => {
    if (!open) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [open]);
}
