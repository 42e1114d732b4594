// Dates as people here write them: 24 Nov 2026 14:05.

import { timeFormat } from 'd3-time-format';

const dateAndTime = timeFormat('%-d %b %Y %H:%M');
const date = timeFormat('%-d %b %Y');

export const showTime = (iso: string): string => dateAndTime(new Date(iso));
export const showDate = (iso: string): string => date(new Date(iso));

const HOUR = 3_600_000;

/** How long ago, roughly: "3 h ago", "5 days ago". */
export function showAge(iso: string, now: number = Date.now()): string {
  const hours = Math.max(0, now - new Date(iso).getTime()) / HOUR;
  if (hours < 1) return hours < 1 / 30 ? 'just now' : `${Math.round(hours * 60)} min ago`;
  if (hours < 48) return `${Math.round(hours)} h ago`;
  const days = Math.round(hours / 24);
  return days < 90 ? `${days} days ago` : `${Math.round(days / 30)} months ago`;
}
