// Which parameters of a model govern others, by its effects.

import { changedBy, type Code, type Dictionary, type Effect, type Parameter } from '../dictionary/index.ts';

/** Parameters whose change changes others or their ranges, those first that change other such parameters. */
export function structuralCodes(dictionary: Dictionary): readonly Code[] {
  const changing = dictionary.effects.filter(({ kind }) => kind !== 'blocks' && kind !== 'idles');
  const whens = [...new Set(changing.map(({ when }) => when))];
  const changed = new Map(
    whens.map((code) => [
      code,
      new Set(changing.filter(({ when }) => when === code).flatMap((each) => reachOf(dictionary, each))),
    ]),
  );
  const sorted: Code[] = [];
  const visit = (code: Code, path: readonly Code[]) => {
    if (sorted.includes(code) || path.includes(code)) return;
    for (const first of whens.filter((other) => changed.get(other)?.has(code))) visit(first, [...path, code]);
    sorted.push(code);
  };
  for (const code of whens) visit(code, []);
  return sorted;
}

/** Choices reach whatever has a bound or a default by a fact. */
function reachOf({ parameters }: Dictionary, effect: Effect): readonly Code[] {
  if (effect.kind !== 'chooses') return changedBy(effect);
  return parameters.filter(isRated).map(({ code }) => code);
}

/** Whether its range depends on what the unit is or holds. */
export const isRated = ({ minimum, maximum }: Parameter): boolean => 'fact' in minimum || 'fact' in maximum;
