// What there is to say about a position.

export type Attention = 'plain' | 'look' | 'stop';

/** Worst first. */
export const STATE_KINDS = [
  'damaged',
  'other-unit',
  'silent',
  'overdue',
  'drift',
  'tolerated',
  'unsigned',
  'as-signed',
  'retired',
] as const;
export type PositionStateKind = (typeof STATE_KINDS)[number];

export interface PositionState {
  readonly kind: PositionStateKind;
  readonly attention: Attention;
  readonly text: string;
  /** For a tile. */
  readonly short: string;
}

export const STATE_NAMES: Readonly<Record<PositionStateKind, string>> = {
  damaged: 'damaged',
  'other-unit': 'other unit answers',
  silent: 'not read',
  overdue: 'overdue',
  drift: 'with differences',
  tolerated: 'tolerated',
  unsigned: 'without baseline',
  'as-signed': 'as signed',
  retired: 'retired',
};
