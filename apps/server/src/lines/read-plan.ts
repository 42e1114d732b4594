// Which registers are read with which request: the fewest requests that cover all places, none across a reserved area,
// none larger than the model allows, no 32-bit value torn apart. Taking the lowest uncovered place and reading as far
// as allowed is optimal for intervals on a line; a property test compares it with a search over all divisions.

import type { LineFacts } from '@drive-keep/core/dictionary';
import { INPUT_REGISTERS } from '@drive-keep/core/values';
import type { DriveLine } from './drive-line.ts';

/** The limits of a unit and of the line on which it is. */
export const limitsOn = (line: Pick<DriveLine, 'largestRead'>, facts: LineFacts): ReadLimits => ({
  ...facts,
  largestRead: Math.min(line.largestRead, facts.largestRead),
});

export interface Place {
  readonly address: number;
  readonly count: 1 | 2;
}

export interface ReadRequest {
  readonly address: number;
  readonly count: number;
}

/** As the unit allows and the line carries it; input registers are never read with holding registers. */
export type ReadLimits = Pick<LineFacts, 'largestRead' | 'bridgeGaps' | 'reserved'>;

export function planReads(places: readonly Place[], line: ReadLimits): readonly ReadRequest[] {
  const requests: { address: number; count: number }[] = [];
  for (const { address, count } of [...places].sort((a, b) => a.address - b.address)) {
    const open = requests.at(-1);
    if (open && mayExtend(open, address, count, line)) {
      open.count = Math.max(open.count, address + count - open.address);
    } else requests.push({ address, count });
  }
  return requests;
}

function mayExtend(open: ReadRequest, address: number, count: number, line: ReadLimits): boolean {
  const end = open.address + open.count;
  if (open.address < INPUT_REGISTERS && address >= INPUT_REGISTERS) return false;
  if (address + count - open.address > line.largestRead) return false;
  if (address > end && !line.bridgeGaps) return false;
  return !line.reserved.some(({ from, to }) => from < address + count && to >= end);
}

/** Halves a request at a place's edge, to find the registers that a unit refuses. */
export function splitRequest(request: ReadRequest, places: readonly Place[]): readonly ReadRequest[] {
  const inside = places
    .filter((place) => place.address >= request.address && place.address < request.address + request.count)
    .sort((a, b) => a.address - b.address);
  const half = Math.ceil(inside.length / 2);
  return [inside.slice(0, half), inside.slice(half)].filter((part) => part.length > 0).map(span);
}

function span(places: readonly Place[]): ReadRequest {
  const address = places[0]?.address ?? 0;
  const end = Math.max(...places.map((place) => place.address + place.count));
  return { address, count: end - address };
}
