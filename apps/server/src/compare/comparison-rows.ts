// Rows of a comparison as they are told: with range, default and the change in words.

import type { ComparisonRowView } from '@drive-keep/api';
import { describeChange, differenceOf, type ComparisonRow } from '@drive-keep/core/compare';
import {
  defaultOf,
  findParameter,
  limitsOf,
  type Code,
  type Dictionary,
  type Facts,
  type Untold,
} from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import type { ReferencedSet } from './referenced-sets.service.ts';

/** With the monitors and counters of that moment, where they are wanted. */
export function withAside(found: ReferencedSet, noise: boolean): ReferencedSet {
  if (!noise) return found;
  const readings = new Map([...found.set.readings, ...found.aside]);
  return { ...found, set: { dictionary: found.set.dictionary, readings } };
}

/** Every parameter in menu order; noise only where it was asked for. */
export function allRows(
  dictionary: Dictionary,
  a: ParameterSet,
  b: ParameterSet,
  noise: boolean,
  differing: readonly ComparisonRow[],
): readonly ComparisonRow[] {
  const known = new Map<Code, ComparisonRow>(differing.map((row) => [row.code, row]));
  const settings = new Set([...a.readings.keys(), ...b.readings.keys()]);
  return dictionary.parameters
    .filter((parameter) => noise || settings.has(parameter.code))
    .map((parameter) => {
      const [left, right] = [a.readings.get(parameter.code), b.readings.get(parameter.code)];
      const fresh = {
        code: parameter.code,
        a: left,
        b: right,
        difference: differenceOf(parameter, left, right),
      };
      return known.get(parameter.code) ?? fresh;
    });
}

export function rowView(dictionary: Dictionary, facts: Facts, row: ComparisonRow): ComparisonRowView {
  const parameter = findParameter(dictionary, row.code);
  if (!parameter) throw new Error(`${row.code} is compared but not in ${dictionary.id}`);
  const { minimum, maximum } = limitsOf(parameter, facts);
  const told = (which: Untold) => !parameter.untold.includes(which);
  return {
    code: row.code,
    a: row.a ?? null,
    b: row.b ?? null,
    minimum: told('minimum') && Number.isFinite(minimum) ? minimum : null,
    maximum: told('maximum') && Number.isFinite(maximum) ? maximum : null,
    default: defaultOf(parameter, facts) ?? null,
    difference: row.difference,
    change: describeChange(parameter, row.a, row.b),
  };
}
