// Proof runs on this device, with what was said of their steps: kept in the browser's own storage at every touch, so that a run
// goes on without a network.

import type { NewProofSaying, ProofRunView, ProofVerdict } from '@drive-keep/api';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export interface OwnSaying {
  readonly verdict: ProofVerdict | null;
  readonly seen: string;
  readonly evidence: string | null;
  readonly at: string;
  /** The server has it, and who it was. */
  readonly sent: boolean;
  readonly by: string | null;
  /** Somebody else has said otherwise before. */
  readonly other: string | null;
}

export interface OwnProof {
  readonly run: ProofRunView;
  readonly sayings: Readonly<Record<string, OwnSaying>>;
}

interface ProofStore {
  readonly byId: Readonly<Record<string, OwnProof>>;
  readonly say: (
    id: string,
    step: string,
    word: Pick<OwnSaying, 'verdict' | 'seen' | 'evidence' | 'at'>,
  ) => void;
  /** Takes over what the server has, keeping what this device has not brought yet; `brought` is what it was just told. */
  readonly hear: (run: ProofRunView, brought: readonly NewProofSaying[]) => void;
}

export const VERDICT_NAMES: Readonly<Record<ProofVerdict, string>> = {
  passed: 'passed',
  failed: 'failed',
  'not-done': 'not done',
};

const verdictText = (verdict: ProofVerdict | null): string =>
  verdict === null ? 'taken back' : VERDICT_NAMES[verdict];

export const useProofs = create<ProofStore>()(
  persist(
    (set) => ({
      byId: {},
      say: (id, step, word) =>
        set(({ byId }) => {
          const own = byId[id];
          if (!own) return {};
          const sayings = { ...own.sayings, [step]: { ...word, sent: false, by: null, other: null } };
          return { byId: { ...byId, [id]: { ...own, sayings } } };
        }),
      hear: (run, brought) =>
        set(({ byId }) => {
          const sayings: Record<string, OwnSaying> = { ...byId[run.id]?.sayings };
          const told = new Set(brought.map(({ step, toldAt }) => `${step} ${toldAt}`));
          for (const { step, verdict, seen, evidence, by, toldAt, other } of run.sayings) {
            const mine = sayings[step];
            const waits = mine && !mine.sent && mine.at !== toldAt;
            // What came too late to count has come all the same.
            if (waits && !told.has(`${step} ${mine.at}`)) continue;
            const others = other ? `${other.by}: ${verdictText(other.verdict)}` : null;
            sayings[step] = { verdict, seen, evidence, at: toldAt, sent: true, by, other: others };
          }
          // An ended run is read from the server; the device keeps what it may have to go on with, and what it could not bring.
          const kept = Object.fromEntries(
            Object.entries(byId).filter(([, own]) => own.run.state === 'open' || unsentWords(own).length > 0),
          );
          return { byId: { ...kept, [run.id]: { run, sayings } } };
        }),
    }),
    { name: 'drive-keep-proofs' },
  ),
);

/** What waits to be brought. */
export const unsentWords = ({ sayings }: OwnProof): readonly NewProofSaying[] =>
  Object.entries(sayings)
    .filter(([, { sent }]) => !sent)
    .map(([step, { verdict, seen, evidence, at }]) => ({ step, verdict, seen, evidence, toldAt: at }));
