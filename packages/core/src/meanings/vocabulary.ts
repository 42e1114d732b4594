// The vocabulary of meanings (packages/catalogue/meanings.yaml): the standard term of each, the words that people use for it,
// and what it is. A user's model may have meanings that the vocabulary does not know.

import { parseDocument } from 'yaml';
import type { Meaning } from '../dictionary/index.ts';

export interface MeaningEntry {
  /** As models state it, with `*` for a number. */
  readonly id: string;
  readonly term: string;
  readonly also: readonly string[];
  readonly is: string;
}

export class Vocabulary {
  private readonly plain = new Map<string, MeaningEntry>();
  /** Those with a number, by their id with the number taken out. */
  private readonly numbered = new Map<string, MeaningEntry>();

  constructor(readonly entries: readonly MeaningEntry[]) {
    for (const entry of entries) (entry.id.includes('*') ? this.numbered : this.plain).set(entry.id, entry);
  }

  /** Nothing for a meaning that it does not know. An entry of its own goes before one for all numbers. */
  of(meaning: Meaning | string): MeaningEntry | undefined {
    return this.plain.get(meaning) ?? this.numbered.get(meaning.replace(/(?<=\.)\d+(?=\.|$)/, '*'));
  }

  /** Term and other words, for an index of words. */
  wordsFor = (meaning: Meaning | string): readonly string[] => {
    const entry = this.of(meaning);
    return entry ? [entry.term, ...entry.also] : [];
  };
}

/** Throws where the file is not as its schema says: it is shipped, and a test reads it. */
export function readVocabulary(text: string): Vocabulary {
  const document = parseDocument(text, { uniqueKeys: true });
  const [error] = document.errors;
  if (error) throw new Error(`meanings.yaml: ${error.message}`);
  const { meanings } = document.toJS({ maxAliasCount: 0 }) as { meanings: readonly MeaningEntry[] };
  const twice = meanings.find(({ id }, at) => meanings.findIndex((each) => each.id === id) !== at);
  if (twice) throw new Error(`meanings.yaml: ${twice.id} stands twice`);
  return new Vocabulary(meanings);
}
