// npm packages: installed when they are missing or the lock file has changed since.

import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './command.mjs';
import { root } from './folders.mjs';
import { PlainError, say } from './say.mjs';

const LEAST_NODE = [20, 19];

export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > LEAST_NODE[0] || (major === LEAST_NODE[0] && minor >= LEAST_NODE[1])) return;
  throw new PlainError(
    `Node.js ${LEAST_NODE.join('.')} or newer is needed; this is ${process.versions.node}.`,
  );
}

export async function ensurePackages() {
  const stampFile = join(root, 'node_modules', '.installed-from');
  const stamp = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  say('Installing packages …');
  // Not `npm ci`: it refuses a lock file that was written on another platform.
  const { code, output } = await run('npm', ['install', '--no-audit', '--no-fund', '--no-save'], {
    cwd: root,
  });
  if (code !== 0)
    throw new PlainError(
      `Packages could not be installed:\n${output.trim().split('\n').slice(-8).join('\n')}`,
    );
  mkdirSync(join(root, 'node_modules'), { recursive: true });
  const now = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  writeFileSync(stampFile, now);
}
