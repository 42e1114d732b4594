// The shipped dictionary for tests of screens, read as the server reads it.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readModel, type Dictionary } from '@drive-keep/core/dictionary';

const CATALOGUE = join(import.meta.dirname, '../../../../packages/catalogue');

export function shippedDictionary(model = 'halvern-hn64'): Dictionary {
  const file = (name: string) => readFileSync(join(CATALOGUE, 'models', model, name), 'utf8');
  const read = readModel({
    model: file('model.yaml'),
    parameters: file('parameters.csv'),
    terminals: file('terminals.yaml'),
    faults: file('faults.csv'),
  });
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  return read.value;
}

/** The text of a shipped cross-reference. */
export const shippedReference = (old: string, fresh: string): string =>
  readFileSync(join(CATALOGUE, 'cross-references', `${old}--${fresh}.yaml`), 'utf8');
