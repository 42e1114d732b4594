import type { AxisLoadState } from '@drive-keep/api';

export const LOAD_STATES: Readonly<Record<AxisLoadState, string>> = {
  planned: 'waits for release',
  released: 'ready',
  loading: 'at work',
  done: 'done',
  refused: 'refused',
  failed: 'broken off',
  interrupted: 'interrupted',
};
