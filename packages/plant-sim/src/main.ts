// node dist/main.js --plant FILE --models FOLDER [--state FILE] [--control PORT]
// Prints one line of JSON with the ports when all lines listen.

import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { ControlPort } from './control-port.ts';
import { Plant, type PlantDescription } from './plant.ts';
import { loadModels } from './shipped-models.ts';

const { values } = parseArgs({
  options: {
    plant: { type: 'string' },
    models: { type: 'string' },
    state: { type: 'string' },
    control: { type: 'string', default: '0' },
  },
});
if (!values.plant || !values.models) throw new Error('--plant and --models are needed');

const description = JSON.parse(readFileSync(values.plant, 'utf8')) as PlantDescription;
const dictionaries = loadModels(values.models);
const plant = new Plant(description, { dictionaries, ...(values.state ? { stateFile: values.state } : {}) });
const control = new ControlPort(plant);
const lines = Object.fromEntries(await plant.listen());
const controlPort = await control.listen(Number(values.control));
process.stdout.write(`${JSON.stringify({ lines, control: controlPort })}\n`);

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    void Promise.all([plant.close(), control.close()]).then(() => process.exit(0));
  });
}
