// Who answers: model, rating, firmware and serial number from the registers that the model's facts name.

import { findMeaning, type Dictionary, type LineFacts, type SerialPlace } from '@drive-keep/core/dictionary';
import { fail, ok, meaningOf } from '@drive-keep/core/values';
import type { DriveLine, LineAnswer } from './drive-line.ts';
import { limitsOn, planReads, type Place } from './read-plan.ts';
import { wordsToRaw } from './words.ts';

type WordOrder = LineFacts['wordOrder'];

export interface Identity {
  /** Nothing where the model tells it in no register, as with all that follows. */
  readonly model: number | null;
  /** Rating id of the dictionary; nothing for a number that it does not have. */
  readonly rating: string | null;
  readonly ratingNumber: number | null;
  /** As `2.07`; empty where it is not told. */
  readonly firmware: string;
  readonly serial: number | null;
  /** In which the unit gives 32-bit values at this moment; some models have a setting for it. */
  readonly wordOrder: WordOrder;
}

/** Words that have been read, by address. */
export type Words = ReadonlyMap<number, number>;

export const identityPlaces = ({ identity }: LineFacts): readonly Place[] => [
  ...[identity.model?.register, identity.rating, identity.firmware].flatMap((address) =>
    address === undefined || address === null ? [] : [{ address, count: 1 as const }],
  ),
  ...(identity.serial ? [{ address: identity.serial.register, count: words(identity.serial) }] : []),
];

const words = ({ width }: SerialPlace): 1 | 2 => (width === 32 ? 2 : 1);

/** True where it can be told which unit answers. */
export const tellsSerial = ({ identity }: LineFacts): boolean => identity.serial !== null;

/** The register of the identity that has not been read, for all that the dictionary says; nothing where all have. */
export const missingOf = (facts: LineFacts, read: Words): number | undefined =>
  identityPlaces(facts)
    .flatMap(({ address, count }) => (count === 2 ? [address, address + 1] : [address]))
    .find((address) => !read.has(address));

/** `expected` is the serial number that should answer: by it a unit is known whose word order was set the other way round. */
export function identityOf(
  dictionary: Dictionary,
  line: LineFacts,
  words: Words,
  expected?: number,
): Identity {
  const { model, rating, firmware, serial } = line.identity;
  const word = (address: number | null | undefined) =>
    address === null || address === undefined ? null : (words.get(address) ?? null);
  const inOrder = (order: WordOrder): number | null => {
    const read = serial ? [words.get(serial.register), words.get(serial.register + 1)] : [];
    if (!serial || read[0] === undefined) return null;
    const place = { address: serial.register, width: serial.width, signed: false };
    return wordsToRaw(place, [read[0], read[1] ?? 0], order);
  };
  const other = line.wordOrder === 'high-first' ? 'low-first' : 'high-first';
  const turned = findMeaning(dictionary, meaningOf('network.wordOrder')) && inOrder(other) === expected;
  const wordOrder = turned && expected !== undefined ? other : line.wordOrder;
  const number = word(rating);
  return {
    model: word(model?.register),
    rating: dictionary.ratings.find((each) => each.number === number)?.id ?? null,
    ratingNumber: number,
    firmware: firmwareText(word(firmware)),
    serial: inOrder(wordOrder),
    wordOrder,
  };
}

/** Serial number and firmware of who was read; those of the register where the model does not tell them. */
export const toldBy = (
  { serial, firmware }: Identity,
  unit: { readonly serial: number; readonly firmware: string },
): { serial: number; firmware: string } => ({
  serial: serial ?? unit.serial,
  firmware: firmware || unit.firmware,
});

/** Goes with what was read from a unit of which nobody can tell which it is. */
export const UNTOLD = 'Which unit answered is not known: this model tells no serial number.';

const firmwareText = (number: number | null): string =>
  number === null ? '' : `${Math.floor(number / 100)}.${String(number % 100).padStart(2, '0')}`;

export async function readIdentity(
  line: DriveLine,
  unit: number,
  dictionary: Dictionary,
  facts: LineFacts,
  expected?: number,
): Promise<LineAnswer<Identity>> {
  const words = new Map<number, number>();
  for (const request of planReads(identityPlaces(facts), limitsOn(line, facts))) {
    const answer = await line.read(unit, request.address, request.count);
    if (!answer.ok) return fail(answer.fault);
    answer.value.forEach((word, at) => words.set(request.address + at, word));
  }
  return ok(identityOf(dictionary, facts, words, expected));
}
