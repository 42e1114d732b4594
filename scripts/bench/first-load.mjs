// JavaScript that a browser loads before the register is shown: the entry, what it imports, and the register's part.

import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { webFolder } from '../setup/folders.mjs';

export function firstLoadBench() {
  const assets = join(webFolder, 'assets');
  const html = readFileSync(join(webFolder, 'index.html'), 'utf8');
  const entry = [...html.matchAll(/assets\/([\w.-]+\.js)/g)].map(([, name]) => name);
  const register = readdirSync(assets).filter((name) => /^register-page-.*\.js$/.test(name));
  const seen = new Set();
  const visit = (name) => {
    if (seen.has(name)) return;
    seen.add(name);
    const text = readFileSync(join(assets, name), 'utf8');
    const head = /(?:^|[;}\s])(?:import|export)\s*(?:[\w*{}\s,$]+from\s*)?["']\.\/([\w.-]+\.js)["']/g;
    for (const [, other] of text.matchAll(head)) visit(other);
  };
  for (const name of [...entry, ...register]) visit(name);
  const bytes = [...seen].reduce((sum, name) => sum + gzipSync(readFileSync(join(assets, name))).length, 0);
  const all = readdirSync(assets).filter((name) => name.endsWith('.js')).length;
  return [
    {
      what: `First load of the register, JavaScript, gzip (${seen.size} of ${all} files)`,
      measured: `${(bytes / 1000).toFixed(0)} kB`,
      wanted: 'at most 250 kB',
    },
  ];
}
