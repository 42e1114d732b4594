// The state of a position as a shape: the ground colour alone would not tell everybody.

import type { PositionStateKind } from '@drive-keep/api';

export const STATE_SHAPES: Readonly<Record<PositionStateKind, string>> = {
  damaged: '!',
  'other-unit': '!',
  silent: '!',
  overdue: '○',
  drift: '◆',
  tolerated: '◇',
  unsigned: '○',
  'as-signed': '✓',
  retired: '–',
};
