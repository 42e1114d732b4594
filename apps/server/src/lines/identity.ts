// Who answers: model, rating, firmware and serial number from the registers that the model's facts name.

import { findMeaning, type Dictionary, type LineFacts } from '@drive-keep/core/dictionary';
import { fail, ok } from '@drive-keep/core/values';
import type { DriveLine, LineAnswer } from './drive-line.ts';
import { planReads, type Place } from './read-plan.ts';
import { wordsToRaw } from './words.ts';

const SERIAL = { address: 0, width: 32, signed: false } as const;

type WordOrder = LineFacts['wordOrder'];

export interface Identity {
  readonly model: number;
  /** Rating id of the dictionary; nothing for a number that it does not have. */
  readonly rating: string | null;
  readonly ratingNumber: number;
  /** As `2.07`. */
  readonly firmware: string;
  readonly serial: number;
  /** In which the unit gives 32-bit values at this moment; some models have a setting for it. */
  readonly wordOrder: WordOrder;
}

/** Words that have been read, by address. */
export type Words = ReadonlyMap<number, number>;

export const identityPlaces = ({ identity }: LineFacts): readonly Place[] => [
  { address: identity.model.register, count: 1 },
  { address: identity.rating, count: 1 },
  { address: identity.firmware, count: 1 },
  { address: identity.serial, count: 2 },
];

/** `expected` is the serial number that should answer: by it a unit is known whose word order was set the other way round. */
export function identityOf(
  dictionary: Dictionary,
  line: LineFacts,
  words: Words,
  expected?: number,
): Identity {
  const word = (address: number) => words.get(address) ?? 0;
  const firmware = word(line.identity.firmware);
  const serial = (order: WordOrder): number =>
    wordsToRaw(SERIAL, [word(line.identity.serial), word(line.identity.serial + 1)], order);
  const other = line.wordOrder === 'high-first' ? 'low-first' : 'high-first';
  const turned = findMeaning(dictionary, 'network.wordOrder') && serial(other) === expected;
  const wordOrder = turned ? other : line.wordOrder;
  const number = word(line.identity.rating);
  return {
    model: word(line.identity.model.register),
    rating: dictionary.ratings.find((rating) => rating.number === number)?.id ?? null,
    ratingNumber: number,
    firmware: `${Math.floor(firmware / 100)}.${String(firmware % 100).padStart(2, '0')}`,
    serial: serial(wordOrder),
    wordOrder,
  };
}

export async function readIdentity(
  line: DriveLine,
  unit: number,
  dictionary: Dictionary,
  facts: LineFacts,
  expected?: number,
): Promise<LineAnswer<Identity>> {
  const words = new Map<number, number>();
  for (const request of planReads(identityPlaces(facts), facts)) {
    const answer = await line.read(unit, request.address, request.count);
    if (!answer.ok) return fail(answer.fault);
    answer.value.forEach((word, at) => words.set(request.address + at, word));
  }
  return ok(identityOf(dictionary, facts, words, expected));
}
