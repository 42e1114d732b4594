// Reads the models of the catalogue folder, as a maker burns the parameter table into the firmware.

import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { readModel, type Dictionary, type ModelFiles } from '@drive-keep/core/dictionary';

/** The files of one model's folder. */
function modelFilesIn(folder: string): ModelFiles {
  const file = (name: string) => readFileSync(join(folder, name), 'utf8');
  const optional = (name: string) => (existsSync(join(folder, name)) ? file(name) : null);
  return {
    model: file('model.yaml'),
    parameters: file('parameters.csv'),
    terminals: optional('terminals.yaml'),
    faults: optional('faults.csv'),
  };
}

export function loadModels(folder: string): ReadonlyMap<string, Dictionary> {
  const dictionaries = new Map<string, Dictionary>();
  for (const name of readdirSync(folder)) {
    const read = readModel(modelFilesIn(join(folder, name)));
    if (!read.ok) throw new Error(`${name}: ${JSON.stringify(read.fault)}`);
    dictionaries.set(read.value.id, read.value);
  }
  return dictionaries;
}
