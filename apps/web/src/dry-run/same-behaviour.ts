// Two drives with their wirings, joined by the names of their devices: whether they do the same, and where not, by which way.

import {
  begin,
  codesOfReason,
  mendOf,
  sameBehaviour,
  sayDifference,
  sayEvent,
  sayHeadline,
  sayReason,
  saySameness,
  step,
  type Difference,
  type Event,
  type Machine,
  type Speaker,
  type Stepped,
} from '@drive-keep/core/behaviour';
import { findParameter } from '@drive-keep/core/dictionary';
import { likeness, sayPlain, type Plain } from '@drive-keep/core/meanings';
import { meaningOf, showRaw, type Meaning } from '@drive-keep/core/values';
import type { DryRunView } from '@drive-keep/api';
import { machineIn, type DryRunInput } from './dry-runner.ts';

export interface PairInput {
  readonly a: DryRunInput;
  readonly b: DryRunInput;
}

export interface PairDifference {
  readonly text: string;
  readonly events: readonly Event[];
  /** What was done, and what each of both does then. */
  readonly done: readonly { readonly text: string; readonly a: string; readonly b: string }[];
  readonly reasons: { readonly a: readonly string[]; readonly b: readonly string[] };
  /** Settings of the second that would mend it; none where nothing that both have does. */
  readonly mend: readonly string[];
}

export interface PairAnswer {
  readonly summary: string;
  readonly same: boolean;
  readonly differences: readonly PairDifference[];
  /** Devices that only one of them has. */
  readonly alone: readonly string[];
  /** Times that differ: they are no part of the walk. */
  readonly times: readonly Differing[];
  /** Settings of the loop that differ, where both have one. */
  readonly loop: readonly Differing[];
}

export interface Differing {
  readonly term: string;
  readonly a: string;
  readonly b: string;
}

const MOST_PAIRS = 300_000;
const MOST_DIFFERENCES = 20;
const TIMES = [
  'ramp.up',
  'ramp.down',
  'ramp.up2',
  'ramp.down2',
  'ramp.quick',
  'ramp.jog',
  'restart.wait',
  'raise.rate',
];

/** `onProgress` is told now and then how many pairs of states were looked at. */
export function comparePair(
  { a: left, b: right }: PairInput,
  onProgress?: (pairs: number) => void,
): PairAnswer {
  const [a, b] = [machineIn(left), machineIn(right)];
  const oneModel = a.machine.set.dictionary.model === b.machine.set.dictionary.model;
  const walked = sameBehaviour(a.machine, b.machine, {
    ...{ mostPairs: MOST_PAIRS, mostDifferences: MOST_DIFFERENCES, keys: oneModel },
    ...(onProgress ? { onProgress } : {}),
  });
  const names = ({ machine }: Speaker) =>
    machine.wiring.devices
      .filter(({ kind }) => !['load', 'supply', 'brake'].includes(kind))
      .map(({ name }) => name);
  const only = (own: Speaker, other: Speaker, of: string) =>
    names(own).flatMap((name) => (names(other).includes(name) ? [] : [`${name} of ${of}`]));
  return {
    summary: saySameness(walked),
    same: walked.same,
    alone: [...only(a, b, left.view.tag), ...only(b, a, right.view.tag)],
    differences: walked.differences.map((each) => ({
      text: sayDifference(each, b),
      events: each.events,
      done: doneBy(each.events, a, b),
      reasons: { a: reasonsOf(each.a, a), b: reasonsOf(each.b, b) },
      mend: mendBy(each, a.machine, b.machine, right.view),
    })),
    times: TIMES.flatMap((name) => differing(meaningOf(name), a, b)),
    loop: loopsOf(a, b),
  };
}

/** A setting that both tell and that is not the same. */
function differing(meaning: Meaning, a: Speaker, b: Speaker): readonly Differing[] {
  const [one, other] = [a, b].map(({ machine }) => machine.set.get(meaning)) as [Plain, Plain];
  if (one.kind === 'nothing' || other.kind === 'nothing' || likeness(one, other)?.kind === 'same') return [];
  return [{ term: a.term(meaning), a: sayPlain(one, a.term), b: sayPlain(other, b.term) }];
}

/** Where both have a loop: what of it differs. How it swings, contacts do not tell. */
function loopsOf(a: Speaker, b: Speaker): readonly Differing[] {
  const runs = ({ machine }: Speaker) => (machine.set.choice(meaningOf('loop.mode')) ?? 'off') !== 'off';
  if (!runs(a) || !runs(b)) return [];
  return [...a.machine.set.meanings].flatMap((meaning) =>
    meaning.startsWith('loop.') ? differing(meaning, a, b) : [],
  );
}

function doneBy(events: readonly Event[], a: Speaker, b: Speaker): PairDifference['done'] {
  let [left, right] = [begin(a.machine), begin(b.machine)];
  return events.map((event) => {
    [left, right] = [step(a.machine, left.state, event), step(b.machine, right.state, event)];
    const said = ({ outcome, state }: Stepped) => sayHeadline(outcome, state.fault);
    return { text: sayEvent(event, a), a: said(left), b: said(right) };
  });
}

function mendBy(difference: Difference, a: Machine, b: Machine, { rating, region }: DryRunView) {
  return [...mendOf(difference, a, b, { rating, region })].flatMap(([code, raw]) => {
    const parameter = findParameter(b.set.dictionary, code);
    return parameter ? [`${code} ${parameter.name}: ${showRaw(parameter.form, raw)}`] : [];
  });
}

const reasonsOf = ({ outcome }: Stepped, speaker: Speaker): readonly string[] =>
  outcome.reasons.map((reason) => {
    const codes = codesOfReason(reason);
    return `${sayReason(reason, speaker)}${codes.length === 0 ? '' : ` (${codes.join(', ')})`}`;
  });
