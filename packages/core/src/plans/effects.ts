// What a write does to the other parameters of a unit, by the statements of its dictionary.

import { defaultOf, findParameter, type Code, type Dictionary, type Facts } from '../dictionary/index.ts';
import type { Reading } from '../values/index.ts';

export type Readings = ReadonlyMap<Code, Reading>;

/** The readings after one write. A value that is written again unchanged has no effect on others. */
export function applyWrite(
  dictionary: Dictionary,
  facts: Facts,
  readings: Readings,
  code: Code,
  raw: number,
): Readings {
  if (readings.get(code) === raw) return readings;
  const after = new Map(readings);
  after.set(code, raw);
  for (const effect of dictionary.effects.filter((each) => each.when === code)) {
    for (const other of effect.toDefault) {
      const parameter = findParameter(dictionary, other);
      const back = parameter && defaultOf(parameter, facts);
      if (back !== undefined) after.set(other, back);
    }
  }
  return after;
}

/** Parameters whose change puts others back, those first that put back other such parameters. */
export function structuralCodes(dictionary: Dictionary): readonly Code[] {
  const whens = [...new Set(dictionary.effects.map((effect) => effect.when))];
  const putsBack = (code: Code) =>
    dictionary.effects.filter((each) => each.when === code).flatMap((each) => each.toDefault);
  const sorted: Code[] = [];
  const visit = (code: Code, path: readonly Code[]) => {
    if (sorted.includes(code) || path.includes(code)) return;
    for (const first of whens.filter((other) => putsBack(other).includes(code)))
      visit(first, [...path, code]);
    sorted.push(code);
  };
  for (const code of whens) visit(code, []);
  return sorted;
}
