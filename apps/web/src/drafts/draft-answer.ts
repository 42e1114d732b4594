// The sheet of a draft, worked out from what the server tells of it and what is being typed. Runs in a worker; without one (as in
// tests) in place. What stays the same from one key to the next is sent once.

import type { VocabularyView } from '@drive-keep/api';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { draftInputOf, draftSheet, type DraftSheet, type KeptDraft } from '@drive-keep/core/start';

export type DraftGround = Omit<KeptDraft, 'fields'> & { readonly vocabulary: VocabularyView };

export interface DraftQuestion {
  readonly at: number;
  /** Names the ground; the same name is the same ground. */
  readonly key: string;
  /** Nothing where the one before still holds. */
  readonly ground: DraftGround | null;
  readonly fields: KeptDraft['fields'];
}

export interface DraftAnswer {
  readonly at: number;
  readonly sheet: DraftSheet;
}

export class DraftRunner {
  private key = '';
  private kept: Omit<KeptDraft, 'fields'> | undefined;
  private bridge = new Bridge(new Vocabulary([]));

  answer({ at, key, ground, fields }: DraftQuestion): DraftAnswer {
    if (ground && key !== this.key) {
      const { vocabulary, ...kept } = ground;
      this.bridge = new Bridge(new Vocabulary(vocabulary.entries, vocabulary.functions));
      this.kept = kept;
      this.key = key;
    }
    if (!this.kept) throw new Error('asked without a ground');
    return { at, sheet: draftSheet(draftInputOf(this.bridge, { ...this.kept, fields })) };
  }
}
