import type { Dictionary, LineFacts } from '@drive-keep/core/dictionary';

/** The line facts of a model that units are read from; keypad-only models have none. */
export function lineFactsOf(dictionary: Dictionary): LineFacts {
  if (!dictionary.line) throw new Error(`${dictionary.id} has no line`);
  return dictionary.line;
}
