// What the differences between two sets of one unit do: all of them together, and each of them alone on top of the first set.

import type { DryRunView } from '@drive-keep/api';
import {
  machineOf,
  sameBehaviour,
  sayDifference,
  saySameness,
  type Event,
  type Machine,
  type WalkOptions,
} from '@drive-keep/core/behaviour';
import { findParameter, type Code } from '@drive-keep/core/dictionary';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { sameReading, type Reading } from '@drive-keep/core/values';
import { wiringOf, type DryRunInput } from './dry-runner.ts';

export interface DifferenceInput extends DryRunInput {
  /** The set before; `view` is the one that is compared with it. */
  readonly before: DryRunView;
}

export interface DifferenceLine {
  readonly text: string;
  readonly events: readonly Event[];
}

export interface BehaviourDifference {
  readonly summary: string;
  readonly lines: readonly DifferenceLine[];
  /** One sentence for each parameter that differs. */
  readonly byCode: Readonly<Record<string, string>>;
}

const TOGETHER: WalkOptions = { mostPairs: 200_000, mostDifferences: 6, keys: true };
/** A parameter alone: the first difference is enough. */
const ALONE: WalkOptions = { mostPairs: 30_000, mostDifferences: 1, onlyFirst: true, keys: true };
/** Parameters that are looked at alone; more than these nobody reads. */
const MOST_ALONE = 12;

/** Units of what takes time: the walk knows no times. */
const TIMES = ['s', 's/Hz', 'Hz/s'];
const TIME = 'Takes another time; what its contacts bring about stays the same.';
const NOT_TOLD = 'Nothing in what can be told of its contacts.';
const NOTHING = 'Nothing that its contacts can reach.';
const NOT_FOUND = 'Nothing was found in what its contacts reach first; not all of it was looked at.';

export function behaviourDifference(input: DifferenceInput): BehaviourDifference {
  const { view, before, dictionary, vocabulary } = input;
  const words = new Vocabulary(vocabulary.entries, vocabulary.functions);
  const bridge = new Bridge(words);
  const wiring = wiringOf(view.wiring);
  const outfit = { rating: view.rating, region: view.region };
  const machine = (readings: ReadonlyMap<Code, Reading>): Machine =>
    machineOf(bridge.read(dictionary, outfit, readings), wiring);
  const [first, second] = [before, view].map(readingsOf) as [Readings, Readings];
  const [a, b] = [machine(first), machine(second)];
  const speaker = { machine: b, term: words.termOf };
  const together = sameBehaviour(a, b, TOGETHER);
  const codes = [...new Set([...first.keys(), ...second.keys()])].filter(
    (code) => !sameReading(first.get(code), second.get(code)),
  );
  const isTime = (code: Code): boolean => {
    const meaning = findParameter(dictionary, code)?.meaning;
    return meaning ? TIMES.includes(words.of(meaning)?.unit ?? '') : false;
  };
  const alone = (code: Code): string => {
    const readings = new Map(first);
    const now = second.get(code);
    if (now === undefined) readings.delete(code);
    else readings.set(code, now);
    const { same, untold, unfinished, differences } = sameBehaviour(a, machine(readings), ALONE);
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

type Readings = ReadonlyMap<Code, Reading>;

const readingsOf = ({ readings }: DryRunView): Readings =>
  new Map(readings.map(([code, reading]) => [code as Code, reading]));
