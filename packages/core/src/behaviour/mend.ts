// What would mend a difference: the fewest settings of the other drive that, put as the first has them, make both do the
// same along the way that showed it. Found by doing it, on a copy of the settings.

import type { Code, Outfit } from '../dictionary/index.ts';
import { likeness, writePlain, type Plain } from '../meanings/index.ts';
import { isRaw, type Meaning } from '../values/index.ts';
import { machineOf, type Machine } from './machine.ts';
import { isMended, type Difference } from './same-behaviour.ts';

/** Settings of the other drive, as raw values. Empty where none that both have mends it. */
export type Mend = ReadonlyMap<Code, number>;

type Wanted = readonly (readonly [Meaning, Plain])[];

/**
 * `outfit` is the other drive's; nothing is found for one that its model does not know. Only what the walk has asked of
 * either is tried: nothing else can decide.
 */
export function mendOf(difference: Difference, a: Machine, b: Machine, outfit: Outfit): Mend {
  const { bridge, dictionary, rating, readings } = b.set;
  if (!rating) return new Map();
  const base = new Map([...readings].flatMap(([code, reading]) => (isRaw(reading) ? [[code, reading]] : [])));
  const changed = (wanted: Wanted): Mend => {
    const written = writePlain(bridge, dictionary, outfit, new Map(wanted), base).readings;
    return new Map([...written].filter(([code, raw]) => base.get(code) !== raw));
  };
  const mends = (wanted: Wanted): boolean => {
    const set = bridge.read(dictionary, outfit, new Map([...readings, ...changed(wanted)]));
    return isMended(difference, a, b, machineOf(set, b.wiring));
  };
  const all = [...new Set([...a.set.asked, ...b.set.asked])].flatMap((meaning): Wanted => {
    const [wanted, now] = [a.set.get(meaning), b.set.get(meaning)];
    const same = wanted.kind === 'nothing' || likeness(wanted, now)?.kind === 'same';
    return same || !b.set.carrierOf(meaning) ? [] : [[meaning, wanted]];
  });
  if (mends(all)) return changed(fewest(all, mends));
  // Together they may get in each other's way, where another model says several things with one parameter.
  const alone = [...speedOf(difference, b), ...all].find((each) => mends([each]));
  return alone ? changed([alone]) : new Map();
}

/** The speed of the first in the settings that the other takes its own from: presets of two models are not one meaning. */
function speedOf({ aspect, a, b }: Difference, { set }: Machine): Wanted {
  const hertz = a.outcome.setPoint?.hertz;
  if (aspect !== 'speed' || typeof hertz !== 'number') return [];
  const codes = b.outcome.setPoint?.codes ?? [];
  return [...set.meanings].flatMap((meaning): Wanted => {
    const now = set.get(meaning);
    const fits = now.kind === 'number' && now.unit === 'Hz' && now.codes.some((code) => codes.includes(code));
    return fits ? [[meaning, { ...now, value: hertz }]] : [];
  });
}

/** What is left when nothing more can be taken away: by halves first, one by one at the end. */
function fewest(all: Wanted, mends: (wanted: Wanted) => boolean): Wanted {
  let left = all;
  for (let size = Math.ceil(all.length / 2); size >= 1; size = size === 1 ? 0 : Math.ceil(size / 2))
    for (let at = 0; at < left.length;) {
      const without = [...left.slice(0, at), ...left.slice(at + size)];
      if (mends(without)) left = without;
      else at += size;
    }
  return left;
}
