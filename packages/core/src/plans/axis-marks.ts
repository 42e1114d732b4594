// Which axis of a machine a set belongs to. The files of two axes look alike and are easily mixed; what tells them apart
// stands inside the set: the number of the axis, its address, its motor.

import { findMeaning, type Code, type Dictionary } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { isRaw, meaningOf } from '../values/index.ts';

/** A place of the machine and what it is known to hold. */
export interface KnownAxis {
  readonly tag: string;
  readonly set: ParameterSet;
}

export interface OtherAxis {
  readonly tag: string;
  /** Parameters in which the set is that axis and not the one it is meant for. */
  readonly codes: readonly Code[];
}

const MARKS = ['axis.number', 'network.address', 'motor.number'] as const;

/**
 * The axis whose marks the set bears in place of those of `own`; nothing where it bears none of another. A mark that two
 * axes share tells nothing. `others` of another model tell nothing either.
 */
export function otherAxisOf(
  dictionary: Dictionary,
  { readings }: ParameterSet,
  own: KnownAxis,
  others: readonly KnownAxis[],
): OtherAxis | undefined {
  // Drives that are no axes may share a set: their peers are meant to be alike.
  if (!findMeaning(dictionary, meaningOf('axis.number'))) return undefined;
  const marks = MARKS.flatMap((meaning) => findMeaning(dictionary, meaningOf(meaning))?.code ?? []);
  const found = others
    .filter(({ set }) => set.dictionary === own.set.dictionary)
    .map(({ tag, set }) => ({
      tag,
      codes: marks.filter((code) => {
        const mark = readings.get(code);
        return isRaw(mark) && mark === set.readings.get(code) && mark !== own.set.readings.get(code);
      }),
    }))
    .filter(({ codes }) => codes.length > 0);
  return found.sort((a, b) => b.codes.length - a.codes.length)[0];
}
