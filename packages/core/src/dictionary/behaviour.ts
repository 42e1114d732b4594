// How a drive of a model behaves with its contacts, keys, signals and supply: the maker's rules as facts. Each rule is named
// and answered with one of a few words, with a list of them, or with what a setting says. A rule that a model does not state
// is not stated: whoever computes with it says so, and guesses nothing.

import { meaningOf, type Meaning } from '../values/index.ts';
import type { FactReader } from './fact-reader.ts';

/** What a fault is, as far as its return is concerned. */
export const FAULT_CLASSES = [
  'overcurrent',
  'overvoltage',
  'undervoltage',
  'motorOverload',
  'unitHot',
  'earth',
] as const;
export type FaultClass = (typeof FAULT_CLASSES)[number];

const SOURCES = ['analog', 'network', 'keypad', 'presets', 'jog', 'raise-lower', 'loop', 'program'] as const;
const ASKING = [
  'sto',
  'fire',
  'fault',
  'coast',
  'quick-stop',
  'limit',
  'permit',
  'stop',
  'enable',
  'jog',
  'run',
] as const;
const AFTER = ['start', 'wait'] as const;

interface RuleWords {
  readonly words: readonly string[];
  /** A list of them, in order; else one. */
  readonly list?: true;
}

/** Every rule with the words that answer it. What each means is in docs/formats/model.schema.json. */
export const BEHAVIOUR_RULES = {
  'preset.select': { words: ['bits', 'each', 'none'] },
  'preset.acts': { words: ['any-on', 'source-only'] },
  'preset.none': { words: ['preset-1', 'minimum', 'source'] },
  'minimum.lifts': { words: ['all', 'not-jog'] },
  'setpoint.zero': { words: ['runs', 'stands'] },
  'setpoint.negative': { words: ['zero', 'reverses'] },
  'skip.holds': { words: ['lower', 'nearest'] },
  'analog.beyond': { words: ['saturate', 'extrapolate'] },
  'factor.on': { words: SOURCES, list: true },
  'trim.on': { words: SOURCES, list: true },
  'run.both': { words: ['stop', 'first', 'forward'] },
  'three-wire.direction': { words: ['acts', 'ignored'] },
  'stop.input': { words: ['needs-on', 'acts-on'] },
  'reverse.forbidden': { words: ['ignore', 'stand'] },
  'jog.starts': { words: ['itself', 'with-run', 'itself-enabled'] },
  'jog.while-running': { words: ['takes', 'ignore'] },
  'source.dead': { words: ['run', 'stop', 'direction', 'jog', 'enable'], list: true },
  'function.twice': { words: ['either', 'both'] },
  'restart.power': { words: AFTER },
  'restart.fault-reset': { words: AFTER },
  'restart.sto': { words: AFTER },
  'restart.coast': { words: AFTER },
  'restart.quick-stop': { words: AFTER },
  'restart.stop-key': { words: AFTER },
  'restart.auto': { words: ['standing', 'none'] },
  'restart.on': { words: [...FAULT_CLASSES, 'chosen'], list: true },
  priority: { words: ASKING, list: true },
  'stop-key': { words: ['always', 'own'] },
  'power.hand': { words: ['hand', 'automatic', 'as-before'] },
  'hand.source': { words: ['keypad', 'second'] },
  'place.change': { words: ['takes-new', 'stops'] },
  'fault.reset': { words: ['edge', 'level'] },
  'fault.power-cycle': { words: ['clears', 'keeps'] },
  'external.stop': { words: ['coast', 'quick-stop', 'ramp'] },
  'sto.seen': { words: ['stop', 'warn', 'fault'] },
  'loss.below': { words: ['2-ma', '3-ma', 'half-of-low-end', '1-v-or-2-ma'] },
  'loss.return': { words: ['latched', 'itself'] },
  'raise.keep-stop': { words: ['yes', 'no'] },
  'raise.keep-supply': { words: ['yes', 'no'] },
  'raise.both': { words: ['hold'] },
  'raise.acts': { words: ['running', 'always'] },
  'loop.engages': { words: ['mode', 'mode-and-source'] },
  'loop.yields-to': { words: ['jog', 'presets', 'fire'], list: true },
  'loop.off-source': { words: ['first', 'second'] },
  'permit.drop': { words: ['stops-and-restarts'] },
  fire: { words: ['over-all-but-sto'] },
  'program.owned': { words: ['alone'] },
  'count.feeds': { words: ['analog-2'] },
  'sensor.takes': { words: ['input-4'] },
  'limit-switch': { words: ['own-direction', 'both-directions'] },
} as const satisfies Readonly<Record<string, RuleWords>>;

export type RuleName = keyof typeof BEHAVIOUR_RULES;
/** The words that answer a rule. */
export type Answer<R extends RuleName> = (typeof BEHAVIOUR_RULES)[R]['words'][number];

export type BehaviourFact =
  | { readonly kind: 'words'; readonly words: readonly string[] }
  /** What a setting says: an option of that meaning, as it is or by the cases. */
  | { readonly kind: 'by'; readonly meaning: Meaning; readonly cases: Readonly<Record<string, string>> };

export type Behaviour = Readonly<Partial<Record<RuleName, BehaviourFact>>>;

/** `at` is the group `behaviour` of model.yaml. */
export function readBehaviour(at: FactReader): Behaviour {
  const behaviour: Partial<Record<RuleName, BehaviourFact>> = {};
  for (const key of at.keys()) {
    if (!Object.hasOwn(BEHAVIOUR_RULES, key)) at.missing(key, 'the name of a rule of behaviour');
    else behaviour[key as RuleName] = readFact(at, key, BEHAVIOUR_RULES[key as RuleName]);
  }
  return behaviour;
}

function readFact(at: FactReader, key: string, { words, list }: RuleWords): BehaviourFact {
  if (at.isGroup(key)) return readBy(at.in(key), words);
  if (!list) return { kind: 'words', words: [at.oneOf(key, words)] };
  const said = at.texts(key);
  for (const word of said)
    if (!words.includes(word)) at.missing(key, `words among ${words.join(', ')}, not ${word}`);
  return { kind: 'words', words: said };
}

/** `{ by: command.stopKey }`, or with other words for its options: `{ by: stop.faultMode, quick-ramp: quick-stop }`. */
function readBy(at: FactReader, words: readonly string[]): BehaviourFact {
  const cases = at.keys().filter((each) => each !== 'by');
  return {
    kind: 'by',
    meaning: meaningOf(at.text('by')),
    cases: Object.fromEntries(cases.map((each) => [each, at.oneOf(each, words)])),
  };
}
