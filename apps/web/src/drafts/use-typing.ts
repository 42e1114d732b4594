// What somebody types into the fields of a draft: counted at once, brought to the server a moment later, and never lost. Of a field
// that somebody else has changed meanwhile both words are shown, and a person decides.

import type { DraftFieldView, NewDraftField, SettingsDraftView } from '@drive-keep/api';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { create } from 'zustand';
import { put, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { takeView } from './take-view.ts';

/** A person pauses between two words. */
const PAUSE_MS = 500;
/** Without a network it is tried again. */
const AGAIN_MS = 4000;
const REFUSED = 400;
const OVER = 500;
/** Nobody is signed in any more, or too much was asked: the word itself was not looked at. */
const LATER: readonly number[] = [401, 408, 429];

interface Own {
  readonly text: string;
  readonly why: string;
  /** The word that was looked at when the typing began. */
  readonly seen: string | null;
}

type Words = ReadonlyMap<string, Own>;
const NONE: Words = new Map();

/** By person and draft. It outlives the screen: whoever goes to another one has lost nothing of what was not brought. */
const useUnsent = create<{ readonly of: Readonly<Record<string, Words>> }>(() => ({ of: {} }));
const unsentOf = (at: string): Words => useUnsent.getState().of[at] ?? NONE;
const changeUnsent = (at: string, change: (before: Words) => Words): void =>
  useUnsent.setState(({ of }) => ({ of: { ...of, [at]: change(of[at] ?? NONE) } }));

/** Whoever closes the window before all of it is kept is asked. */
window.addEventListener('beforeunload', (event) => {
  if (Object.values(useUnsent.getState().of).some(({ size }) => size > 0)) event.preventDefault();
});

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
  const { data: session } = useSession();
  const path = `drafts/${view.id}`;
  const at = `${session?.signInName ?? ''} ${path}`;
  const own = useUnsent(({ of }) => of[at]) ?? NONE;
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const [trouble, setTrouble] = useState<string | null>(null);
  const [tries, setTries] = useState(0);
  const words = useMemo(() => new Map(view.fields.map((each) => [each.key, each])), [view.fields]);
  const latest = useRef(refused);
  useEffect(() => {
    latest.current = refused;
  });

  const bring = useBringing(path, at, latest, { setRefused, setTrouble, setTries });

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
      for (const key of Object.keys(typed)) forget(key);
      changeUnsent(at, (before) => {
        const next = new Map(before);
        for (const [key, text] of Object.entries(typed)) {
          const seen = before.get(key)?.seen ?? words.get(key)?.id ?? null;
          next.set(key, { text, why: words.get(key)?.why ?? '', seen });
        }
        return next;
      });
    },
    takeTheirs: (key) => {
      changeUnsent(at, (before) => new Map([...before].filter(([each]) => each !== key)));
      forget(key);
    },
    keepMine: (key) => {
      changeUnsent(at, (before) => {
        const mine = before.get(key);
        return mine ? new Map([...before, [key, { ...mine, seen: words.get(key)?.id ?? null }]]) : before;
      });
      forget(key);
    },
  };
}

type Set<T> = (change: (before: T) => T) => void;

interface State {
  readonly setRefused: Set<ReadonlyMap<string, string>>;
  readonly setTrouble: (why: string | null) => void;
  readonly setTries: Set<number>;
}

/** Brings all that waits in one go; of one that is not taken the others are. */
function useBringing(
  path: string,
  at: string,
  latest: { readonly current: ReadonlyMap<string, string> },
  { setRefused, setTrouble, setTries }: State,
): () => Promise<void> {
  const bringing = useRef(false);
  const isLeft = useRef(false);
  const bring = useCallback(async () => {
    if (bringing.current) return;
    bringing.current = true;
    const refused = new Set(latest.current.keys());
    const waiting = () => [...unsentOf(at)].filter(([key]) => !refused.has(key));
    try {
      let sent = waiting();
      while (sent.length > 0) {
        for (const [key, message] of await bringWords(path, at, sent)) {
          refused.add(key);
          setRefused((before) => new Map([...before, [key, message]]));
        }
        // What was typed on since then goes with the next pause, or now where nobody types any more.
        sent = isLeft.current ? waiting() : [];
      }
      setTrouble(null);
    } catch (error) {
      setTrouble((error as ProblemError).message);
    } finally {
      bringing.current = false;
      if (refused.size > latest.current.size) void queryClient.invalidateQueries({ queryKey: [path] });
      setTries((before) => before + 1);
    }
  }, [path, at, latest, setRefused, setTrouble, setTries]);
  // Whoever goes to another screen does not wait for the pause.
  useEffect(() => {
    isLeft.current = false;
    return () => {
      isLeft.current = true;
      void bring();
    };
  }, [bring]);
  return bring;
}

/** The server takes all of them or none: the one that it refuses is found by bringing each alone. Answers with those and why. */
async function bringWords(
  path: string,
  at: string,
  words: readonly (readonly [string, Own])[],
): Promise<readonly (readonly [string, string])[]> {
  const fields = words.map(([key, { text, why, seen }]): NewDraftField => ({ key, text, why, seen }));
  const sent = new Map(words);
  try {
    await takeView(await put<SettingsDraftView>(`${path}/fields`, { fields }));
    changeUnsent(
      at,
      (before) => new Map([...before].filter(([key, each]) => sent.get(key)?.text !== each.text)),
    );
    return [];
  } catch (error) {
    const { message, problem } = error as ProblemError;
    const { status } = problem;
    if (status < REFUSED || status >= OVER || LATER.includes(status)) throw error;
    const [first, ...others] = words;
    if (!first || others.length === 0) return first ? [[first[0], message]] : [];
    const alone: (readonly [string, string])[] = [];
    for (const word of words) alone.push(...(await bringWords(path, at, [word])));
    return alone;
  }
}
