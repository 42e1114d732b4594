// Register words to raw integers and back, by width, sign and the word order of the model.

import type { LineFacts, RegisterPlace } from '@drive-keep/core/dictionary';

export function wordsToRaw(
  place: RegisterPlace,
  words: readonly number[],
  order: LineFacts['wordOrder'],
): number {
  const [first = 0, second = 0] = words;
  const [high, low] = order === 'high-first' ? [first, second] : [second, first];
  const unsigned = place.width === 32 ? high * 0x1_0000 + low : first;
  const limit = 2 ** place.width;
  return place.signed && unsigned >= limit / 2 ? unsigned - limit : unsigned;
}

export function rawToWords(place: RegisterPlace, raw: number, order: LineFacts['wordOrder']): number[] {
  const unsigned = raw < 0 ? raw + 2 ** place.width : raw;
  if (place.width === 16) return [unsigned];
  const [high, low] = [Math.floor(unsigned / 0x1_0000), unsigned % 0x1_0000];
  return order === 'high-first' ? [high, low] : [low, high];
}
