// The vocabulary of meanings (packages/catalogue/meanings.yaml): the standard term of each, the words that people use for it,
// what it is, and which other meanings say the same in another way. A user's model may have meanings that it does not know.

import { meaningOf, type Meaning } from '../values/index.ts';
import { parseDocument } from 'yaml';

export const MEANING_KINDS = [
  'quantity',
  'choice',
  'switch',
  'curve',
  'part',
  'way',
  'word',
  'trigger',
  'text',
] as const;
/**
 * A part says something only together with others, a way says another meaning, a word only holds its bits, a trigger is a
 * command and no setting.
 */
export type MeaningKind = (typeof MEANING_KINDS)[number];

export const CONVERSION_NAMES = [
  'as-it-is',
  'pairs',
  'lower-of-torque',
  'middle-and-width',
  'edges',
  'end-points',
  'gain-and-bias',
  'two-points',
  'full-scale',
  'output-gain',
  'output-share',
  'band',
  'integral-gain',
  'derivative-gain',
  'loop-unit',
] as const;
export type ConversionName = (typeof CONVERSION_NAMES)[number];

export interface MeaningEntry {
  /** As models state it, with `*` for a number. */
  readonly id: Meaning;
  readonly term: string;
  readonly also: readonly string[];
  readonly is: string;
  readonly kind: MeaningKind;
  /** Unit of the plain value of a quantity; empty for a plain number. */
  readonly unit?: string;
  /** What the plain value counts to where it is a share. */
  readonly of?: string;
  readonly options?: readonly string[];
  /** How a parameter that states it itself says it, where that is not as it stands. */
  readonly own?: ConversionName;
  /** Meanings that say this one in another way. */
  readonly ways?: Readonly<Record<Meaning, ConversionName>>;
  readonly derived?: 'poles-from-plate';
  /** Names of earlier files for the same. */
  readonly older?: readonly Meaning[];
  /** Others that are for the same and cannot be told from each other's values. */
  readonly beside?: readonly Beside[];
  readonly belongs: 'plate' | 'measured' | 'site' | 'wiring' | 'duty' | 'unit';
  /** A change of it can move the machine. */
  readonly moves?: boolean;
  /** A change of it needs a stop. */
  readonly stop?: boolean;
}

/** What an input, an output or a source may be chosen for. */
export interface FunctionEntry {
  readonly id: string;
  readonly term: string;
  readonly also: readonly string[];
}

export interface Beside {
  readonly meaning: Meaning;
  readonly why: string;
}

/** A meaning that a stated one says, with its own number. */
export interface CanonicalMeaning {
  readonly meaning: Meaning;
  readonly conversion: ConversionName;
}

const WITHOUT_VALUE: readonly MeaningKind[] = ['part', 'word', 'way', 'trigger'];
/** More than any plant's models have; what is typed by hand cannot fill the memory. */
const MOST_FOUND = 5000;
const NUMBER = /(?<=\.)\d+(?=\.|$)/;

export class Vocabulary {
  private readonly plain = new Map<string, MeaningEntry>();
  /** Those with a number, by their id with the number taken out. */
  private readonly numbered = new Map<string, MeaningEntry>();
  private readonly today = new Map<string, Meaning>();
  private readonly saying = new Map<string, CanonicalMeaning[]>();
  private readonly besides = new Map<Meaning, Beside[]>();
  /** What was looked up before: meanings are asked for by the thousand, and are few. */
  private readonly found = new Map<string, MeaningEntry | undefined>();

  constructor(
    readonly entries: readonly MeaningEntry[],
    readonly functions: readonly FunctionEntry[] = [],
  ) {
    for (const entry of entries) (entry.id.includes('*') ? this.numbered : this.plain).set(entry.id, entry);
    for (const { id, older = [], ways = {}, beside = [] } of entries) {
      for (const { meaning, why } of beside) {
        this.besides.set(id, [...(this.besides.get(id) ?? []), { meaning, why }]);
        this.besides.set(meaning, [...(this.besides.get(meaning) ?? []), { meaning: id, why }]);
      }
      for (const each of older) this.today.set(each, id);
      for (const [way, conversion] of Object.entries(ways))
        this.saying.set(way, [...(this.saying.get(way) ?? []), { meaning: id, conversion }]);
    }
  }

  /** Those that stand beside a meaning, whichever of the two says so. */
  besidesOf(meaning: Meaning): readonly Beside[] {
    return this.besides.get(meaning) ?? [];
  }

  /** The id of today for one of an earlier file; any other as it is. */
  nameOfToday(meaning: string): Meaning {
    const own = this.today.get(meaning);
    if (own !== undefined) return own;
    const number = NUMBER.exec(meaning)?.[0];
    const numbered = number === undefined ? undefined : this.today.get(meaning.replace(NUMBER, '*'));
    return meaningOf(numbered === undefined ? meaning : numbered.replace('*', number ?? ''));
  }

  /** Nothing for a meaning that it does not know. An entry of its own goes before one for all numbers. */
  of(meaning: Meaning): MeaningEntry | undefined {
    if (this.found.has(meaning)) return this.found.get(meaning);
    const name = this.nameOfToday(meaning);
    const entry = this.plain.get(name) ?? this.numbered.get(name.replace(NUMBER, '*'));
    if (this.found.size < MOST_FOUND) this.found.set(meaning, entry);
    return entry;
  }

  /** What a stated meaning says in the end: itself, or those of which it is a way; nothing for parts and words. */
  canonicalsOf(meaning: Meaning): readonly CanonicalMeaning[] {
    const name = this.nameOfToday(meaning);
    const number = NUMBER.exec(name)?.[0] ?? '';
    const said = this.saying.get(name) ?? this.saying.get(name.replace(NUMBER, '*'));
    if (said) return said.map((each) => ({ ...each, meaning: meaningOf(each.meaning.replace('*', number)) }));
    const entry = this.of(name);
    if (entry && WITHOUT_VALUE.includes(entry.kind)) return [];
    return [{ meaning: name, conversion: entry?.own ?? 'as-it-is' }];
  }

  /** Term and other words, for an index of words. */
  wordsFor = (meaning: Meaning): readonly string[] => {
    const entry = this.of(meaning);
    return entry ? [entry.term, ...entry.also] : [];
  };

  /** The trade's word for a function, a source or a meaning, with its number: `preset bit 0`; the name itself where none is known. */
  termOf = (name: string): string => {
    // A name that stands there in full comes before one that fits: `limit.current` is no `limit.*` of an input.
    const exact =
      this.functions.find(({ id }) => id === name) ?? this.entries.find(({ id }) => (id as string) === name);
    const [own] = exact ? [exact.term] : this.wordsForOption(name);
    const number = /(?<=\.)\d+(?=\.|$)/.exec(name)?.[0];
    const term = own ?? this.of(meaningOf(name))?.term;
    if (term === undefined) return name.replace(/[-.]/g, ' ');
    return number === undefined ? term : `${term} ${number}`;
  };

  /** The same for an option, such as a function of an input. */
  wordsForOption = (option: string): readonly string[] => {
    const known = (id: string) => this.functions.find((each) => each.id === id);
    const entry = known(option) ?? known(option.replace(/(?<=\.)[\w-]+$/, '*'));
    return entry ? [entry.term, ...entry.also] : [];
  };
}

/** Throws where the file is not as its schema says: it is shipped, and a test reads it. */
export function readVocabulary(text: string): Vocabulary {
  const document = parseDocument(text, { uniqueKeys: true });
  const [error] = document.errors;
  if (error) throw new Error(`meanings.yaml: ${error.message}`);
  const { meanings, functions } = document.toJS({ maxAliasCount: 0 }) as {
    meanings: readonly MeaningEntry[];
    functions?: readonly FunctionEntry[];
  };
  const twice = meanings.find(({ id }, at) => meanings.findIndex((each) => each.id === id) !== at);
  if (twice) throw new Error(`meanings.yaml: ${twice.id} stands twice`);
  return new Vocabulary(meanings, functions);
}
