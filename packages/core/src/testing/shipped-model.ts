// The shipped model for tests of the core: real parameters find more than made-up ones.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  factsOf,
  readModel,
  type Dictionary,
  type Facts,
  type ModelFiles,
  type Outfit,
} from '../dictionary/index.ts';

const FOLDER = join(import.meta.dirname, '../../../catalogue/models/halvern-hn64');

export const shippedFiles: ModelFiles = {
  model: readFileSync(join(FOLDER, 'model.yaml'), 'utf8'),
  parameters: readFileSync(join(FOLDER, 'parameters.csv'), 'utf8'),
};

export const shippedModel: Dictionary = readShipped();
export const outfit: Outfit = { rating: 'HN64-15', region: '50-hz' };
export const facts: Facts = factsOf(shippedModel, outfit) ?? {};

function readShipped(): Dictionary {
  const read = readModel(shippedFiles);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  return read.value;
}
