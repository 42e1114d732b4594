import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { LookUp, type Dictionary } from '../dictionary/index.ts';
import { type OptionMeaning, meaningOf } from '../values/index.ts';
import { sourceText } from '../testing/source-text.ts';
import { allModels } from '../testing/shipped-model.ts';
import { readVocabulary } from './index.ts';
import { TRADE_WORDS } from './trade-words.ts';

const vocabulary = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../catalogue/meanings.yaml'), 'utf8'),
);
const models = allModels.map(({ model }) => model);

/** Meanings that models state, say or do always, each with the options that are meant. */
function saidIn(dictionaries: readonly Dictionary[]): ReadonlyMap<string, ReadonlySet<string>> {
  const said = new Map<string, Set<string>>();
  const add = (meaning: string, ...options: readonly string[]) => {
    const known = said.get(meaning) ?? new Set();
    said.set(meaning, known);
    for (const option of options) known.add(option);
  };
  for (const { parameters, fixed } of dictionaries) {
    for (const { meaning, form, named } of parameters) {
      if (meaning === null) continue;
      add(meaning, ...named.map((each) => each.meaning));
      const choices: readonly OptionMeaning[] =
        form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
      for (const { meaning: own, instead, says = [] } of choices) {
        add(meaning, ...[own, instead?.meaning].flatMap((each) => each ?? []));
        for (const each of says) add(each.meaning, each.is, ...(each.else ? [each.else] : []));
      }
    }
    for (const each of fixed) add(each.meaning, ...(each.kind === 'choice' ? [each.is] : []));
  }
  return said;
}

describe('the vocabulary', () => {
  it('knows every meaning that a shipped model states, or says by an option or a bit, and has no other', () => {
    const known = [...saidIn(models).keys()];
    expect(known.filter((meaning) => !vocabulary.of(meaningOf(meaning)))).toEqual([]);
    const used = new Set(known.flatMap((meaning) => vocabulary.of(meaningOf(meaning)) ?? []));
    const reached = new Set(
      known
        .flatMap((meaning) => vocabulary.canonicalsOf(meaningOf(meaning)))
        .map(({ meaning }) => vocabulary.of(meaning)),
    );
    const idle = vocabulary.entries.filter((entry) => !used.has(entry) && !reached.has(entry));
    expect(idle.map(({ id }) => id)).toEqual([]);
  });

  it('knows every meaning that code asks for by its name', () => {
    const asked = [...sourceText().matchAll(/meaningOf\((['`])([^'`]+)\1\)/g)].map(([, , name = '']) =>
      name.replaceAll('${number}', '1').replaceAll('${input}', 'analog.1'),
    );
    expect(asked.length).toBeGreaterThan(20);
    const whole = asked.filter((name) => !name.includes('${'));
    expect(whole.filter((name) => !vocabulary.of(meaningOf(name)))).toEqual([]);
  });

  it('has every option that a shipped model means, and none without a meaning', () => {
    for (const [meaning, options] of saidIn(models)) {
      const entry = vocabulary.of(meaningOf(meaning));
      // What a way or a part is off by is said by what it is a way of.
      if (entry?.kind === 'way' || entry?.kind === 'part') continue;
      const choice = entry?.kind === 'choice' || entry?.kind === 'switch';
      const strange = [...options].filter(
        (option) =>
          option !== 'unsaid' &&
          !entry?.options?.includes(option) &&
          (choice || Number.isNaN(Number(option))),
      );
      expect([meaning, strange]).toEqual([meaning, []]);
    }
    for (const { id, parameters } of models)
      for (const { code, form, meaning } of parameters) {
        const choices = form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
        const mute = choices.filter((each) => !('meaning' in each && each.meaning) && !each.says);
        expect([id, code, meaning, mute.map(({ text }) => text)]).toEqual([id, code, meaning, []]);
      }
  });

  it('names a reference at every share and every ramp of the shipped models', () => {
    for (const { id, parameters } of models)
      for (const { code, form, meaning, keeping, of } of parameters) {
        if (form.kind !== 'number' || keeping === 'monitor') continue;
        const counts = /^[%‰]/.test(form.unit) || vocabulary.of(meaningOf(meaning ?? ''))?.unit === 's/Hz';
        if (counts) expect([id, code, of]).toEqual([id, code, expect.any(String)]);
      }
  });

  it('says of each what it is, in a sentence, and no word twice', () => {
    for (const { id, term, also, is } of vocabulary.entries) {
      expect([id, is]).toEqual([id, expect.stringMatching(/^[A-Z].*\.$/)]);
      const words = [term, ...also].map((word) => word.toLowerCase());
      expect([id, words.filter((word, at) => words.indexOf(word) !== at)]).toEqual([id, []]);
    }
  });

  it('tells a number from what only ends like one, and nothing it does not know', () => {
    expect(vocabulary.of(meaningOf('preset.7'))?.id).toBe('preset.*');
    expect(vocabulary.of(meaningOf('preset.share.2'))?.id).toBe('preset.*');
    expect(vocabulary.of(meaningOf('ramp.up2'))?.term).toBe('second acceleration time');
    expect(vocabulary.of(meaningOf('mill.pressure'))).toBeUndefined();
  });
});

describe('words as technicians type them', () => {
  const newest = models.filter(({ id }) => id !== 'halvern-hn64@1');
  const lookUp = new LookUp(newest, vocabulary);

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

it('says each meaning by its own term, though a function of an input begins alike', () => {
  const functions = new Set(vocabulary.functions.map(({ id }) => id));
  const wrong = vocabulary.entries.filter(
    ({ id, term }) => !id.includes('*') && !functions.has(id) && vocabulary.termOf(id) !== term,
  );
  expect(wrong.map(({ id }) => id)).toEqual([]);
  expect(vocabulary.termOf('limit.current')).toBe('current limit');
});
