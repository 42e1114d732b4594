import { describe, expect, it } from '@jest/globals';
import {
  BEHAVIOUR_RULES,
  type Behaviour,
  type BehaviourFact,
  type Dictionary,
  type RuleName,
} from '../dictionary/index.ts';
import { benchMachine, inShort, modelNamed, outcomeOf, plainMachine } from '../testing/bench-drive.ts';
import { SCENARIOS } from '../testing/behaviour-scenarios.ts';
import { RULE_SCENARIOS } from '../testing/rule-scenarios.ts';
import type { Machine } from './index.ts';

type Trial = readonly [
  what: string,
  dictionary: (model: Dictionary) => Machine,
  events: string,
  short: string,
];

/** Everything that is tried of a model. */
function trialsOf(id: string): readonly Trial[] {
  const byText = SCENARIOS.filter(([, model]) => model === id).map(
    ([what, , values, events, short, bench = {}]): Trial => [
      what,
      (model) => benchMachine(id, values, bench, model),
      events,
      short,
    ],
  );
  const byRule = RULE_SCENARIOS.flatMap(({ what, wanted, events, short, signals = {} }): readonly Trial[] => {
    const expected = short[id];
    if (expected === undefined) return [];
    return [[what, (model) => plainMachine(model, wanted, { signals }), events, expected]];
  });
  return [...byText, ...byRule];
}

const IDS = [...new Set(SCENARIOS.map(([, model]) => model))];

/** Words that come to the same on a model, as what would tell them apart is not there. */
const ALIKE: Readonly<Record<string, readonly RuleName[]>> = {
  // Its curve never goes below zero; the loss of its signal is a fault, which holds in any case.
  'halvern-hn20@1': ['setpoint.negative', 'loss.return'],
  'toreka-c1@1': ['setpoint.negative'],
  // No input of it has a function for counting.
  'toreka-c7@1': ['count.feeds'],
  // No jog, no reverse contact, and a stop key that acts on its own commands alone.
  'toreka-f3@1': ['minimum.lifts', 'reverse.forbidden', 'restart.stop-key'],
  // No count of restarts; whether it moves while it is enabled, the network decides.
  'quenby-s4@1': ['jog.while-running', 'restart.auto'],
};

describe.each(IDS)('a %s on the bench', (id) => {
  const model = modelNamed(id);
  const trials = trialsOf(id);

  it.each(trials)('%s', (_, machine, events, short) => {
    const outcome = outcomeOf(machine(model), events);
    expect([inShort(outcome), outcome.kind === 'untold' ? [] : outcome.missing]).toEqual([short, []]);
  });

  it('is held fact by fact: each that is turned round, or left out, is noticed', () => {
    const unnoticed = (Object.keys(model.behaviour) as RuleName[]).filter((rule) => {
      const fact = model.behaviour[rule] as BehaviourFact;
      return !turned(rule, fact).some((other) => {
        const behaviour: Behaviour = { ...model.behaviour, [rule]: other };
        return trials.some(
          ([, machine, events, short]) =>
            inShort(outcomeOf(machine({ ...model, behaviour }), events)) !== short,
        );
      });
    });
    expect(unnoticed).toEqual(ALIKE[id] ?? []);
  });
});

/** Facts that say the other thing: another word, the list turned round or emptied; nothing where there is no other word. */
function turned(rule: RuleName, fact: BehaviourFact): readonly (BehaviourFact | undefined)[] {
  const { words, list } = BEHAVIOUR_RULES[rule] as { words: readonly string[]; list?: true };
  if (list) {
    const said = fact.kind === 'words' ? fact.words : [];
    return [
      { kind: 'words', words: [] },
      { kind: 'words', words: [...said].reverse() },
    ];
  }
  const said = fact.kind === 'words' ? fact.words[0] : undefined;
  const others = words.filter((word) => word !== said);
  return others.length === 0 ? [undefined] : others.map((word) => ({ kind: 'words', words: [word] }));
}
