// Looking a fault up over all models, as somebody who stands before a keypad types it: by the number that it shows, by name,
// and by the words of what it means and what causes it. A number that is shown just so comes first.

import type { Dictionary } from './dictionary.ts';
import type { Fault } from './faults.ts';
import { wordsOf } from './look-up.ts';
import { WordIndex } from './word-index.ts';

export interface FaultHit {
  readonly dictionary: Dictionary;
  readonly fault: Fault;
}

const WEIGHT = { shown: 8, name: 6, kind: 4, meaning: 2, causes: 1, check: 1 } as const;
/** What people type before the number. */
const ANY_FAULT = ['fault', 'trip', 'alarm', 'error'];

export class FaultLookUp {
  private readonly index = new WordIndex();
  private readonly hits: FaultHit[] = [];

  constructor(dictionaries: readonly Dictionary[]) {
    for (const dictionary of dictionaries)
      for (const fault of dictionary.faults) {
        this.index.add(weightedWords(fault));
        this.hits.push({ dictionary, fault });
      }
  }

  /** The best `most` hits; those whose number is shown just as it was typed come first, whatever the model. */
  find(text: string, most: number): readonly FaultHit[] {
    const terms = wordsOf(text.trim());
    if (terms.every((term) => ANY_FAULT.includes(term))) return [];
    const scores = this.index.score(terms);
    const isShown = ({ fault }: FaultHit) => terms.includes(fault.shown.toLowerCase());
    return this.hits
      .map((hit, at) => ({ hit, score: scores[at] ?? 0 }))
      .filter(({ score }) => score > 0)
      .sort((a, b) => Number(isShown(b.hit)) - Number(isShown(a.hit)) || b.score - a.score)
      .slice(0, most)
      .map(({ hit }) => hit);
  }
}

function* weightedWords(fault: Fault): Generator<readonly [string, number]> {
  const texts = {
    ...{ shown: fault.shown, name: fault.name, kind: fault.kind, meaning: fault.meaning },
    ...{ causes: fault.causes.join(' '), check: fault.check.join(' ') },
  };
  for (const place of Object.keys(texts) as (keyof typeof texts)[])
    for (const word of wordsOf(texts[place])) yield [word, WEIGHT[place]];
  for (const word of ANY_FAULT) yield [word, WEIGHT.check];
}
