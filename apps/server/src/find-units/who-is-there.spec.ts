import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { loadModels, Plant } from '@drive-keep/plant-sim';
import { bridgeBeside, describePlant } from '../demo/describe-plant.ts';
import { demoPositions } from '../demo/demo-positions.ts';
import { ModbusLine } from '../lines/modbus-line.ts';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import { waysToTell, whoIsThere } from './who-is-there.ts';

const TIMING = { timeoutMs: 300, retries: 0 };
const dictionaries = loadModels(MODELS_FOLDER);
const all: readonly Dictionary[] = [...dictionaries.values()];
const plant = new Plant(describePlant(dictionaries, bridgeBeside(MODELS_FOLDER)), { dictionaries });
let ports: ReadonlyMap<string, number>;

beforeAll(async () => {
  ports = await plant.listen();
});
afterAll(() => plant.close());

async function ask(tag: string, known: readonly Dictionary[]) {
  const line = demoPositions().find((position) => position.tag === tag)?.line;
  if (!line) throw new Error(tag);
  const modbus = new ModbusLine({ host: '127.0.0.1', port: ports.get(line.name) ?? 0, ...TIMING });
  const who = await whoIsThere(modbus, line.address, waysToTell(known));
  modbus.close();
  return who;
}

describe('who is at an address', () => {
  const onePerModel = [
    ...new Map(
      demoPositions()
        .filter(({ line, mischief }) => line && !mischief?.silent)
        .map((position) => [position.model, position]),
    ).values(),
  ];

  it.each(onePerModel.map(({ model, tag, rating }) => [model, tag, rating] as const))(
    'is told for %s by nothing but what it answers',
    async (model, tag, rating) => {
      const who = await ask(tag, all);
      expect(who).toMatchObject({ kind: 'unit', dictionary: { id: model }, identity: { rating } });
    },
  );

  it('is a unit of no known model where its dictionary is not there', async () => {
    const without = all.filter(({ model }) => model !== 'toreka-c7');
    expect(await ask('GL-DI-01', without)).toEqual({ kind: 'unknown-model' });
  });

  it('is nobody where nothing answers', async () => {
    expect(await ask('KL1-RD-12', all)).toEqual({ kind: 'silent' });
  });
});
