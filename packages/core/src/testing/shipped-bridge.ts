// The bridge between models with the shipped vocabulary.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Bridge, readVocabulary } from '../meanings/index.ts';

export const vocabulary = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../catalogue/meanings.yaml'), 'utf8'),
);
export const bridge = new Bridge(vocabulary);
