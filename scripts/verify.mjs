// npm run verify: hashes everything that was kept again, and names what is damaged. Works beside a running Drive Keep and
// without one; with DATABASE_URL set that database is checked. Ends with 1 where something is damaged.
//
//   --plain     the installation of `npm run serve`; without it that of `npm start`
//   --data DIR  where the data is

import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './setup/build.mjs';
import { run } from './setup/command.mjs';
import { root } from './setup/folders.mjs';
import { dataFolder, withDatabase } from './setup/installation.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { runMain } from './setup/say.mjs';

async function check(databaseUrl) {
  const program = join(root, 'apps/server/dist/integrity/check-kept.js');
  const env = { ...process.env, DATABASE_URL: databaseUrl };
  const { code } = await run(process.execPath, [program], { show: true, env });
  process.exitCode = code;
}

await runMain(async () => {
  requireNode();
  const { values } = parseArgs({ options: { plain: { type: 'boolean' }, data: { type: 'string' } } });
  await ensurePackages();
  await ensureBuilt();
  await withDatabase(dataFolder(values), check);
});
