// What there is to say about a position, worst first. The shape says it as well as the ground colour.

import type { PositionView } from '@drive-keep/api';

export type Attention = 'plain' | 'look' | 'stop';

export interface PositionState {
  readonly kind: 'other-unit' | 'silent' | 'overdue' | 'drift' | 'unsigned' | 'as-signed';
  readonly attention: Attention;
  readonly shape: string;
  readonly text: string;
}

/** Rounds are nightly: with one missed, a backup is overdue. */
const OVERDUE_HOURS = 36;

export function stateOf(position: PositionView, now: number = Date.now()): PositionState {
  const { lastTry, newestBackup, drift, baselineRevision } = position;
  if (lastTry?.outcome === 'other-serial' || lastTry?.outcome === 'other-model') {
    return { kind: 'other-unit', attention: 'stop', shape: '!', text: 'Other unit answers' };
  }
  const failed = lastTry && !['kept', 'kept-with-gaps', 'stopped', 'interrupted'].includes(lastTry.outcome);
  if (failed)
    return { kind: 'silent', attention: 'stop', shape: '!', text: FAILED[lastTry.outcome] ?? 'Not read' };
  if (newestBackup === null) return { kind: 'overdue', attention: 'look', shape: '○', text: 'No backup yet' };
  if (now - new Date(newestBackup).getTime() > OVERDUE_HOURS * 3_600_000) {
    return {
      kind: 'overdue',
      attention: 'look',
      shape: '○',
      text: 'Backup overdue',
    };
  }
  if (baselineRevision === null || drift === null) {
    return { kind: 'unsigned', attention: 'look', shape: '○', text: 'No baseline' };
  }
  if (drift > 0) {
    const text = drift === 1 ? '1 difference' : `${drift} differences`;
    return { kind: 'drift', attention: 'look', shape: '◆', text };
  }
  return { kind: 'as-signed', attention: 'plain', shape: '✓', text: 'As signed' };
}

const FAILED: Readonly<Record<string, string>> = {
  'no-connection': 'Gateway silent',
  'no-answer': 'Does not answer',
  late: 'Answers too late',
  'broke-off': 'Broke off',
  'wrong-answer': 'Wrong answers',
  busy: 'Busy',
  'identity-changed': 'Changed while read',
};

export const STATE_NAMES: Readonly<Record<PositionState['kind'], string>> = {
  'other-unit': 'other unit answers',
  silent: 'not read',
  overdue: 'overdue',
  drift: 'with differences',
  unsigned: 'without baseline',
  'as-signed': 'as signed',
};
