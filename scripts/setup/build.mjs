// Compiles everything, unless no source has changed since the last time.

import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './command.mjs';
import { cacheFolder, root, webFolder } from './folders.mjs';
import { PlainError, say } from './say.mjs';

const SOURCES = ['packages/core', 'packages/api', 'packages/plant-sim', 'apps/server', 'apps/web'];
const SERVER_MAIN = join(root, 'apps/server/dist/main.js');

export async function ensureBuilt() {
  const stampFile = join(cacheFolder, 'built-from');
  const stamp = sourceStamp();
  const built = existsSync(SERVER_MAIN) && existsSync(join(webFolder, 'index.html'));
  if (built && existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  say('Building …');
  await step(
    'npx',
    ['tsc', '-b', 'packages/core', 'packages/api', 'packages/plant-sim', 'apps/server'],
    root,
  );
  await step('npx', ['vite', 'build', '--logLevel', 'error'], join(root, 'apps/web'));
  mkdirSync(cacheFolder, { recursive: true });
  writeFileSync(stampFile, stamp);
}

async function step(program, args, cwd) {
  const { code, output } = await run(program, args, { cwd });
  if (code !== 0) throw new PlainError(`The build failed:\n${output}`);
}

/** Names, sizes and times of all sources. */
function sourceStamp() {
  const hash = createHash('sha256').update(readFileSync(join(root, 'package-lock.json')));
  for (const folder of SOURCES) {
    const entries = readdirSync(join(root, folder), { recursive: true, withFileTypes: true });
    for (const entry of entries.filter(isSource)) {
      const path = join(entry.parentPath, entry.name);
      const { size, mtimeMs } = statSync(path);
      hash.update(`${path} ${size} ${mtimeMs}\n`);
    }
  }
  return hash.digest('hex');
}

const isSource = (entry) =>
  entry.isFile() && !/\/(dist|dist-types|node_modules)(\/|$)/.test(entry.parentPath);
