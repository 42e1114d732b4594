// All code of core and server as one text, for tests that hold names in code against a catalogue; tests themselves left out.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const ROOT = join(import.meta.dirname, '../../../..');

export const sourceText = (except: RegExp = /^$/): string =>
  ['packages/core/src', 'apps/server/src']
    .flatMap((folder) =>
      readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
        .filter((name) => name.endsWith('.ts') && !name.endsWith('.spec.ts') && !except.test(name))
        .map((name) => readFileSync(join(ROOT, folder, name), 'utf8')),
    )
    .join('\n');
