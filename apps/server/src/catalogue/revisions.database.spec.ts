import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Problem } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { filesHash } from './files-hash.ts';
import { modelFilesIn } from './model-folder.ts';
import { ModelImport } from './model-import.ts';

let plant: RunningPlant;
let viewer: Caller;
beforeAll(async () => {
  plant = await RunningPlant.start();
  viewer = await plant.signIn('viewer');
});
afterAll(() => plant.stop());

const files = modelFilesIn(join(import.meta.dirname, '../../../../packages/catalogue/models/toreka-f3'));
const other = (from: string, to: string) => ({ ...files, parameters: files.parameters.replace(from, to) });
const read = async () => (await viewer.get<Dictionary & Problem>('dictionaries/toreka-f3@1')).body;
const kept = async (): Promise<unknown> =>
  plant.app
    .get(DataSource)
    .query('select md5(parameters_file) as sum, files_hash from dictionary where id = $1', ['toreka-f3@1']);

describe('a later wording of a kept model', () => {
  it('comes in beside it, once, and what was kept stays letter for letter', async () => {
    const before = await kept();
    const worded = other('Shaft power from the nameplate.', 'Power at the shaft from the nameplate.');
    // Two servers that start at once take the same catalogue.
    const taken = await Promise.all([1, 2].map(() => plant.app.get(ModelImport).take(worded)));
    expect(taken.map(({ ok }) => ok)).toEqual([true, true]);
    expect(await read()).toMatchObject({ id: 'toreka-f3@1', revision: 2 });
    expect((await read()).parameters[0]?.description).toBe('Power at the shaft from the nameplate.');
    await plant.app.get(ModelImport).take(worded);
    expect((await read()).revision).toBe(2);
    expect(await kept()).toEqual(before);
  });

  it('brings faults to a model that was kept without them', async () => {
    const [row]: { hash: string }[] = await plant.app.get(DataSource).query(
      `select 'sha256:' || encode(sha256(convert_to(model_file || chr(31) || parameters_file || chr(31) ||
         terminals_file, 'UTF8')), 'hex') as hash from dictionary where id = 'toreka-c7@1'`,
    );
    const model = modelFilesIn(join(import.meta.dirname, '../../../../packages/catalogue/models/toreka-c7'));
    expect(filesHash({ ...model, faults: null })).toBe(row?.hash);
    const renamed = { ...model, model: model.model.replace(/^model: .*$/m, 'model: toreka-older') };
    await plant.app.get(ModelImport).take({ ...renamed, faults: null });
    const faults = async () =>
      (await viewer.get<Dictionary>('dictionaries/toreka-older@1')).body.faults.length;
    expect(await faults()).toBe(0);
    await plant.app.get(ModelImport).take(renamed);
    expect(await faults()).toBeGreaterThan(10);
  });

  it('is refused where it would say something else of kept sets', async () => {
    const taken = await plant.app.get(ModelImport).take(other('kW,0.1,0.1,90.0', 'kW,0.1,0.1,150.0'));
    expect(taken).toMatchObject({ ok: false, fault: { code: 'version-taken' } });
    expect((await read()).revision).toBe(2);
  });

  it('is told when it was damaged, and mended by the same files alone', async () => {
    const source = plant.app.get(DataSource);
    const damage = (to: string) =>
      source.query('update dictionary_revision set parameters_file = $1 where dictionary_id = $2', [
        to,
        'toreka-f3@1',
      ]);
    await expect(damage('nothing')).rejects.toThrow('keeps what it holds');
    await expect(source.query('delete from dictionary_revision')).rejects.toThrow();
  });
});
