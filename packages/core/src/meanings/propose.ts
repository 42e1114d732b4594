// What parameters of a model without meanings may mean, by their words: the words of the trade for each meaning, and what
// other models call it, weighed by how rare they are; the unit, the kind and the access must fit. A proposal is never taken
// over by itself: somebody confirms it.

import { sameQuantity, type Option } from '../values/index.ts';
import type { Code, Dictionary, Parameter } from '../dictionary/index.ts';
import type { MeaningEntry, Vocabulary } from './vocabulary.ts';

export interface MeaningProposal {
  readonly code: Code;
  readonly meaning: string;
  /** 0 to 1: how much of the words is met, and how far the next best is behind. */
  readonly confidence: number;
  /** What its options may be, by their texts; of those that are understood. */
  readonly options: readonly { readonly raw: number; readonly text: string; readonly meaning: string }[];
}

/** From here on a proposal is shown as one; below it nobody would be helped. */
export const DEFAULT_THRESHOLD = 0.55;

type Words = ReadonlyMap<string, number>;

const WEIGHT = { menu: 1.5, description: 1, options: 0.8, name: 2 } as const;
/** What the name counts beside everything else that is said of a parameter. */
const NAME_SHARE = 0.6;
/** Of two meanings for the same purpose that only a manual can tell apart, none is sure. */
const SURE_OF_SIBLINGS = 0.4;
/** A lead of so much over the next best is a clear one. */
const CLEAR_LEAD = 0.25;
/** So many of the best are tried for a parameter where others have taken the first. */
const TRIED = 4;

const STOP = new Set(
  (
    'the a an of in on at is and or for by with it as that this be not while when what are its than then no ' +
    'only does there which into'
  ).split(' '),
);

const stem = (word: string): string => (word.length > 4 ? word.replace(/(?:ies|es|s|ing|ed)$/, '') : word);

function wordsOf(text: string): readonly string[] {
  return (text.toLowerCase().match(/[\p{L}µΩ]+|\d+(?:-\d+)?/gu) ?? [])
    .filter((word) => !STOP.has(word) && !/^\d+$/.test(word))
    .map(stem);
}

function add(words: Map<string, number>, text: string, weight: number): Map<string, number> {
  for (const word of wordsOf(text)) words.set(word, Math.max(words.get(word) ?? 0, weight));
  return words;
}

const phrase = (text: string): Words => add(new Map(), text, 1);
const namesOf = ({ name, otherNames }: Parameter): readonly Words[] => [name, ...otherNames].map(phrase);

/** Everything that is said of a parameter. */
function contextOf({ name, otherNames, menu, description, form }: Parameter): Words {
  const words = new Map<string, number>();
  const choices = form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
  add(words, choices.map(({ text }) => text).join(' '), WEIGHT.options);
  add(words, description, WEIGHT.description);
  add(words, menu.join(' '), WEIGHT.menu);
  return add(words, [name, ...otherNames].join(' '), WEIGHT.name);
}

interface Candidate {
  readonly entry: MeaningEntry;
  /** Each name and word of the trade by itself. */
  readonly names: readonly Words[];
  readonly contexts: readonly Words[];
  readonly kinds: ReadonlySet<string>;
  readonly units: ReadonlySet<string>;
  readonly read: ReadonlySet<boolean>;
  /** Texts of options in other models, in plain letters, with what they are. */
  readonly optionTexts: ReadonlyMap<string, string>;
  /** Another meaning is for the same purpose, and values do not tell them apart. */
  readonly hasSiblings: boolean;
}

/** Knows what meanings are called; made once for many models. */
export class MeaningProposer {
  private readonly candidates: readonly Candidate[];
  private readonly rarity = new Map<string, number>();
  private readonly vocabulary: Vocabulary;

  /** `examples` are models whose meanings are known. */
  constructor(vocabulary: Vocabulary, examples: readonly Dictionary[]) {
    this.vocabulary = vocabulary;
    const known = new Map<string, Parameter[]>();
    for (const parameter of examples.flatMap(({ parameters }) => parameters)) {
      const entry = parameter.meaning === null ? undefined : vocabulary.of(parameter.meaning);
      if (entry) known.set(entry.id, [...(known.get(entry.id) ?? []), parameter]);
    }
    const besides = new Set(
      vocabulary.entries.flatMap(({ id, beside = [] }) =>
        beside.length === 0 ? [] : [id, ...beside.map(({ meaning }) => meaning)],
      ),
    );
    this.candidates = vocabulary.entries.map((entry) =>
      candidateOf(entry, known.get(entry.id) ?? [], besides.has(entry.id)),
    );
    for (const { names, contexts } of this.candidates)
      for (const word of new Set([...names, ...contexts].flatMap((words) => [...words.keys()])))
        this.rarity.set(word, (this.rarity.get(word) ?? 0) + 1);
    for (const [word, count] of this.rarity)
      this.rarity.set(word, Math.log(1 + this.candidates.length / count));
  }

  /** For the parameters without a meaning, each meaning once, the surest first. */
  propose(dictionary: Dictionary, threshold = DEFAULT_THRESHOLD): readonly MeaningProposal[] {
    const taken = new Set<string>(dictionary.parameters.flatMap(({ meaning }) => meaning ?? []));
    const done = new Set<Code>();
    const found: MeaningProposal[] = [];
    for (const { parameter, candidate, score, next } of this.ranked(dictionary)) {
      const meaning = numbered(candidate.entry.id, parameter, taken);
      if (done.has(parameter.code) || taken.has(meaning)) continue;
      done.add(parameter.code);
      taken.add(meaning);
      const lead = Math.min(1, (score - next) / (CLEAR_LEAD * score));
      const sure = score * (0.6 + 0.4 * lead);
      const confidence = candidate.hasSiblings ? Math.min(sure, SURE_OF_SIBLINGS) : sure;
      if (confidence < threshold) continue;
      const options = this.optionsOf(parameter, candidate);
      found.push({ code: parameter.code, meaning, confidence, options });
    }
    return found;
  }

  /** What other models, or the vocabulary, call by the same text. */
  private optionsOf({ form }: Parameter, { entry, optionTexts }: Candidate): MeaningProposal['options'] {
    if (form.kind !== 'option' || entry.kind === 'quantity') return [];
    return form.options.flatMap(({ raw, text, meaning }) => {
      const own = sameText(text);
      const known =
        optionTexts.get(own) ??
        entry.options?.find((option) => sameText(option) === own) ??
        this.vocabulary.functions.find(
          ({ id, term, also }) =>
            entry.options?.includes(id) && [term, ...also].some((each) => sameText(each) === own),
        )?.id;
      return meaning === undefined && known !== undefined ? [{ raw, text, meaning: known }] : [];
    });
  }

  /** All parameters with their best candidates, the best of all first. */
  private ranked(dictionary: Dictionary) {
    const bits = presetsByBits(dictionary);
    return dictionary.parameters
      .filter(({ meaning }) => meaning === null)
      .flatMap((parameter) => {
        const best = this.rank(parameter, bits);
        return best
          .slice(0, TRIED)
          .map((each, at) => ({ parameter, ...each, next: best[at + 1]?.score ?? 0 }));
      })
      .sort((a, b) => b.score - a.score);
  }

  private rank(parameter: Parameter, bits: boolean) {
    const [names, context] = [namesOf(parameter), contextOf(parameter)];
    return this.candidates
      .filter((candidate) => fits(candidate, parameter) && !(candidate.entry.id === otherPresets(bits)))
      .map((candidate) => ({ candidate, score: this.score(candidate, names, context) }))
      .filter(({ score }) => score > 0)
      .sort((a, b) => b.score - a.score);
  }

  private score(candidate: Candidate, names: readonly Words[], context: Words): number {
    const own = names.map((name) => Math.max(...candidate.names.map((each) => this.likeness(name, each))));
    const around = Math.max(...candidate.contexts.map((each) => this.likeness(context, each)));
    return NAME_SHARE * Math.max(...own) + (1 - NAME_SHARE) * around;
  }

  /** Cosine of the weighed words. */
  private likeness(a: Words, b: Words): number {
    let [common, sizeA, sizeB] = [0, 0, 0];
    const weigh = (word: string, weight: number) => weight * (this.rarity.get(word) ?? 1);
    for (const [word, weight] of a) {
      const own = weigh(word, weight);
      sizeA += own * own;
      const other = b.get(word);
      if (other !== undefined) common += own * weigh(word, other);
    }
    for (const [word, weight] of b) sizeB += weigh(word, weight) ** 2;
    return common / (Math.sqrt(sizeA * sizeB) || 1);
  }
}

function candidateOf(entry: MeaningEntry, examples: readonly Parameter[], hasSiblings: boolean): Candidate {
  const told = add(new Map(), [entry.is, ...entry.also].join(' '), WEIGHT.description);
  return {
    entry,
    names: [entry.term, ...entry.also].map(phrase).concat(examples.flatMap(namesOf)),
    contexts: [add(told, entry.term, WEIGHT.name), ...examples.map(contextOf)],
    kinds: new Set(examples.map(({ form }) => form.kind)),
    units: new Set(examples.flatMap(({ form }) => (form.kind === 'number' ? [form.unit] : []))),
    read: new Set(examples.map(({ access }) => access === 'read')),
    optionTexts: agreed(examples.flatMap(optionTextsOf)),
    hasSiblings,
  };
}

const sameText = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Texts that mean the same wherever they stand. */
function agreed(told: readonly (readonly [string, string])[]): ReadonlyMap<string, string> {
  const texts = new Map(told);
  for (const [text, meaning] of told) if (texts.get(text) !== meaning) texts.delete(text);
  return texts;
}

/** Only options that are the same whatever else is set. */
const optionTextsOf = ({ form }: Parameter): readonly (readonly [string, string])[] =>
  form.kind !== 'option'
    ? []
    : form.options.flatMap(({ text, meaning, instead }) =>
        meaning === undefined || instead ? [] : [[sameText(text), meaning] as const],
      );

/** Whether inputs choose presets by bits, or each by a contact of its own. */
const presetsByBits = ({ parameters }: Dictionary): boolean =>
  parameters.some(
    ({ form }) => form.kind === 'option' && form.options.some(({ text }) => /preset bit/i.test(text)),
  );
const otherPresets = (bits: boolean): string => (bits ? 'preset.contact.*' : 'preset.*');

/** More of one kind no model has. */
const MOST_NUMBERED = 20;
const SHARES = ['%', '‰', '%/s'];

/** Off, on, and a second way of on. */
const MOST_OF_SWITCH = 3;
const VALUE = /^(\d+(?:\.\d+)?)\s*(\S*)$/;
/** Options that are values of a quantity: 9600, 4 kHz. */
const byValue = (options: readonly Option[]): boolean => options.every(({ text }) => VALUE.test(text));
const valuesFit = ({ unit = '' }: MeaningEntry, options: readonly Option[]): boolean =>
  options.every(({ text }) => {
    const own = VALUE.exec(text)?.[2] ?? '';
    return own === '' ? unit === 'Bd' : sameQuantity(own, unit);
  });

/** Whether unit, kind and access of a parameter can be those of a meaning. */
function fits({ entry, kinds, units, read }: Candidate, { form, access }: Parameter): boolean {
  const monitor = /^(monitor|counter)\.|^axis\.status/.test(entry.id);
  if (monitor !== (access === 'read') && !(read.has(access === 'read') && read.size > 0)) return false;
  if (form.kind === 'bits') return entry.kind === 'word' || kinds.has('bits');
  if (form.kind === 'option') {
    if (byValue(form.options))
      return entry.kind === 'quantity' && (kinds.has('option') || valuesFit(entry, form.options));
    if (entry.kind === 'switch' && form.options.length > MOST_OF_SWITCH) return false;
    return kinds.has('option') || ['choice', 'switch', 'word', 'trigger'].includes(entry.kind);
  }
  if (kinds.size > 0 && !kinds.has('number')) return false;
  if (!['quantity', 'part', 'way', 'trigger', 'text'].includes(entry.kind)) return false;
  const wanted = new Set([...units, ...(entry.unit === undefined ? [] : [entry.unit])]);
  if (wanted.size === 0) return true;
  return [...wanted].some(
    (unit) =>
      sameQuantity(unit, form.unit) ||
      (unit === 's/Hz' && sameQuantity(form.unit, 's')) ||
      (unit === 'Hz/%' && form.unit === '') ||
      (['Hz', 'A', 'Hz/s', '%'].includes(unit) && SHARES.includes(form.unit)) ||
      (unit === 'Hz' && form.unit === 'rpm') ||
      (unit === 'Hz/s' && form.unit === 'rpm/s'),
  );
}

/** A meaning of a numbered thing takes the number of the name, or the next that is free. */
function numbered(id: string, { name }: Parameter, taken: ReadonlySet<string>): string {
  if (!id.includes('*')) return id;
  const own = /\d+/.exec(name)?.[0];
  if (own !== undefined) return id.replace('*', own);
  for (let number = 1; number < MOST_NUMBERED; number += 1)
    if (!taken.has(id.replace('*', String(number)))) return id.replace('*', String(number));
  return id.replace('*', '1');
}
