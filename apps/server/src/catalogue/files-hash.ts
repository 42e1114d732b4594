// The hash of a dictionary's files; without a file of faults it is what it was before there were any. The database computes the same (migration Faults), so that it can let a damaged
// dictionary be mended from the same files and nothing else.

import { createHash } from 'node:crypto';
import type { ModelFiles } from '@drive-keep/core/dictionary';

/** Between two files; in none of them. */
const BETWEEN = '\u001f';

export function filesHash({ model, parameters, terminals, faults }: ModelFiles): string {
  const text = [model, parameters, terminals ?? '', ...(typeof faults === 'string' ? [faults] : [])].join(
    BETWEEN,
  );
  return `sha256:${createHash('sha256').update(text).digest('hex')}`;
}
