// Who answers: model, rating, firmware and serial number from the registers that the model's facts name.

import type { Dictionary, LineFacts } from '@drive-keep/core/dictionary';
import { fail, ok } from '@drive-keep/core/values';
import type { DriveLine, LineAnswer } from './drive-line.ts';
import { planReads, type Place } from './read-plan.ts';

export interface Identity {
  readonly model: number;
  /** Rating id of the dictionary; nothing for a number that it does not have. */
  readonly rating: string | null;
  readonly ratingNumber: number;
  /** As `2.07`. */
  readonly firmware: string;
  readonly serial: number;
}

/** Words that have been read, by address. */
export type Words = ReadonlyMap<number, number>;

export const identityPlaces = ({ identity }: LineFacts): readonly Place[] => [
  { address: identity.model.register, count: 1 },
  { address: identity.rating, count: 1 },
  { address: identity.firmware, count: 1 },
  { address: identity.serial, count: 2 },
];

export function identityOf(dictionary: Dictionary, line: LineFacts, words: Words): Identity {
  const word = (address: number) => words.get(address) ?? 0;
  const firmware = word(line.identity.firmware);
  const serial = line.identity.serial;
  const number = word(line.identity.rating);
  return {
    model: word(line.identity.model.register),
    rating: dictionary.ratings.find((rating) => rating.number === number)?.id ?? null,
    ratingNumber: number,
    firmware: `${Math.floor(firmware / 100)}.${String(firmware % 100).padStart(2, '0')}`,
    serial: word(serial) * 0x1_0000 + word(serial + 1),
  };
}

export async function readIdentity(
  line: DriveLine,
  unit: number,
  dictionary: Dictionary,
  facts: LineFacts,
): Promise<LineAnswer<Identity>> {
  const words = new Map<number, number>();
  for (const request of planReads(identityPlaces(facts), facts)) {
    const answer = await line.read(unit, request.address, request.count);
    if (!answer.ok) return fail(answer.fault);
    answer.value.forEach((word, at) => words.set(request.address + at, word));
  }
  return ok(identityOf(dictionary, facts, words));
}
