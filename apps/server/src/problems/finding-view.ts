// Findings of the core as people get them.

import type { FindingView } from '@drive-keep/api';
import { describe, type Finding } from '@drive-keep/core/findings';

export const findingView = (found: Finding): FindingView => ({
  line: found.line ?? null,
  column: String(found.column ?? ''),
  attention: found.attention,
  text: describe(found),
});

/** Place and text in one line, for a refusal. */
export function findingLine({ line, column, text }: FindingView): string {
  const place = line === null ? column : `Line ${line}${column && `, ${column}`}`;
  return place === '' ? text : `${place}: ${text}`;
}
