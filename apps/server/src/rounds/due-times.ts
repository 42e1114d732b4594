// When a round is due, in the plant's time (that of the server). Pure: `now` is an argument. Clock changes are the
// business of Date: a time that does not exist on a day is the next one that does.

export interface Schedule {
  /** 02:00 */
  readonly at: string;
  /** Days of the week, 0 for Sunday. */
  readonly days: readonly number[];
}

const DAYS_OF_A_WEEK = 7;

/** The newest due time that is not after `now`; nothing for a round without days. */
export function lastDue({ at, days }: Schedule, now: Date): Date | undefined {
  return dueOn(at, days, now, -1, (due) => due <= now);
}

export function nextDue({ at, days }: Schedule, now: Date): Date | undefined {
  return dueOn(at, days, now, 1, (due) => due > now);
}

function dueOn(
  at: string,
  days: readonly number[],
  now: Date,
  step: 1 | -1,
  fits: (due: Date) => boolean,
): Date | undefined {
  for (let away = 0; away <= DAYS_OF_A_WEEK; away += 1) {
    const due = onDay(now, away * step, at);
    if (days.includes(due.getDay()) && fits(due)) return due;
  }
  return undefined;
}

function onDay(now: Date, days: number, at: string): Date {
  const [hours = 0, minutes = 0] = at.split(':').map(Number);
  return new Date(now.getFullYear(), now.getMonth(), now.getDate() + days, hours, minutes);
}

/** True inside the quiet hours, which may reach over midnight. Equal times are no quiet hours. */
export function isQuiet(quiet: { readonly from: string; readonly to: string } | null, now: Date): boolean {
  if (!quiet || quiet.from === quiet.to) return false;
  const clock = `${String(now.getHours()).padStart(2, '0')}:${String(now.getMinutes()).padStart(2, '0')}`;
  const inside = clock >= quiet.from && clock < quiet.to;
  return quiet.from < quiet.to ? inside : clock >= quiet.from || clock < quiet.to;
}

/** Pauses before the second, third … try, in minutes. */
const PAUSES = [1, 5, 15, 30, 60];
const MINUTE_MS = 60_000;

export const retryTime = (tries: number, now: Date): Date =>
  new Date(now.getTime() + (PAUSES[Math.min(tries, PAUSES.length) - 1] ?? 1) * MINUTE_MS);
