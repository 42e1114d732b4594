// Dates as people here write them: 24 Nov 2026 14:05.

import { timeFormat } from 'd3-time-format';

const dateAndTime = timeFormat('%-d %b %Y %H:%M');
const date = timeFormat('%-d %b %Y');

export const showTime = (iso: string): string => dateAndTime(new Date(iso));
export const showDate = (iso: string): string => date(new Date(iso));

const HOUR = 3_600_000;

/** Time since, roughly: "3 h", "5 days". */
export function showSpan(iso: string, now: number = Date.now()): string {
  const hours = Math.max(0, now - new Date(iso).getTime()) / HOUR;
  if (hours < 1) return `${Math.round(hours * 60)} min`;
  if (hours < 48) return `${Math.round(hours)} h`;
  const days = Math.round(hours / 24);
  return days < 90 ? `${days} days` : `${Math.round(days / 30)} months`;
}

/** How long ago, roughly: "3 h ago", "just now". */
export function showAge(iso: string, now: number = Date.now()): string {
  const span = showSpan(iso, now);
  return span === '0 min' ? 'just now' : `${span} ago`;
}
