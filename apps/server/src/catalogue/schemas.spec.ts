import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { readTable } from '@drive-keep/core/values';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { parse } from 'yaml';
import { modelFilesIn } from './model-folder.ts';

const ROOT = join(import.meta.dirname, '../../../..');
const MODELS = join(ROOT, 'packages/catalogue/models');

function schema(name: string): ValidateFunction {
  const text = readFileSync(join(ROOT, 'docs/formats', `${name}.schema.json`), 'utf8');
  return new Ajv2020({ strict: true, allErrors: true }).compile(JSON.parse(text) as object);
}

const model = schema('model');
const terminals = schema('terminals');
const parameters = schema('parameters');
const faults = schema('faults');
const reference = schema('cross-reference');
const point = schema('starting-point');

describe.each(readdirSync(MODELS))('the files of %s', (name) => {
  const files = modelFilesIn(join(MODELS, name));

  it('are as the published schemas say', () => {
    const rowsOf = (text: string) => {
      const table = readTable(text);
      if (!table.ok) throw new Error(table.fault.code);
      return table.value.rows.map(({ cells }) => cells);
    };
    for (const [validate, content] of [
      [model, parse(files.model)],
      [terminals, parse(files.terminals ?? '')],
      [parameters, rowsOf(files.parameters)],
      [faults, rowsOf(readFileSync(join(MODELS, name, 'faults.csv'), 'utf8'))],
    ] as const) {
      validate(content);
      expect(validate.errors).toBeNull();
    }
  });
});

describe('the vocabulary of meanings', () => {
  it('is as its published schema says', () => {
    const meanings = schema('meanings');
    meanings(parse(readFileSync(join(MODELS, '../meanings.yaml'), 'utf8')));
    expect(meanings.errors).toBeNull();
  });
});

const REFERENCES = join(MODELS, '../cross-references');

describe.each(readdirSync(REFERENCES))('the cross-reference %s', (name) => {
  it('is as its published schema says', () => {
    reference(parse(readFileSync(join(REFERENCES, name), 'utf8')));
    expect(reference.errors).toBeNull();
  });
});

const POINTS = join(MODELS, '../starting-points');

describe.each(readdirSync(POINTS))('the starting point %s', (name) => {
  it('is as its published schema says', () => {
    point(parse(readFileSync(join(POINTS, name), 'utf8')));
    expect(point.errors).toBeNull();
  });
});

describe('the published schemas', () => {
  it('refuse what the reader refuses, too', () => {
    expect(model({ model: 'Not a name', version: 1 })).toBe(false);
    // What a model does not tell may be left out; what it tells has to be right.
    const told = parse(modelFilesIn(join(MODELS, 'toreka-c1')).model) as { line: object };
    const line = { word_order: 'low-first', largest_read: 20, bridge_gaps: false };
    expect(model({ ...told, line })).toBe(true);
    expect(model({ ...told, line: { ...line, identity: { rating: 'output 5' } } })).toBe(false);
    expect(model({ ...told, line: { ...line, status: { register: 1, running: 16, fault: 0 } } })).toBe(false);
    expect(terminals({ strips: [{ name: 'X', terminals: [{ id: '1', kind: 'magic' }] }] })).toBe(false);
    expect(parameters([{ code: 'A1' }])).toBe(false);
    expect(faults([{ number: '1', name: 'Overcurrent' }])).toBe(false);
    const ruled = (one: object) => ({ old: 'a', new: 'b', version: 1, settings: [one], successor: [] });
    expect(reference(ruled({ old: '1', does: 'left', why: 'x' }))).toBe(true);
    expect(reference(ruled({ old: '1', does: 'left' }))).toBe(false);
    expect(reference(ruled({ old: '1', does: 'fixed', why: 'x' }))).toBe(false);
    expect(reference(ruled({ old: '1', does: 'asked', why: 'x', ask: 'y', choices: [{ text: 'z' }] }))).toBe(
      false,
    );
    const belt = parse(readFileSync(join(POINTS, 'belt-presets.yaml'), 'utf8')) as object;
    expect(point({ ...belt, table: [] })).toBe(false);
    expect(point({ ...belt, load: 'rocket' })).toBe(false);
    expect(point({ ...belt, sets: [{ meaning: 'stop.mode', is: 'ramp' }] })).toBe(false);
  });
});
