// The one bridge between models: dictionaries and sets through the vocabulary.

import { factsOf, type Dictionary, type Outfit } from '../dictionary/index.ts';
import type { Readings } from '../rules/index.ts';
import { indexCarriers, type CarrierIndex } from './carriers.ts';
import { PlainSet } from './plain-set.ts';
import type { Vocabulary } from './vocabulary.ts';

export class Bridge {
  readonly vocabulary: Vocabulary;
  private readonly known = new WeakMap<Dictionary, CarrierIndex>();

  constructor(vocabulary: Vocabulary) {
    this.vocabulary = vocabulary;
  }

  carriersOf(dictionary: Dictionary): CarrierIndex {
    let index = this.known.get(dictionary);
    if (!index) {
      index = indexCarriers(dictionary, this.vocabulary);
      this.known.set(dictionary, index);
    }
    return index;
  }

  /** Without an outfit nothing is told that counts to the unit's own current. */
  read(dictionary: Dictionary, outfit: Outfit | null, readings: Readings): PlainSet {
    return new PlainSet(this, dictionary, outfit ? factsOf(dictionary, outfit) : undefined, readings);
  }
}
