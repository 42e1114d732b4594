import { describe, expect, it } from '@jest/globals';
import type { LineFacts } from '@drive-keep/core/dictionary';
import fc from 'fast-check';
import { planReads, splitRequest, type Place, type ReadRequest } from './read-plan.ts';

const facts = (change: Partial<LineFacts>): LineFacts =>
  ({ wordOrder: 'high-first', largestRead: 12, bridgeGaps: true, reserved: [], ...change }) as LineFacts;

/** Places that do not overlap, close enough together that joining them matters. */
const places: fc.Arbitrary<Place[]> = fc
  .array(fc.record({ gap: fc.integer({ min: 0, max: 9 }), count: fc.constantFrom<1 | 2>(1, 2) }), {
    minLength: 1,
    maxLength: 14,
  })
  .map((steps) => {
    let address = 100;
    return steps.map(({ gap, count }) => {
      const place = { address: address + gap, count };
      address = place.address + count;
      return place;
    });
  });

/** Reserved areas between the places, never on one. */
const withReserved = places.chain((all) =>
  fc
    .subarray(
      all
        .slice(0, -1)
        .map((place, at) => ({ from: place.address + place.count, next: all[at + 1]?.address ?? 0 })),
    )
    .map((gaps) => ({
      all,
      reserved: gaps.filter(({ from, next }) => next > from).map(({ from }) => ({ from, to: from })),
    })),
);

const covers = (requests: readonly ReadRequest[], place: Place): boolean =>
  requests.some(
    ({ address, count }) => place.address >= address && place.address + place.count <= address + count,
  );

/** The fewest requests by trying every division of the sorted places: slow and obvious. */
function fewest(all: readonly Place[], line: LineFacts): number {
  const best = [0];
  for (let end = 1; end <= all.length; end += 1) {
    best[end] = Infinity;
    for (let start = 0; start < end; start += 1) {
      const part = all.slice(start, end);
      const from = part[0]?.address ?? 0;
      const last = part.at(-1);
      const to = last ? last.address + last.count : from;
      const gapless = part.every(
        (place, at) =>
          at === 0 || place.address === (part[at - 1]?.address ?? 0) + (part[at - 1]?.count ?? 0),
      );
      const free = !line.reserved.some((area) => area.from < to && area.to >= from);
      if (to - from <= line.largestRead && free && (line.bridgeGaps || gapless)) {
        best[end] = Math.min(best[end] ?? Infinity, (best[start] ?? Infinity) + 1);
      }
    }
  }
  return best[all.length] ?? Infinity;
}

describe('a read plan', () => {
  it('covers every place, whole, within the limits of the model', () => {
    fc.assert(
      fc.property(withReserved, fc.boolean(), ({ all, reserved }, bridgeGaps) => {
        const line = facts({ reserved, bridgeGaps });
        const requests = planReads(all, line);
        for (const place of all) expect(covers(requests, place)).toBe(true);
        for (const { address, count } of requests) {
          expect(count).toBeLessThanOrEqual(line.largestRead);
          expect(reserved.some(({ from, to }) => from < address + count && to >= address)).toBe(false);
        }
      }),
      { seed: 640_712, numRuns: 500 },
    );
  });

  it('takes the fewest requests that there are', () => {
    fc.assert(
      fc.property(withReserved, fc.boolean(), ({ all, reserved }, bridgeGaps) => {
        const line = facts({ reserved, bridgeGaps });
        expect(planReads(all, line)).toHaveLength(fewest(all, line));
      }),
      { seed: 640_712, numRuns: 500 },
    );
  });

  it('does not depend on the order of the places', () => {
    fc.assert(
      fc.property(places, (all) => {
        expect(planReads([...all].reverse(), facts({}))).toEqual(planReads(all, facts({})));
      }),
      { seed: 640_712 },
    );
  });

  it('is halved at the edge of a place until single ones are left', () => {
    fc.assert(
      fc.property(places, (all) => {
        const single: ReadRequest[] = [];
        const halve = (request: ReadRequest) => {
          const parts = splitRequest(request, all);
          if (parts.length < 2) single.push(...parts);
          else parts.forEach(halve);
        };
        const last = all.at(-1);
        halve({ address: 100, count: last ? last.address + last.count - 100 : 0 });
        expect(single).toEqual(all.map(({ address, count }) => ({ address, count })));
      }),
      { seed: 640_712 },
    );
  });
});
