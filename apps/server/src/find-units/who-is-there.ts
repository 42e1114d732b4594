// Asks an address who it is, with no idea of its model: each known way of telling the identity is tried until the model
// number that is read is the one of the model that tells it so. The answer is a guess only where nothing matches.

import { meaningOf } from '@drive-keep/core/values';
import { findMeaning, type Dictionary, type LineFacts } from '@drive-keep/core/dictionary';
import type { DriveLine, LineFault } from '../lines/drive-line.ts';
import { readIdentity, type Identity } from '../lines/identity.ts';

export type WhoIsThere =
  | { readonly kind: 'unit'; readonly dictionary: Dictionary; readonly identity: Identity }
  /** Something answers that no known model would. */
  | { readonly kind: 'unknown-model' }
  | { readonly kind: 'silent' }
  | { readonly kind: 'fault'; readonly fault: LineFault };

interface Way {
  readonly facts: LineFacts;
  readonly dictionaries: readonly Dictionary[];
}

/** Ways to tell an identity, those of several models that do it alike being one. */
export function waysToTell(dictionaries: readonly Dictionary[]): readonly Way[] {
  const ways = new Map<string, { facts: LineFacts; dictionaries: Dictionary[] }>();
  for (const dictionary of dictionaries) {
    // Where no number of the model is told, nobody knows it by what it answers.
    if (!dictionary.line?.identity.model) continue;
    const { identity, wordOrder } = dictionary.line;
    const { model, rating, firmware, serial } = identity;
    const key = JSON.stringify([model?.register, rating, firmware, serial, wordOrder]);
    const way = ways.get(key) ?? { facts: dictionary.line, dictionaries: [] };
    way.dictionaries.push(dictionary);
    ways.set(key, way);
  }
  return [...ways.values()];
}

export async function whoIsThere(
  line: DriveLine,
  address: number,
  ways: readonly Way[],
): Promise<WhoIsThere> {
  for (const { facts, dictionaries } of ways) {
    const [first] = dictionaries;
    if (!first) continue;
    const answer = await readIdentity(line, address, first, facts);
    if (!answer.ok) {
      const { code } = answer.fault;
      if (code === 'no-answer') return { kind: 'silent' };
      if (code !== 'refused') return { kind: 'fault', fault: answer.fault };
      continue;
    }
    const identity = answer.value;
    const same = dictionaries.filter((each) => each.line?.identity.model?.value === identity.model);
    const dictionary = same.find((each) => covers(each, identity.firmware)) ?? same[0];
    if (!dictionary) continue;
    const own = await inPresentOrder(line, address, dictionary, identity);
    return { kind: 'unit', dictionary, identity: withRating(dictionary, own) };
  }
  return { kind: 'unknown-model' };
}

/** A model whose word order is a setting is asked for it: its serial number may be given the other way round. */
async function inPresentOrder(
  line: DriveLine,
  address: number,
  dictionary: Dictionary,
  identity: Identity,
): Promise<Identity> {
  const parameter = findMeaning(dictionary, meaningOf('network.wordOrder'));
  if (!parameter?.register || parameter.form.kind !== 'option') return identity;
  const answer = await line.read(address, parameter.register.address, 1);
  const raw = answer.ok ? answer.value[0] : undefined;
  const order = parameter.form.options.find((option) => option.raw === raw)?.meaning;
  if (order === undefined || order === identity.wordOrder || identity.serial === null) return identity;
  const turned = (identity.serial % 0x1_0000) * 0x1_0000 + Math.floor(identity.serial / 0x1_0000);
  return { ...identity, serial: turned };
}

const covers = ({ firmware: { from, to } }: Dictionary, firmware: string): boolean =>
  Number(firmware) >= Number(from) && Number(firmware) <= Number(to);

/** Rating numbers are the model's own: the identity was read with the facts of another one of the same way. */
const withRating = (dictionary: Dictionary, identity: Identity): Identity => ({
  ...identity,
  rating: dictionary.ratings.find(({ number }) => number === identity.ratingNumber)?.id ?? null,
});
