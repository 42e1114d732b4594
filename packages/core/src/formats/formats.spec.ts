import { meaningOf } from '../values/index.ts';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findMeaning } from '../dictionary/index.ts';
import { describe as sentence } from '../findings/index.ts';
import { defaultSet, hashOf } from '../sets/index.ts';
import { anySet, SEEDED } from '../testing/arbitraries.ts';
import { outfitOf } from '../testing/index.ts';
import { facts, shippedModel } from '../testing/shipped-model.ts';
import { kindOfText, readSet, writeSetCsv, writeSetJson, type ReadSet, type SetTextKind } from './index.ts';

const read = (kind: SetTextKind, text: string): ReadSet => readSet(kind, text, shippedModel, facts);
const codes = ({ findings }: ReadSet) =>
  findings
    .filter(({ code }) => code !== 'parameters-missing' && code !== 'set-partial')
    .map(({ code }) => code);
const ramp = findMeaning(shippedModel, meaningOf('ramp.up'))?.code ?? '';
const faults = findMeaning(shippedModel, meaningOf('restart.faults'))?.code ?? '';

describe('a set as a file', () => {
  it.each<[SetTextKind, (set: never) => string]>([
    ['csv', (set) => writeSetCsv(shippedModel, set)],
    ['json', (set) => writeSetJson(shippedModel, set, { position: 'KL1-RD-07' })],
  ])('comes back from %s with the same hash', (kind, write) => {
    fc.assert(
      fc.property(anySet, (set) => {
        const text = write(set as never);
        const back = read(kind, text);
        expect(codes(back)).toEqual([]);
        expect(hashOf(back.set)).toBe(hashOf(set));
        expect(kindOfText(text)).toBe(kind);
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('never takes the reader down, whatever it holds', () => {
    const pieces = fc.constantFrom(
      'code',
      'value',
      ',',
      ';',
      '"',
      '\n',
      '{',
      '}',
      '[',
      ':',
      '01R',
      '12.5',
      '\uFEFF',
      '=1+1',
      'null',
    );
    const text = fc.oneof(
      fc.string(),
      fc.array(pieces).map((parts) => parts.join('')),
      fc.json(),
    );
    fc.assert(
      fc.property(fc.constantFrom<SetTextKind>('csv', 'json'), text, (kind, content) => {
        const { findings } = read(kind, content);
        expect(findings.length).toBeGreaterThan(0);
        for (const finding of findings) expect(sentence(finding)).toMatch(/\.$/);
      }),
      { ...SEEDED, numRuns: 2000 },
    );
  });
});

describe('a set from a hand-made table', () => {
  it('may give values alone, with semicolons', () => {
    const back = read('csv', `code;value\n${ramp};12.5\n${faults};0b110\n`);
    expect(codes(back)).toEqual([]);
    expect([...back.set.readings]).toEqual([
      [ramp, 1250],
      [faults, 6],
    ]);
  });

  it.each<[string, string, string]>([
    ['an unknown code', 'code,value\n99X,1', 'not-of-the-model'],
    ['a code twice', `code,value\n${ramp},1\n${ramp},2`, 'line-twice'],
    ['a decimal comma', `code;value\n${ramp};12,5`, 'value-unreadable'],
    ['a value between two steps', `code,value\n${ramp},1.005`, 'value-unreadable'],
    ['a formula', `code,value\n${ramp},=A1+1`, 'formula'],
    ['a formula behind an apostrophe', `code,value\n${ramp},'=A1+1`, 'formula'],
    ['no value', `code,value\n${ramp},`, 'value-missing'],
    ['no code', `code,value\n,5`, 'code-missing'],
    ['a raw value with a point', `code,raw\n${ramp},1.5`, 'raw-unreadable'],
    [
      'value and raw value that contradict each other',
      `code,value,raw\n${ramp},1.00,200`,
      'value-and-raw-differ',
    ],
    ['a reason that nobody knows', `code,value,unreadable\n${ramp},,whim`, 'reason-unknown'],
    ['another model', `dictionary,code,value\nother@1,${ramp},1`, 'other-dictionary'],
    ['no column of values', `code,name\n${ramp},x`, 'set-column-missing'],
    ['no lines', 'code,value\n', 'file-empty'],
    ['nothing', '', 'table-empty'],
    ['a quotation mark that is not closed', 'code,value\n"01R,5', 'quotation-open'],
    [
      'a cell that is told as unreadable and as a value',
      `code,value,unreadable\n${ramp},1.00,failed`,
      'unreadable-and-value',
    ],
    ['the name of another parameter', `code,name,value\n${ramp},Deceleration time,1.00`, 'name-differs'],
    ['a text that is not that of the value', `code,raw,text\n${ramp},100,2.00 s`, 'text-differs'],
    ['a column that is there twice', `code,value,value\n${ramp},1.00,2.00`, 'column-twice'],
    ['a cell under no heading', `code,value,\n${ramp},1.00,stray`, 'table-surplus'],
    ['a percent sign that is not of the parameter', `code,value\n${ramp},50 %`, 'unit-differs'],
  ])('is stopped by %s', (_, text, code) => {
    const { findings } = read('csv', text);
    const found = findings.find((finding) => finding.code === code);
    expect(findings.map((finding) => finding.code)).toContain(code);
    expect(found?.attention).toBe('stop');
  });

  it('may call parameters in other words, and write options with their texts', () => {
    const option = shippedModel.parameters.find(
      ({ form, access }) => form.kind === 'option' && access !== 'read',
    );
    if (option?.form.kind !== 'option') throw new Error('no option');
    const [, second] = option.form.options;
    const text = `code,name,value\n${ramp},Hochlauf,5.00\n${option.code},Wahl,${second?.raw} = ${second?.text}\n`;
    const { set, findings } = read('csv', text);
    expect([...set.readings.values()]).toEqual([500, second?.raw]);
    expect(findings.map(({ attention, code }) => `${attention} ${code}`)).toEqual([
      'look names-other',
      'look set-partial',
    ]);
    expect(codes(read('csv', `code,value\n${option.code},${second?.raw} = something else`))).toEqual([
      'value-unreadable',
    ]);
  });

  it('is looked at, not stopped, for a value out of range', () => {
    const { findings, set } = read('csv', `code,value\n${ramp},650.00`);
    expect(findings[0]).toMatchObject({ code: 'out-of-range', attention: 'look', line: 2 });
    expect(set.readings.get(ramp as never)).toBe(65_000);
    const [finding] = findings;
    expect(finding && sentence(finding)).toContain('650.00 s is above the maximum value');
  });

  it('tells which parameters are missing, or that it is a part of a set', () => {
    const part = read('csv', `code,value\n${ramp},5.00`).findings.find(({ code }) => code === 'set-partial');
    expect(part?.attention).toBe('look');
    expect(part && sentence(part)).toMatch(/^The file holds 1 of 195 settings: that is a part/);
    const whole = writeSetCsv(shippedModel, {
      dictionary: shippedModel.id,
      readings: new Map(
        [...(defaultSet(shippedModel, outfitOf(shippedModel))?.readings ?? [])].filter(
          ([code]) => code !== ramp,
        ),
      ),
    });
    const missing = read('csv', whole).findings.find(({ code }) => code === 'parameters-missing');
    expect(missing).toMatchObject({ attention: 'look', facts: { codes: [ramp] } });
  });
});

describe('a set from JSON', () => {
  const good = (change: object) =>
    JSON.stringify({
      format: 'drive-keep/parameter-set',
      version: 1,
      dictionary: shippedModel.id,
      hash: `sha256:${'0'.repeat(64)}`,
      parameters: [{ code: ramp, raw: 500, value: '5.00' }],
      ...change,
    });

  it('is looked at when its content was changed after it was written', () => {
    expect(codes(read('json', good({})))).toEqual(['hash-differs']);
  });

  it.each<[string, string, string]>([
    ['an unknown version', good({ version: 2 }), 'format-unknown'],
    ['another format', good({ format: 'something' }), 'format-unknown'],
    ['broken text', '{"format":', 'file-broken'],
    ['no parameters', good({ parameters: 5 }), 'file-broken'],
    ['a raw value that is text', good({ parameters: [{ code: ramp, raw: 'five' }] }), 'raw-unreadable'],
    ['a raw value that is a fraction', good({ parameters: [{ code: ramp, raw: 1.5 }] }), 'raw-unreadable'],
    ['lines that are no objects', good({ parameters: [null, 3] }), 'code-missing'],
    ['another model', good({ dictionary: 'other@1' }), 'other-dictionary'],
  ])('is stopped by %s', (_, text, code) => {
    expect(codes(read('json', text))).toContain(code);
  });
});
