// The shipped models for tests of the core: real parameters find more than made-up ones.

import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  factsOf,
  readModel,
  type Dictionary,
  type Facts,
  type ModelFiles,
  type Outfit,
} from '../dictionary/index.ts';

const FOLDER = join(import.meta.dirname, '../../../catalogue/models');

function filesIn(name: string): ModelFiles {
  const file = (each: string) => readFileSync(join(FOLDER, name, each), 'utf8');
  const ifAny = (each: string) => (existsSync(join(FOLDER, name, each)) ? file(each) : null);
  return {
    ...{ model: file('model.yaml'), parameters: file('parameters.csv') },
    ...{ terminals: ifAny('terminals.yaml'), faults: ifAny('faults.csv') },
  };
}

function readShipped(files: ModelFiles): Dictionary {
  const read = readModel(files);
  if (!read.ok) throw new Error(JSON.stringify(read.fault.slice(0, 5)));
  return read.value;
}

export const shippedFiles: ModelFiles = filesIn('halvern-hn64');
/** The files of every model, by folder. */
export const allFiles: Readonly<Record<string, ModelFiles>> = Object.fromEntries(
  readdirSync(FOLDER).map((name) => [name, filesIn(name)]),
);
export const shippedModel: Dictionary = readShipped(shippedFiles);
export const outfit: Outfit = { rating: 'HN64-15', region: '50-hz' };
export const facts: Facts = factsOf(shippedModel, outfit) ?? {};

/** All of them, each with the facts of its first rating and region. */
export const allModels: readonly { readonly model: Dictionary; readonly facts: Facts }[] = readdirSync(FOLDER)
  .sort()
  .map((name) => {
    const model = readShipped(filesIn(name));
    const first = { rating: model.ratings[0]?.id ?? '', region: model.regions[0]?.id ?? '' };
    return { model, facts: factsOf(model, first) ?? {} };
  });
