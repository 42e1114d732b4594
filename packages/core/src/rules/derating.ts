// What heat and carrier frequency leave of a unit's rated current: by the points that its model tells, straight between two of
// them. The shares multiply.

import type { Derating, DeratingPoint } from '../dictionary/index.ts';

const PERCENT = 100;

export interface Derated {
  /** Share of the rated current that is left, from 0 to 1. */
  readonly share: number;
  /** In percent, by each. */
  readonly byHeat: number;
  readonly byCarrier: number;
}

/** `ambient` in °C, `carrier` in kHz; what is not known takes nothing away. */
export function deratedBy(
  derating: Derating | null,
  ambient: number | null,
  carrier: number | null,
): Derated {
  const byHeat = derating && ambient !== null ? shareAt(derating.ambient, ambient) : PERCENT;
  const byCarrier = derating && carrier !== null ? shareAt(derating.carrier, carrier) : PERCENT;
  return { share: (byHeat * byCarrier) / PERCENT ** 2, byHeat, byCarrier };
}

/** In percent; what lies before the first or behind the last point counts as that. */
function shareAt(points: readonly DeratingPoint[], at: number): number {
  const sorted = [...points].sort((a, b) => a.at - b.at);
  const after = sorted.findIndex((point) => point.at >= at);
  const [above, below] = [sorted[after], sorted[after - 1]];
  if (!above) return sorted.at(-1)?.share ?? PERCENT;
  if (!below) return above.share;
  return below.share + ((above.share - below.share) * (at - below.at)) / (above.at - below.at);
}
