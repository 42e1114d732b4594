// What of a dictionary may be corrected beside its kept version: texts, meanings, references, what options mean. What a kept
// set rests on may not: codes, ranges, defaults, numbers of options, registers, effects. A change of that is a new version.

import type { Dictionary, Facts } from './dictionary.ts';
import type { Effect } from './effect.ts';
import type { Parameter } from './parameter.ts';

/** True where `after` says the same of every raw value, and tells it only in other words or more of it. */
export const annotatesOnly = (before: Dictionary, after: Dictionary): boolean =>
  structureOf(before) === structureOf(after, before);

/** `known` is whose facts count: a correction may tell more of a rating, not something else. */
function structureOf(dictionary: Dictionary, known: Dictionary = dictionary): string {
  const { id, maker, name, firmware, line, keypad, effects, parameters, procedures } = dictionary;
  const factsIn = (of: 'ratings' | 'regions', at: number, facts: Facts) =>
    Object.keys(known[of][at]?.facts ?? {}).map((fact) => [fact, facts[fact] ?? null]);
  return JSON.stringify({
    // The command word is told for those who replace a unit; nothing here rests on it.
    ...{ id, maker, name, firmware, line: line && { ...line, command: null }, keypad },
    ratings: dictionary.ratings.map((each, at) => [each.id, each.number, factsIn('ratings', at, each.facts)]),
    regions: dictionary.regions.map((each, at) => [each.id, factsIn('regions', at, each.facts)]),
    procedures: procedures.map(({ purpose, steps, keeps, scopes }) => ({
      ...{ purpose, keeps },
      steps: steps.map(({ set, busyMs }) => [set, busyMs]),
      scopes: scopes.map(({ raw, only, leaves }) => [raw, only, leaves]),
    })),
    effects: effects.map((effect: Effect) => ({ ...effect, why: '' })),
    parameters: parameters.map(parameterStructure),
    terminals: dictionary.terminals?.strips.map(({ terminals }) =>
      terminals.map(({ id: terminal }) => terminal),
    ),
  });
}

function parameterStructure(parameter: Parameter): unknown {
  const { code, form, minimum, maximum, access, restart, keeping, register } = parameter;
  const counted =
    form.kind === 'number'
      ? [form.unit, form.resolution]
      : form.kind === 'option'
        ? form.options.map(({ raw }) => raw)
        : form.bits.map(({ bit }) => bit);
  const bounds = [minimum, maximum, parameter.default, parameter.untold];
  return [code, form.kind, counted, ...bounds, access, restart, keeping, register];
}
