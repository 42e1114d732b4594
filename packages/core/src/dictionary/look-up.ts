// Looking a parameter up over all models at once, as somebody types: by code, name, other names, the trade's words for its
// meaning, option texts and the words of the description, small mistakes forgiven. An exact code comes first.

import type { OptionMeaning, Meaning } from '../values/index.ts';
import type { Dictionary } from './dictionary.ts';
import type { Parameter } from './parameter.ts';
import { WordIndex } from './word-index.ts';

export interface LookUpHit {
  readonly dictionary: Dictionary;
  readonly parameter: Parameter;
}

/** What a word counts in each place: names most, a word of a description only just. */
const WEIGHT = { code: 8, name: 6, otherNames: 5, trade: 5, meaning: 3, options: 2, description: 1 } as const;

/** Added where the whole of what was typed is the name, begins it or stands in it. */
const WHOLE_NAME = 20;
const BEGINS_NAME = 8;
const IN_NAME = 4;
/** The same for another name, or a word of the trade for what it does: the maker's own name goes before them. */
const WHOLE_OTHER = 14;
const BEGINS_OTHER = 5;
/** The same for what one of its options is. */
const WHOLE_CARRIED = 3;
/** Of two that fit alike the shorter name is the more general one. */
const PER_LETTER = 0.01;
/** So many of the best by words are looked at more closely. */
const CLOSER = 400;

/** `motor.ratedCurrent` is found by motor, rated and current; codes such as `4/12` and units such as kWh stay whole. */
export const wordsOf = (text: string): string[] =>
  text
    .replace(/([a-z]{2})([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[\s,;()"“”„]+|(?<=[a-zäöü])[./-](?=[a-zäöü])|[.!?:](?=\s|$)/)
    .filter((word) => word !== '');

/** Words of the trade for a meaning, and for what an option is; none for one that nobody knows. */
export interface TradeWords {
  readonly wordsFor: (meaning: Meaning) => readonly string[];
  readonly wordsForOption: (option: string) => readonly string[];
}

const NO_WORDS: TradeWords = { wordsFor: () => [], wordsForOption: () => [] };

/** Finds parameters of many models by any word. Making it takes a few ms per thousand parameters; asking is done at each key. */
export class LookUp {
  private readonly index = new WordIndex();
  private readonly hits: LookUpHit[] = [];
  /** Other names and words of the trade, in small letters, of each hit. */
  private readonly others: (readonly string[])[] = [];
  /** The same for what its options and bits are. */
  private readonly carried: (readonly string[])[] = [];
  private readonly words: TradeWords;
  private readonly byCode = new Map<string, LookUpHit[]>();
  private readonly byMeaning = new Map<string, LookUpHit[]>();

  /** `words` are what the trade calls meanings and options (core/meanings). */
  constructor(dictionaries: readonly Dictionary[], words: TradeWords = NO_WORDS) {
    this.words = words;
    for (const dictionary of dictionaries)
      for (const parameter of dictionary.parameters) this.take({ dictionary, parameter });
  }

  /** The best `most` hits: exact codes first, whatever the model, then by how well they fit. */
  find(text: string, most: number): readonly LookUpHit[] {
    const wanted = text.trim().toLowerCase();
    const terms = wordsOf(text.trim());
    if (terms.length === 0) return [];
    const exact = this.byCode.get(wanted) ?? [];
    const known = new Set(exact);
    const others = this.ranked(wanted, this.index.score(terms)).filter((hit) => !known.has(hit));
    return [...exact, ...others].slice(0, most);
  }

  /** The parameters of all models that do the same. */
  withMeaning(meaning: Meaning): readonly LookUpHit[] {
    return this.byMeaning.get(meaning) ?? [];
  }

  private ranked(wanted: string, scores: Float32Array): readonly LookUpHit[] {
    return best(scores, CLOSER)
      .flatMap((at) => {
        const hit = this.hits[at];
        return hit ? [{ hit, at, score: (scores[at] ?? 0) + this.bonus(wanted, at) }] : [];
      })
      .sort((a, b) => b.score - a.score || a.at - b.at)
      .map(({ hit }) => hit);
  }

  private bonus(wanted: string, at: number): number {
    const hit = this.hits[at];
    if (!hit) return 0;
    const others = this.others[at] ?? [];
    const other = others.includes(wanted)
      ? WHOLE_OTHER
      : others.some((each) => each.startsWith(wanted))
        ? BEGINS_OTHER
        : 0;
    const carried = this.carried[at]?.includes(wanted) ? WHOLE_CARRIED : 0;
    const shorter = hit.parameter.name.length * PER_LETTER;
    return Math.max(nameBonus(wanted, hit.parameter), other - shorter, carried - shorter);
  }

  private take(hit: LookUpHit): void {
    const { parameter } = hit;
    append(this.byCode, parameter.code.toLowerCase(), hit);
    if (parameter.meaning) append(this.byMeaning, parameter.meaning, hit);
    const trade = parameter.meaning ? this.words.wordsFor(parameter.meaning) : [];
    const carried = carriedWords(parameter, this.words);
    this.index.add(weightedWords(parameter, trade, carried));
    this.hits.push(hit);
    this.carried.push(carried.map((each) => each.toLowerCase()));
    this.others.push([...parameter.otherNames, ...trade].map((each) => each.toLowerCase()));
  }
}

/** What the trade calls the options and bits of a parameter. */
function carriedWords({ form }: Parameter, words: TradeWords): readonly string[] {
  if (form.kind === 'number') return [];
  const choices: readonly OptionMeaning[] = form.kind === 'option' ? form.options : form.bits;
  const all = choices.flatMap(({ meaning, instead, says = [] }) => [
    ...(meaning === undefined ? [] : words.wordsForOption(meaning)),
    ...(instead ? words.wordsForOption(instead.meaning) : []),
    ...says.flatMap((saying) => words.wordsFor(saying.meaning)),
  ]);
  return [...new Set(all)];
}

function* weightedWords(
  parameter: Parameter,
  trade: readonly string[],
  carried: readonly string[],
): Generator<readonly [string, number]> {
  const { form } = parameter;
  const choices = form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
  const texts = {
    name: parameter.name,
    otherNames: parameter.otherNames.join(' '),
    trade: trade.join(' '),
    meaning: parameter.meaning ?? '',
    options: [...choices.map(({ text }) => text), ...carried].join(' '),
    description: parameter.description,
  };
  yield [parameter.code.toLowerCase(), WEIGHT.code];
  for (const place of Object.keys(texts) as (keyof typeof texts)[])
    for (const word of wordsOf(texts[place])) yield [word, WEIGHT[place]];
}

function nameBonus(wanted: string, { name }: Parameter): number {
  const known = name.toLowerCase();
  const fits =
    known === wanted
      ? WHOLE_NAME
      : known.startsWith(wanted)
        ? BEGINS_NAME
        : known.includes(wanted)
          ? IN_NAME
          : 0;
  return fits - known.length * PER_LETTER;
}

/** The places of the highest scores above 0, in no particular order among themselves. */
function best(scores: Float32Array, most: number): number[] {
  const places: number[] = [];
  for (let at = 0; at < scores.length; at += 1) if ((scores[at] ?? 0) > 0) places.push(at);
  if (places.length <= most) return places;
  const sorted = Float32Array.from(places, (at) => scores[at] ?? 0).sort();
  const minimum = sorted[sorted.length - most] ?? 0;
  return places.filter((at) => (scores[at] ?? 0) >= minimum).slice(0, most * 4);
}

function append(map: Map<string, LookUpHit[]>, key: string, hit: LookUpHit): void {
  const list = map.get(key);
  if (list) list.push(hit);
  else map.set(key, [hit]);
}
