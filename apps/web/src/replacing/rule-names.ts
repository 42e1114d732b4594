import type { WrittenRule } from '@drive-keep/core/replace';

export const DOES: Readonly<Record<WrittenRule['does'], string>> = {
  carried: 'carried, with a word',
  fixed: 'fixed',
  asked: 'asked',
  check: 'check only',
  left: 'left behind',
  stays: 'stays as delivered',
};
