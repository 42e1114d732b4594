import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { allFiles } from '../testing/shipped-model.ts';
import { gapsOf, MODEL_SECTIONS, type ModelSection } from './gaps.ts';
import { factsIn, sectionAt, sectionText, withFact, withSection } from './model-text.ts';
import { readModel } from './read-model.ts';

const SECTIONS = MODEL_SECTIONS.filter((section) => section !== 'terminals' && section !== 'parameters');
const section = fc.constantFrom(...SECTIONS);
const model = fc.constantFrom(...Object.values(allFiles).map((files) => files.model));

describe('the text of a model in sections', () => {
  it('stays letter for letter when a section is put back as it was', () => {
    fc.assert(
      fc.property(model, section, (text, name) => {
        expect(withSection(text, name, sectionText(text, name))).toBe(text);
      }),
      SEEDED,
    );
  });

  it('holds what was put into a section, and every other section as it was', () => {
    fc.assert(
      fc.property(model, model, section, (text, other, name) => {
        const fresh = sectionText(other, name);
        const changed = withSection(text, name, fresh);
        expect(sectionText(changed, name)).toBe(fresh);
        for (const each of SECTIONS.filter((one) => one !== name))
          expect(sectionText(changed, each)).toBe(sectionText(text, each));
      }),
      SEEDED,
    );
  });

  it('knows of every line in which section it stands', () => {
    fc.assert(
      fc.property(model, fc.nat(), (text, seed) => {
        const lines = text.split('\n');
        const line = (seed % (lines.length - 1)) + 1;
        const found = sectionAt(text, line);
        if (found) expect(sectionText(text, found)).toContain(lines[line - 1]);
        const counts = SECTIONS.map((each) => sectionText(text, each).split('\n').length - 1);
        const inSections = lines.slice(0, -1).filter((_, at) => sectionAt(text, at + 1) !== undefined).length;
        expect(inSections).toBe(counts.reduce((sum, count) => sum + count, 0));
      }),
      SEEDED,
    );
  });

  it('takes a section that was not there at its end, and leaves nothing of one that is emptied', () => {
    const text = 'model: a-b\nmaker: A\n# what follows\nkeypad: { move: 1 }';
    expect(withSection(text, 'line', 'line:\n  word_order: high-first\n')).toBe(
      `${text}\nline:\n  word_order: high-first\n`,
    );
    expect(withSection(text, 'keypad', '')).toBe('model: a-b\nmaker: A\n');
  });
});

describe('a single fact of a text', () => {
  it('is changed with everything around it left, comments too', () => {
    const text = '# how\nline:\n  # the order\n  word_order: high-first\n  largest_read: 60 # few\n';
    expect(withFact(text, ['line', 'largest_read'], 125)).toBe(text.replace('60', '125'));
    expect(withFact(text, ['line', 'largest_read'], undefined)).toBe(
      '# how\nline:\n  # the order\n  word_order: high-first\n',
    );
  });

  it('makes the groups and lists that it needs', () => {
    const one = withFact('', ['line', 'identity', 'model', 'register'], 224) ?? '';
    expect(factsIn(one)).toEqual({ line: { identity: { model: { register: 224 } } } });
    expect(factsIn(withFact('ratings:\n', ['ratings', 0], { id: 'A' }) ?? '')).toEqual({
      ratings: [{ id: 'A' }],
    });
  });

  it('is not looked for in a text that only wants to be deep, nor through an alias', () => {
    for (const deep of [
      '['.repeat(30_000),
      '- '.repeat(30_000),
      '? '.repeat(30_000),
      `${' '.repeat(5000)}a: 1`,
    ]) {
      expect(factsIn(`a: 1\nb:\n${deep}`)).toBeUndefined();
      expect(withFact(deep, ['a'], 1)).toBeUndefined();
      const read = readModel({ model: `a: 1\n${deep}`, parameters: '' });
      expect(read.ok ? [] : read.fault.map(({ code, line }) => [code, line])).toContainEqual([
        'yaml-too-deep',
        2,
      ]);
    }
    expect(factsIn('a: &x 1\nb: *x\n')).toBeUndefined();
    expect(factsIn(`a: '${'['.repeat(2000)}'\n`)).toEqual({ a: '['.repeat(2000) });
  });

  it('is not put into a text that cannot be read', () => {
    expect(withFact('line: [', ['line', 'largest_read'], 1)).toBeUndefined();
    expect(factsIn('line: [')).toBeUndefined();
  });
});

describe('what a dictionary does not tell', () => {
  const whole = allFiles['halvern-hn64'];
  const without = (name: ModelSection, text = '') => {
    const files = { ...(whole ?? { model: '', parameters: '' }) };
    const read = readModel(
      name === 'terminals' || name === 'faults'
        ? { ...files, [name]: null }
        : { ...files, model: withSection(files.model, name, text) },
    );
    if (!read.ok) throw new Error(JSON.stringify(read.fault[0]));
    return gapsOf(read.value).map(({ code }) => code);
  };

  it('is next to nothing for the newest shipped model', () => {
    expect(without('keypad', sectionText(whole?.model ?? '', 'keypad'))).toEqual([]);
  });

  it.each([
    ['line', '', ['gap-line']],
    ['keypad', '', ['gap-keypad']],
    ['procedures', '', ['gap-reset']],
    ['conventions', '', ['gap-conventions']],
    ['terminals', '', ['gap-terminals']],
    ['effects', '', ['gap-effects']],
    ['faults', '', ['gap-faults']],
    [
      'line',
      'line: { word_order: high-first, largest_read: 10, bridge_gaps: false }\n',
      ['serial', 'model-number', 'firmware', 'status', 'fault', 'save', 'restart'].map(
        (each) => `gap-${each}`,
      ),
    ],
  ] as const)('is told without its %s (%s)', (name, text, codes) => {
    expect(without(name, text)).toEqual(expect.arrayContaining([...codes]));
  });
});
