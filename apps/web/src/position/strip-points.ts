// What the two handles of the history strip can stand on: every backup and every baseline, in time.

import type { HistoryView } from '@drive-keep/api';
import { showTime } from '../words/dates.ts';

export interface StripPoint {
  readonly reference: string;
  readonly lane: 'backup' | 'baseline';
  readonly time: number;
  readonly label: string;
  /** Same content as the backup before: the arrow keys pass over it. */
  readonly repeats: boolean;
}

export function stripPoints({ backups, baselines, newest }: HistoryView): readonly StripPoint[] {
  const current = baselines.at(-1);
  const ofBackups = backups.map((backup) => ({
    reference: backup.id === newest ? 'newest' : `backup:${backup.id}`,
    lane: 'backup' as const,
    time: new Date(backup.takenAt).getTime(),
    label: `${backup.how === 'imported' ? 'imported file' : 'backup'} of ${showTime(backup.takenAt)}, ${backup.reason}`,
    repeats: backup.sameAsBefore && backup.id !== newest,
  }));
  const ofBaselines = baselines.map((baseline) => ({
    reference: baseline === current ? 'baseline' : `baseline:${baseline.revision}`,
    lane: 'baseline' as const,
    time: new Date(baseline.signedAt).getTime(),
    label: `baseline revision ${baseline.revision} of ${showTime(baseline.signedAt)}`,
    repeats: false,
  }));
  return [...ofBackups, ...ofBaselines].sort((x, y) => x.time - y.time);
}

/** The point that a reference means; `backup:` of the newest backup means the newest, too. */
export function findPoint(points: readonly StripPoint[], reference: string): StripPoint | undefined {
  return points.find((point) => point.reference === reference);
}

/** The point of the lane that is nearest to a time. */
export function nearestPoint(
  points: readonly StripPoint[],
  lane: StripPoint['lane'],
  time: number,
): StripPoint | undefined {
  const inLane = points.filter((point) => point.lane === lane);
  if (lane === 'baseline') return inLane.findLast((point) => point.time <= time) ?? inLane[0];
  let best = inLane[0];
  for (const point of inLane) {
    if (best && Math.abs(point.time - time) < Math.abs(best.time - time)) best = point;
  }
  return best;
}

/** One step of the arrow keys: to the next point whose content differs, in the same lane. */
export function stepPoint(points: readonly StripPoint[], from: StripPoint, way: 1 | -1): StripPoint {
  const inLane = points.filter((point) => point.lane === from.lane);
  for (let at = inLane.indexOf(from) + way; at >= 0 && at < inLane.length; at += way) {
    const point = inLane[at];
    if (point && (!point.repeats || at === 0)) return point;
  }
  return from;
}
