// npm run restore-plant -- FILE --data DIR: a plant from its backup, into an empty folder. Everything in it is hashed again
// before it takes its place. The restored copy talks to no unit until an engineer says that it is the one now.

import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './setup/build.mjs';
import { withDatabase } from './setup/installation.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { PlantDump } from './setup/plant-dump.mjs';
import { postgresBin } from './setup/postgres.mjs';
import { PlainError, runMain, say } from './setup/say.mjs';

await runMain(async () => {
  requireNode();
  const { values, positionals } = parseArgs({
    options: { data: { type: 'string' } },
    allowPositionals: true,
  });
  const [wanted, ...more] = positionals;
  if (!wanted || more.length > 0 || (!values.data && !process.env.DATABASE_URL))
    throw new PlainError('Name a file and an empty folder: npm run restore-plant -- plant.backup --data DIR');
  const folder = resolve(values.data ?? '.');
  if (!process.env.DATABASE_URL && existsSync(join(folder, 'running.json')))
    throw new PlainError(`Drive Keep runs in ${folder}. Restore into an empty folder.`);
  await ensurePackages();
  await ensureBuilt();
  const bin = await postgresBin();
  await withDatabase(folder, (url) => new PlantDump(url, bin).restore(resolve(wanted)), { fresh: true });
  say(`✓ The plant is in ${values.data ?? 'the database'}, everything in it hashed again.`);
  say('It is a copy that talks to no unit until an engineer says, under The plant, that it is the one now.');
  if (values.data) say(`Start it: npm run serve -- --data ${values.data}`);
});
