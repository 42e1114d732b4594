// What the differences between two sets of one unit do: all of them together, and each of them alone on top of the first set.

import { findParameter, type Code, type Dictionary, type Outfit } from '../dictionary/index.ts';
import type { Bridge } from '../meanings/index.ts';
import { sameReading, type Reading } from '../values/index.ts';
import type { Wiring } from '../wiring/index.ts';
import { machineOf, type Machine } from './machine.ts';
import { sameBehaviour } from './same-behaviour.ts';
import { sayDifference, saySameness } from './say-difference.ts';
import type { Event } from './state.ts';

type Readings = ReadonlyMap<Code, Reading>;

export interface Changed {
  readonly dictionary: Dictionary;
  readonly outfit: Outfit;
  readonly wiring: Wiring;
  readonly before: Readings;
  readonly after: Readings;
}

/** Pairs of states that are looked at: for all differences together, and for each of them. */
export interface EffectLimits {
  readonly together: number;
  readonly alone: number;
}

export interface Effect {
  readonly text: string;
  readonly events: readonly Event[];
}

export interface Effects {
  readonly summary: string;
  readonly lines: readonly Effect[];
  /** One sentence for each parameter that differs, as far as anybody reads them. */
  readonly byCode: Readonly<Record<string, string>>;
}

const MOST_TOGETHER = 6;
/** Parameters that are looked at alone. */
const MOST_ALONE = 12;

/** Units of what takes time: the walk knows no times. */
const TIMES = ['s', 's/Hz', 'Hz/s'];
const TIME = 'Takes another time; what its contacts bring about stays the same.';
const NOT_TOLD = 'Nothing in what can be told of its contacts.';
const NOTHING = 'Nothing that its contacts can reach.';
const NOT_FOUND = 'Nothing was found in what its contacts reach first; not all of it was looked at.';

export function effectsOf(
  bridge: Bridge,
  { dictionary, outfit, wiring, before, after }: Changed,
  limits: EffectLimits,
): Effects {
  const machine = (readings: Readings): Machine =>
    machineOf(bridge.read(dictionary, outfit, readings), wiring);
  const [a, b] = [machine(before), machine(after)];
  const speaker = { machine: b, term: bridge.vocabulary.termOf };
  const together = sameBehaviour(a, b, {
    ...{ mostPairs: limits.together, mostDifferences: MOST_TOGETHER, keys: true },
  });
  const codes = [...new Set([...before.keys(), ...after.keys()])].filter(
    (code) => !sameReading(before.get(code), after.get(code)),
  );
  const isTime = (code: Code): boolean => {
    const meaning = findParameter(dictionary, code)?.meaning;
    return meaning ? TIMES.includes(bridge.vocabulary.of(meaning)?.unit ?? '') : false;
  };
  const alone = (code: Code): string => {
    const readings = new Map(before);
    const now = after.get(code);
    if (now === undefined) readings.delete(code);
    else readings.set(code, now);
    const { same, untold, unfinished, differences } = sameBehaviour(a, machine(readings), {
      ...{ mostPairs: limits.alone, mostDifferences: 1, onlyFirst: true, keys: true },
    });
    const [difference] = differences;
    if (difference) return `${sayDifference(difference, speaker)}.`;
    if (isTime(code)) return TIME;
    if (same) return NOTHING;
    return untold > 0 && !unfinished ? NOT_TOLD : NOT_FOUND;
  };
  return {
    summary: saySameness(together),
    lines: together.differences.map((each) => ({
      text: `${sayDifference(each, speaker)}.`,
      events: each.events,
    })),
    byCode: Object.fromEntries(codes.slice(0, MOST_ALONE).map((code) => [code, alone(code)])),
  };
}
