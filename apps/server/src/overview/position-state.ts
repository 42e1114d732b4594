// What there is to say about a position, from what is known of it.

import type { PositionState, PositionView } from '@drive-keep/api';

/** A unit with only a keypad is read off by hand: once a year is what a plant manages. */
const OVERDUE_HOURS_BY_HAND = 366 * 24;

/** Ends of a try that say nothing against the unit. */
const NO_FAILURE: readonly string[] = ['kept', 'kept-with-gaps', 'stopped', 'interrupted', 'no-line'];

/** Of what is known, worst first; `now` in ms. `overdueHours` is the plant's patience with units on a line. */
export function stateOf(
  position: Omit<PositionView, 'state'>,
  now: number,
  overdueHours: number,
): PositionState {
  const { lastTry, newestBackup, drift, baselineRevision } = position;
  if (position.retiredAt !== null)
    return { kind: 'retired', attention: 'plain', text: 'Retired', short: 'Retired' };
  if (position.damaged)
    return {
      kind: 'damaged',
      attention: 'stop',
      text: 'What was kept is damaged',
      short: 'Damaged',
    };
  if (lastTry?.outcome === 'other-serial' || lastTry?.outcome === 'other-model') {
    return {
      kind: 'other-unit',
      attention: 'stop',
      text: 'Other unit answers',
      short: 'Other unit',
    };
  }
  const failed = lastTry && !NO_FAILURE.includes(lastTry.outcome);
  if (failed) return { kind: 'silent', attention: 'stop', ...(FAILED[lastTry.outcome] ?? NOT_READ) };
  if (newestBackup === null)
    return { kind: 'overdue', attention: 'look', text: 'No backup yet', short: 'No backup' };
  if (!position.newestIsOfUnit) {
    const text = 'Not backed up since the swap';
    return { kind: 'overdue', attention: 'look', text, short: 'Swapped' };
  }
  const hours = position.unit.line ? overdueHours : OVERDUE_HOURS_BY_HAND;
  if (now - new Date(newestBackup).getTime() > hours * 3_600_000) {
    return {
      kind: 'overdue',
      attention: 'look',
      text: 'Backup overdue',
      short: 'Overdue',
    };
  }
  if (baselineRevision === null || drift === null) {
    return { kind: 'unsigned', attention: 'look', text: 'No baseline', short: 'No baseline' };
  }
  const open = drift - position.tolerated;
  if (open > 0) {
    const count = open === 1 ? '1 difference' : `${open} differences`;
    const text = position.tolerated > 0 ? `${count}, ${position.tolerated} more tolerated` : count;
    return { kind: 'drift', attention: 'look', text, short: count };
  }
  if (drift > 0) {
    const text = `${drift} tolerated`;
    return { kind: 'tolerated', attention: 'plain', text, short: text };
  }
  return { kind: 'as-signed', attention: 'plain', text: 'As signed', short: 'As signed' };
}

type Words = Pick<PositionState, 'text' | 'short'>;

const NOT_READ: Words = { text: 'Not read', short: 'Not read' };
const FAILED: Readonly<Record<string, Words>> = {
  'no-connection': { text: 'Gateway silent', short: 'No gateway' },
  'no-answer': { text: 'Does not answer', short: 'No answer' },
  late: { text: 'Answers too late', short: 'Too late' },
  'broke-off': { text: 'Broke off', short: 'Broke off' },
  'wrong-answer': { text: 'Wrong answers', short: 'Wrong' },
  busy: { text: 'Busy', short: 'Busy' },
  'identity-changed': { text: 'Changed while read', short: 'Changed' },
};
