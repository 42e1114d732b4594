// What is known of one parameter of one unit. Absence from a set means "not read or not present";
// it is a third thing beside a raw value and an unreadable one, and none of them is ever shown as zero.

/** Why a unit gave no value for a parameter that its dictionary has. */
export type UnreadableReason = 'refused' | 'failed' | 'busy' | 'not-read-off';

export interface Unreadable {
  readonly unreadable: UnreadableReason;
}

/** A raw integer, or the reason why there is none. */
export type Reading = number | Unreadable;

export const isRaw = (reading: Reading | undefined): reading is number => typeof reading === 'number';

export const isUnreadable = (reading: Reading | undefined): reading is Unreadable =>
  typeof reading === 'object';

export const UNREADABLE_REASONS: readonly UnreadableReason[] = ['refused', 'failed', 'busy', 'not-read-off'];

export function sameReading(a: Reading | undefined, b: Reading | undefined): boolean {
  if (isUnreadable(a) && isUnreadable(b)) return a.unreadable === b.unreadable;
  return a === b;
}
