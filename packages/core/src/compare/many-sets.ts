// Many sets of one model as columns: what most of them hold, and who is the odd one out. Laws: the order of the sets
// changes nothing but the order of the columns; sets that all agree give no rows; two sets give the rows of `compareSets`.

import { isNoise, type Code, type Dictionary } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { isUnreadable, type Reading } from '../values/index.ts';
import { countsAlike } from './counts-alike.ts';
import { differenceOf, isDifference } from './difference.ts';

/** One parameter over all sets; readings in the order of the sets. */
export interface PeerRow {
  readonly code: Code;
  readonly readings: readonly (Reading | undefined)[];
  /** What more than half of the sets that tell it hold; nothing where no value has more than half. */
  readonly usual: number | undefined;
  /** Share of the sets that hold the same as this one, from 1/n (alone) to 1; in the order of the sets. */
  readonly shares: readonly number[];
  /**
   * Places of the sets that stand out: they differ from the usual value, or, without one, are alone with theirs. Where
   * each has a value of its own, as with network addresses, nobody stands out.
   */
  readonly odd: readonly number[];
}

export interface PeerComparison {
  readonly rows: readonly PeerRow[];
  /** Parameters on which all agree. */
  readonly agreed: number;
  readonly leftOut: number;
}

/**
 * All sets must be of `dictionary` or of one of the other `versions` of its model; the caller sees to it. What a version does
 * not have, or counts otherwise, is left out. Time is linear in sets × parameters.
 */
export function comparePeers(
  dictionary: Dictionary,
  sets: readonly ParameterSet[],
  versions: readonly Dictionary[] = [],
): PeerComparison {
  const rows: PeerRow[] = [];
  let agreed = 0;
  let leftOut = 0;
  for (const parameter of dictionary.parameters) {
    if (isNoise(parameter) || !versions.every((each) => countsAlike(parameter, each))) {
      leftOut += 1;
      continue;
    }
    const readings = sets.map((set) => set.readings.get(parameter.code));
    const [first] = readings;
    const agree = readings.every(
      (reading) => reading === first || !isDifference(differenceOf(parameter, first, reading)),
    );
    if (agree) agreed += 1;
    else rows.push(peerRow(parameter.code, readings));
  }
  return { rows, agreed, leftOut };
}

function peerRow(code: Code, readings: readonly (Reading | undefined)[]): PeerRow {
  const counts = new Map<string, number>();
  const keys = readings.map(keyOf);
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  const told = readings.filter((reading) => typeof reading === 'number');
  const usual = told.find((reading) => (counts.get(keyOf(reading)) ?? 0) * 2 > told.length);
  const shares = keys.map((key) => (counts.get(key) ?? 0) / readings.length);
  const allAlone = counts.size === readings.length;
  const stands = (reading: Reading | undefined, at: number): boolean =>
    usual === undefined ? !allAlone && counts.get(keys[at] ?? '') === 1 : reading !== usual;
  const odd = readings.flatMap((reading, at) => (stands(reading, at) ? [at] : []));
  return { code, readings, usual, shares, odd };
}

/** Missing and unreadable are values of their own: units that miss the same thing agree on missing it. */
const keyOf = (reading: Reading | undefined): string =>
  isUnreadable(reading) ? `? ${reading.unreadable}` : String(reading);
