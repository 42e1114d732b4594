import { describe, expect, it } from '@jest/globals';
import type { BackupMark, HistoryView } from '@drive-keep/api';
import { findPoint, nearestPoint, stepPoint, stripPoints, type StripPoint } from './strip-points.ts';

const backup = (id: string, day: number, sameAsBefore: boolean): BackupMark => ({
  id,
  takenAt: new Date(2026, 0, day).toISOString(),
  takenBy: 'Nightly round',
  how: 'read',
  reason: 'Nightly round',
  serial: 1,
  firmware: '2.07',
  hash: id,
  differences: 0,
  unreadable: 0,
  damaged: false,
  sameAsBefore,
});

const history: HistoryView = {
  newest: 'e',
  wirings: [],
  parts: [],
  swaps: [],
  lastThatDiffered: 'd',
  backups: [
    backup('a', 1, false),
    backup('b', 2, true),
    backup('c', 3, true),
    backup('d', 4, false),
    backup('e', 5, true),
  ],
  baselines: [1, 2].map((revision) => ({
    revision,
    signedAt: new Date(2026, 0, revision * 2 - 1, 12).toISOString(),
    signedBy: 'R. Ashgrove',
    reason: 'Test',
    hash: String(revision),
    damaged: false,
    wiring: null,
    proof: null,
  })),
};

const points = stripPoints(history);
const at = (reference: string): StripPoint => {
  const point = findPoint(points, reference);
  if (!point) throw new Error(reference);
  return point;
};

describe('the points of the history strip', () => {
  it('call the newest backup and the baseline in force by their names', () => {
    expect(points.map((point) => point.reference)).toEqual([
      'backup:a',
      'baseline:1',
      'backup:b',
      'backup:c',
      'baseline',
      'backup:d',
      'newest',
    ]);
  });

  it('are passed over by the arrow keys where nothing changed', () => {
    expect(stepPoint(points, at('backup:a'), 1).reference).toBe('backup:d');
    expect(stepPoint(points, at('newest'), -1).reference).toBe('backup:d');
    expect(stepPoint(points, at('backup:d'), 1).reference).toBe('newest');
    expect(stepPoint(points, at('backup:a'), -1).reference).toBe('backup:a');
  });

  it('stay in their lane', () => {
    expect(stepPoint(points, at('baseline'), -1).reference).toBe('baseline:1');
    expect(stepPoint(points, at('baseline'), 1).reference).toBe('baseline');
  });

  it('are found by time: the nearest backup, the baseline in force', () => {
    const noon = new Date(2026, 0, 3, 16).getTime();
    expect(nearestPoint(points, 'backup', noon)?.reference).toBe('backup:d');
    expect(nearestPoint(points, 'baseline', noon)?.reference).toBe('baseline');
    expect(nearestPoint(points, 'baseline', new Date(2026, 0, 2).getTime())?.reference).toBe('baseline:1');
    expect(nearestPoint(points, 'baseline', 0)?.reference).toBe('baseline:1');
  });

  it('are none where there is no history', () => {
    expect(
      stripPoints({
        backups: [],
        baselines: [],
        newest: null,
        lastThatDiffered: null,
        wirings: [],
        parts: [],
        swaps: [],
      }),
    ).toEqual([]);
    expect(nearestPoint([], 'backup', 0)).toBeUndefined();
  });
});
