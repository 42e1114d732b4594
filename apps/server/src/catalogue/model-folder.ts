import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ModelFiles } from '@drive-keep/core/dictionary';

/** The files of one model of the catalogue. */
export function modelFilesIn(folder: string): ModelFiles {
  const file = (name: string) => readFileSync(join(folder, name), 'utf8');
  const optional = (name: string) => (existsSync(join(folder, name)) ? file(name) : null);
  return {
    model: file('model.yaml'),
    parameters: file('parameters.csv'),
    terminals: optional('terminals.yaml'),
    faults: optional('faults.csv'),
  };
}
