// One check at work on one position: it asks for values, and what it is not told is noted, so that a check that found nothing
// because it was told nothing does not pass for one that found nothing wrong.

import { findParameter, type Code } from '../dictionary/index.ts';
import type { Attention, Said } from '../findings/index.ts';
import {
  sayNumber,
  sayPlain,
  sayUntold,
  type Plain,
  type PlainNumber,
  type Term,
} from '../meanings/index.ts';
import type { PlateRating } from '../motor/index.ts';
import { ratingFor } from '../motor/index.ts';
import { meaningOf } from '../values/index.ts';
import type { CheckedValue, CheckMend, Wish } from './check.ts';
import type { Ground } from './ground.ts';
import type { Reach } from './reach.ts';

export interface FoundBy {
  readonly said: Said;
  readonly at: string;
  readonly attention: Attention;
  readonly values: readonly CheckedValue[];
  readonly wishes: readonly Wish[];
  readonly raws: readonly CheckMend[];
}

interface More {
  readonly at?: string;
  readonly attention?: Attention;
  /** Plain values, or codes, that it is about. */
  readonly of?: readonly (Plain | Code | null | undefined)[];
  /** Alternatives that would mend it. */
  readonly mends?: readonly Wish[];
  /** The same as raw values, for what has no meaning of its own. */
  readonly raws?: readonly CheckMend[];
}

export class Look {
  readonly ground: Ground;
  readonly reach: Reach;
  readonly found: FoundBy[] = [];
  /** What was not told, in words. */
  readonly untold = new Set<string>();
  readonly term: Term;
  /** There was something to look at: a value that was told, or what the check itself has seen. */
  private hasSeen = false;

  constructor(ground: Ground, reach: Reach) {
    this.ground = ground;
    this.reach = reach;
    this.term = ground.set.bridge.vocabulary.termOf;
  }

  /** Whatever the set says; nothing noted. */
  plain(name: string): Plain {
    const plain = this.ground.set.get(meaningOf(name));
    if (plain.kind !== 'nothing') this.hasSeen = true;
    return plain;
  }

  /** Said by a check that looks at something else than values. */
  sees(): void {
    this.hasSeen = true;
  }

  /** It concerns this drive at all: else it has found nothing because there is no such thing. */
  get concerns(): boolean {
    return this.hasSeen || this.found.length > 0 || this.untold.size > 0;
  }

  /** A quantity. Where the model has it and the set does not tell it, that is noted. */
  number(name: string): PlainNumber | undefined {
    const plain = this.plain(name);
    if (plain.kind === 'number') return plain;
    this.note(name, plain);
    return undefined;
  }

  /** An option, also one of the words of a quantity such as `off`. */
  choice(name: string): string | undefined {
    const plain = this.plain(name);
    if (plain.kind === 'choice') return plain.option;
    this.note(name, plain);
    return undefined;
  }

  /** Noted where the model has it, but what its option means is nobody's word. */
  private note(name: string, plain: Plain): void {
    if (plain.kind !== 'nothing' || plain.why.code === 'no-such-thing' || plain.why.code === 'unsaid') return;
    this.untold.add(`${this.term(name)}: ${sayUntold(plain.why, this.term)}`);
  }

  /** The rating of the plate in the library for the voltage that is set; noted where there is no plate. */
  plateRating(): PlateRating | undefined {
    const { plate } = this.ground;
    if (!plate) {
      this.untold.add('the plate of the motor is not in the library');
      return undefined;
    }
    const volts = this.plain('motor.ratedVoltage');
    const rating = ratingFor(plate, volts.kind === 'number' ? volts.value : undefined);
    if (!rating) this.untold.add('the plate has several ratings, and none for the voltage that is set');
    return rating;
  }

  say = (plain: Plain): string => sayPlain(plain, this.term);

  /** A number in its unit, with the places of a step. */
  text = (value: number, unit: string, step = 0): string =>
    `${sayNumber(value, step)}${unit === '' ? '' : ` ${unit}`}`;

  codes = (...of: readonly (Plain | Code | null | undefined)[]): readonly Code[] => [
    ...new Set(
      of.flatMap((each): readonly Code[] => {
        if (each === null || each === undefined) return [];
        return typeof each === 'string' ? [each] : each.codes;
      }),
    ),
  ];

  find(said: Said, { at = '', attention = 'look', of = [], mends = [], raws = [] }: More = {}): void {
    const { readings, dictionary } = this.ground.set;
    const values = this.codes(...of)
      .filter((code) => findParameter(dictionary, code) !== undefined)
      .map((code) => ({ code, reading: readings.get(code) }));
    this.found.push({ said, at, attention, values, wishes: mends, raws });
  }
}
