// npm run backup-plant -- FILE: the whole plant as one file, proved by restoring it beside the plant and hashing everything in
// it again. Works while Drive Keep runs. With DATABASE_URL set that database is taken.
//
//   --plain     the installation of `npm run serve`; without it that of `npm start`
//   --data DIR  where the data is

import { existsSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './setup/build.mjs';
import { dataFolder, withDatabase } from './setup/installation.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { PlantDump } from './setup/plant-dump.mjs';
import { postgresBin } from './setup/postgres.mjs';
import { PlainError, runMain, say } from './setup/say.mjs';

await runMain(async () => {
  requireNode();
  const options = { plain: { type: 'boolean' }, data: { type: 'string' } };
  const { values, positionals } = parseArgs({ options, allowPositionals: true });
  const [wanted, ...more] = positionals;
  if (!wanted || more.length > 0) throw new PlainError('Name one file: npm run backup-plant -- plant.backup');
  const file = resolve(wanted);
  if (existsSync(file))
    throw new PlainError(`${file} is there already. Name another file; nothing was overwritten.`);
  if (!existsSync(dirname(file))) throw new PlainError(`The folder ${dirname(file)} is not there.`);
  await ensurePackages();
  await ensureBuilt();
  const bin = await postgresBin();
  const bytes = await withDatabase(dataFolder(values), (url) => new PlantDump(url, bin).save(file));
  say(
    `✓ ${file}: ${(bytes / 1e6).toFixed(1)} MB, restored once beside the plant, everything in it hashed again.`,
  );
});
