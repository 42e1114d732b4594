// node dist/demo/describe-plant.js --models FOLDER: prints the description of the simulated plant as JSON.

import { parseArgs } from 'node:util';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readModel, type Dictionary } from '@drive-keep/core/dictionary';
import type { PlantDescription } from '@drive-keep/plant-sim';
import { kilnOne, LINES, MAINS_VOLTS, MODEL, RATING, REGION, type Section } from './kiln-one.ts';
import { rawsNow, refusedRegisters } from './section-history.ts';

/** Delay of a gateway on a plant network, in ms. */
const LINE_DELAY_MS = 3;

export function describePlant(dictionary: Dictionary): PlantDescription {
  return {
    mains: MAINS_VOLTS,
    lines: LINES.map((id) => ({ id, port: 0, delayMs: LINE_DELAY_MS })),
    units: kilnOne().map((section) => describeUnit(dictionary, section)),
  };
}

const describeUnit = (dictionary: Dictionary, section: Section): PlantDescription['units'][number] => ({
  line: section.line,
  address: section.address,
  dictionary: dictionary.id,
  rating: RATING,
  region: REGION,
  firmware: section.firmware,
  serial: section.answers,
  values: rawsNow(dictionary, section),
  runContact: section.runs,
  mischief: { ...section.mischief, refuse: refusedRegisters(dictionary, section) },
});

const { values } = parseArgs({ options: { models: { type: 'string' } }, strict: false });
if (typeof values.models === 'string') {
  const folder = join(values.models, kilnModelFolder());
  const file = (name: string) => readFileSync(join(folder, name), 'utf8');
  const read = readModel({ model: file('model.yaml'), parameters: file('parameters.csv') });
  if (!read.ok) throw new Error(`${folder} cannot be read`);
  process.stdout.write(JSON.stringify(describePlant(read.value)));
}

/** The catalogue has a folder per model, without the version. */
function kilnModelFolder(): string {
  return MODEL.split('@')[0] ?? MODEL;
}
