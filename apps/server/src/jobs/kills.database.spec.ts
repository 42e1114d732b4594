// The process that does the work is gone before one of its effects: every kind of work, at points that differ from run to run.
// KILLS gives how many there are, or "all" for every point of every kind.

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { KILLED_WORKS } from '../testing/killed-works/index.ts';
import { Killing, type Work } from '../testing/killing.ts';

const WANTED = process.env['KILLS'] ?? '20';
/** A process is made, asked and taken away in a few seconds; a busy machine takes longer. */
const TRY_MS = 60_000;

let killing: Killing;
const effects = new Map<string, number>();

beforeAll(async () => {
  killing = await Killing.start();
}, 120_000);
afterAll(() => killing.stop(), 60_000);

const KINDS = Object.keys(KILLED_WORKS);

describe('work whose process is gone', () => {
  const works = new Map<string, Work>();
  beforeAll(() => {
    for (const [kind, make] of Object.entries(KILLED_WORKS)) works.set(kind, make(killing));
  });
  const workOf = (kind: string): Work => {
    const work = works.get(kind);
    if (!work) throw new Error(kind);
    return work;
  };

  it.each(KINDS)(
    '%s: has effects that can be counted, and ends well where nobody kills it',
    async (kind) => {
      const { effects: counted, wrong } = await killing.tryAt(workOf(kind), null);
      expect(wrong).toEqual([]);
      expect(counted).toBeGreaterThan(2);
      effects.set(kind, counted ?? 0);
    },
    120_000,
  );

  it(
    'has an end after the restart, and each end is true',
    async () => {
      const points = KINDS.flatMap((kind) =>
        Array.from({ length: effects.get(kind) ?? 0 }, (_, at) => ({ kind, point: at + 1 })),
      );
      expect(points.length).toBeGreaterThan(KINDS.length * 3);
      const chosen = WANTED === 'all' ? points : drawn(points, Number(WANTED));
      const wrong: string[] = [];
      for (const { kind, point } of chosen) {
        const found = await killing.tryAt(workOf(kind), point);
        wrong.push(...found.wrong.map((text) => `${kind}, before effect ${point}: ${text}`));
      }
      expect(wrong).toEqual([]);
    },
    (WANTED === 'all' ? 2000 : Number(WANTED)) * TRY_MS,
  );
});

/** So many, one kind after the other so that each has its share, at points of chance. */
function drawn(
  points: readonly { kind: string; point: number }[],
  count: number,
): readonly { kind: string; point: number }[] {
  return Array.from({ length: count }, (_, at) => {
    const kind = KINDS[at % KINDS.length];
    const ofKind = points.filter((each) => each.kind === kind);
    return ofKind[Math.floor(Math.random() * ofKind.length)] ?? { kind: kind ?? '', point: 1 };
  });
}
