// What is known of one parameter of one unit. Absence from a set means "not read or not present";
// it is a third thing beside a raw value and an unreadable one, and none of them is ever shown as zero.

/** Why a unit gave no value for a parameter that its dictionary has. */
export type UnreadableReason = 'refused' | 'failed' | 'busy' | 'not-read-off';

export interface Unreadable {
  readonly unreadable: UnreadableReason;
}

/** A raw integer, or the reason why there is none. */
export type Reading = number | Unreadable;

/** Whether it is a value: zero is one. */
export const isRaw = (reading: Reading | undefined): reading is number => typeof reading === 'number';

/** Whether it was asked for and not given. */
export const isUnreadable = (reading: Reading | undefined): reading is Unreadable =>
  typeof reading === 'object';

/** In the words of the files. */
export const UNREADABLE_REASONS: readonly UnreadableReason[] = ['refused', 'failed', 'busy', 'not-read-off'];

/** Equal raw values, or absent for the same reason; missing on both sides is the same, too. */
export function sameReading(a: Reading | undefined, b: Reading | undefined): boolean {
  if (isUnreadable(a) && isUnreadable(b)) return a.unreadable === b.unreadable;
  return a === b;
}
