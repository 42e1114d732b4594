// Reads the models of the catalogue folder, as a maker burns the parameter table into the firmware.

import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describeModelFinding, readModel, type Dictionary } from '@drive-keep/core/dictionary';

export function loadModels(folder: string): ReadonlyMap<string, Dictionary> {
  const dictionaries = new Map<string, Dictionary>();
  for (const name of readdirSync(folder)) {
    const read = readModel({
      model: readFileSync(join(folder, name, 'model.yaml'), 'utf8'),
      parameters: readFileSync(join(folder, name, 'parameters.csv'), 'utf8'),
    });
    if (!read.ok) throw new Error(`${name}: ${read.fault.map(describeModelFinding).join(' ')}`);
    dictionaries.set(read.value.id, read.value);
  }
  return dictionaries;
}
