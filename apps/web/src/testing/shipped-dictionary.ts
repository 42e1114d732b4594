// The shipped dictionary for tests of screens, read as the server reads it.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readModel, type Dictionary } from '@drive-keep/core/dictionary';

const FOLDER = join(import.meta.dirname, '../../../../packages/catalogue/models/halvern-hn64');

export function shippedDictionary(): Dictionary {
  const file = (name: string) => readFileSync(join(FOLDER, name), 'utf8');
  const read = readModel({
    model: file('model.yaml'),
    parameters: file('parameters.csv'),
    terminals: file('terminals.yaml'),
  });
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  return read.value;
}
