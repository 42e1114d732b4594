// The sheet with every key that is pressed: one question at a time, and of those that come meanwhile only the last.

import { useEffect, useRef, useState } from 'react';
import type { DraftSheet, KeptDraft } from '@drive-keep/core/start';
import { DraftRunner, type DraftAnswer, type DraftGround, type DraftQuestion } from './draft-answer.ts';

interface Asked {
  readonly key: string;
  readonly ground: DraftGround;
  readonly fields: KeptDraft['fields'];
}

export interface ShownSheet {
  readonly sheet: DraftSheet | undefined;
  /** What is shown is of something that was typed before. */
  readonly isOlder: boolean;
  readonly failed: string | null;
}

class Asking {
  private readonly worker = typeof Worker === 'undefined' ? undefined : makeWorker();
  private readonly inPlace = new DraftRunner();
  private known = '';
  private busy = false;
  private next: Asked | undefined;
  private at = 0;

  constructor(
    private readonly took: (sheet: DraftSheet, of: Asked) => void,
    private readonly broke: (why: string) => void,
  ) {}

  ask(asked: Asked): void {
    this.next = asked;
    if (!this.busy) this.send();
  }

  end(): void {
    this.worker?.terminate();
  }

  private send(): void {
    const asked = this.next;
    if (!asked) return;
    this.next = undefined;
    const ground = asked.key === this.known ? null : asked.ground;
    this.known = asked.key;
    const question: DraftQuestion = { at: (this.at += 1), key: asked.key, ground, fields: asked.fields };
    if (!this.worker) {
      this.took(this.inPlace.answer(question).sheet, asked);
      return;
    }
    this.busy = true;
    this.worker.onmessage = ({ data }: MessageEvent<DraftAnswer>) => {
      this.busy = false;
      this.took(data.sheet, asked);
      this.send();
    };
    this.worker.onerror = ({ message }) => {
      this.busy = false;
      this.broke(message);
    };
    this.worker.postMessage(question);
  }
}

const makeWorker = () => new Worker(new URL('./draft.worker.ts', import.meta.url), { type: 'module' });

/** Nothing is asked while `asked` is not known. */
export function useDraftSheet(asked: Asked | undefined): ShownSheet {
  const [shown, setShown] = useState<{ readonly sheet: DraftSheet; readonly of: Asked }>();
  const [failed, setFailed] = useState<string | null>(null);
  const asking = useRef<Asking>(undefined);
  useEffect(() => {
    const own = new Asking((sheet, of) => {
      setShown({ sheet, of });
      setFailed(null);
    }, setFailed);
    asking.current = own;
    return () => own.end();
  }, []);
  useEffect(() => {
    if (asked) asking.current?.ask(asked);
  }, [asked]);
  return { sheet: shown?.sheet, isOlder: shown?.of !== asked, failed };
}
