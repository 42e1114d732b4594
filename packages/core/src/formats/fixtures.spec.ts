import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { Dictionary, Facts } from '../dictionary/index.ts';
import { describe as sentence } from '../findings/index.ts';
import { allModels } from '../testing/shipped-model.ts';
import { kindOfText, readSet, type ReadSet } from './index.ts';

const FOLDER = join(import.meta.dirname, 'fixtures');

/** The middle part of a fixture's name says for which model it is read. */
const MODELS: Readonly<Record<string, string>> = {
  hn20: 'halvern-hn20@1',
  hn64: 'halvern-hn64@1',
  s4: 'quenby-s4@1',
};

function modelOf(name: string): { model: Dictionary; facts: Facts } {
  const id = MODELS[name.split('.')[1] ?? ''];
  const found = allModels.find(({ model }) => model.id === id);
  if (!found) throw new Error(name);
  return found;
}

function read(name: string): ReadSet & { readonly model: Dictionary } {
  const { model, facts } = modelOf(name);
  const text = readFileSync(join(FOLDER, name), 'utf8');
  return { ...readSet(kindOfText(text), text, model, facts), model };
}

/** What is found in each file, as `line code`; missing parameters are told in all of them and left out here. */
const EXPECTED: Readonly<Record<string, readonly string[]>> = {
  'codes-turned-into-dates.hn20.csv': [
    '2 stop code-is-date',
    '3 stop code-is-date',
    '4 stop code-is-date',
    '5 stop value-is-date',
  ],
  'spreadsheet-units.hn64.csv': [
    '3 stop value-unreadable',
    '4 look unit-converted',
    '5 look unit-converted',
    '6 look unit-converted',
    '7 stop unit-differs',
    '8 stop unit-differs',
  ],
  'byte-order-mark.hn64.csv': [],
  'open-quotation.hn64.csv': ['3 stop quotation-open'],
  'empty.hn64.csv': ['1 stop table-empty'],
  'formulas.hn64.csv': ['2 stop formula', '3 stop formula'],
  'contradictions.hn64.csv': [
    '3 stop line-twice',
    '4 stop value-and-raw-differ',
    '5 stop raw-unreadable',
    '6 look out-of-range',
    '7 look out-of-range',
    '8 stop not-of-the-model',
  ],
  'later-version.hn64.json': ['1 stop format-unknown'],
  'odd-items.hn64.json': ['2 stop raw-unreadable', '3 stop reason-unknown', '4 stop code-missing'],
  'cut-off.hn64.json': ['2 stop file-broken'],
  'other-tool.s4.dcf': ['1 look product-differs', '38 stop not-of-the-model', '54 stop raw-unreadable'],
};

describe('bad and odd files', () => {
  it('have their findings stated here, each of them', () => {
    const sets = readdirSync(FOLDER).filter((name) => name.split('.').length === 3);
    expect(sets.sort()).toEqual(Object.keys(EXPECTED).sort());
  });

  it.each(Object.entries(EXPECTED))('%s is told line by line', (name, expected) => {
    const { findings } = read(name);
    const told = findings.filter(({ code }) => code !== 'parameters-missing' && code !== 'set-partial');
    expect(told.map(({ line, attention, code }) => `${line} ${attention} ${code}`)).toEqual(expected);
    for (const finding of findings) expect(sentence(finding)).toMatch(/\.$/);
  });

  it('give what could be read beside what could not', () => {
    const { set } = read('other-tool.s4.dcf');
    expect(Object.fromEntries(set.readings)).toEqual({
      '6083:00': 5_000_000,
      '2010:08': 5,
      '2021:07': -200,
    });
    const converted = read('spreadsheet-units.hn64.csv').set.readings;
    expect([
      converted.get('03R' as never),
      converted.get('04R' as never),
      converted.get('01M' as never),
    ]).toEqual([900, 600, 1500]);
  });
});
