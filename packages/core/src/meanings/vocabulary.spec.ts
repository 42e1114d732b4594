import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { LookUp } from '../dictionary/index.ts';
import { allModels } from '../testing/shipped-model.ts';
import { readVocabulary } from './index.ts';
import { TRADE_WORDS } from './trade-words.ts';

const vocabulary = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../catalogue/meanings.yaml'), 'utf8'),
);
const models = allModels.map(({ model }) => model);

describe('the vocabulary', () => {
  it('knows every meaning of every shipped model, and has none that no model states', () => {
    const stated = models.flatMap(({ parameters }) => parameters.flatMap(({ meaning }) => meaning ?? []));
    expect(stated.filter((meaning) => !vocabulary.of(meaning))).toEqual([]);
    const used = new Set(stated.map((meaning) => vocabulary.of(meaning)));
    expect(vocabulary.entries.filter((entry) => !used.has(entry)).map(({ id }) => id)).toEqual([]);
  });

  it('says of each what it is, in a sentence, and no word twice', () => {
    for (const { id, term, also, is } of vocabulary.entries) {
      expect([id, is]).toEqual([id, expect.stringMatching(/^[A-Z].*\.$/)]);
      const words = [term, ...also].map((word) => word.toLowerCase());
      expect([id, words.filter((word, at) => words.indexOf(word) !== at)]).toEqual([id, []]);
    }
  });

  it('tells a number from what only ends like one, and nothing it does not know', () => {
    expect(vocabulary.of('preset.7')?.id).toBe('preset.*');
    expect(vocabulary.of('preset.share.2')?.id).toBe('preset.share.*');
    expect(vocabulary.of('ramp.up2')?.term).toBe('second acceleration time');
    expect(vocabulary.of('mill.pressure')).toBeUndefined();
  });
});

describe('words as technicians type them', () => {
  const newest = models.filter(({ id }) => id !== 'halvern-hn64@1');
  const lookUp = new LookUp(newest, vocabulary.wordsFor);

  it.each(TRADE_WORDS)(
    '"%s" finds the parameter on each model that has it, among the first three',
    (word, ids) => {
      const hits = lookUp.find(word, 400);
      for (const model of newest) {
        const wanted = model.parameters.filter(
          ({ meaning }) => meaning !== null && ids.includes(vocabulary.of(meaning)?.id ?? ''),
        );
        if (wanted.length === 0) continue;
        const first = hits.filter(({ dictionary }) => dictionary === model).slice(0, 3);
        const told = first.map(({ parameter }) => `${parameter.code} ${parameter.name}`);
        const right = first.some(({ parameter }) => wanted.includes(parameter));
        expect([word, model.name, right ? 'found' : told]).toEqual([word, model.name, 'found']);
      }
    },
  );
});
