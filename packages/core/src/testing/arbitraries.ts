// Random readings and sets of the shipped models, within what their parameters can hold.

import fc from 'fast-check';
import {
  isNoise,
  limitsOf,
  type Code,
  type Dictionary,
  type Facts,
  type Parameter,
} from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { UNREADABLE_REASONS, type Reading } from '../values/index.ts';
import { facts, shippedModel } from './shipped-model.ts';

/** A raw value that the parameter may hold. */
export function rawOf(parameter: Parameter, own: Facts = facts): fc.Arbitrary<number> {
  const { form } = parameter;
  if (form.kind === 'option') return fc.constantFrom(...form.options.map((option) => option.raw));
  if (form.kind === 'bits') {
    const bits = form.bits.map((bit) => bit.bit);
    return fc.subarray(bits).map((set) => set.reduce((word, bit) => (word | (1 << bit)) >>> 0, 0));
  }
  const { minimum, maximum } = limitsOf(parameter, own);
  return fc.integer({ min: minimum, max: maximum });
}

/** Mostly values, now and then one that could not be read, sometimes nothing at all. */
export const readingOf = (parameter: Parameter, own: Facts = facts): fc.Arbitrary<Reading | undefined> =>
  fc.oneof(
    { weight: 8, arbitrary: rawOf(parameter, own) },
    { weight: 1, arbitrary: fc.constantFrom(...UNREADABLE_REASONS.map((unreadable) => ({ unreadable }))) },
    { weight: 1, arbitrary: fc.constant(undefined) },
  );

export const settingsOf = ({ parameters }: Dictionary): readonly Parameter[] =>
  parameters.filter((parameter) => !isNoise(parameter));

export const settings: readonly Parameter[] = settingsOf(shippedModel);

/** A set of the model with readings for a random part of its settings. */
export const anySetOf = (model: Dictionary, own: Facts): fc.Arbitrary<ParameterSet> =>
  fc
    .subarray([...settingsOf(model)], { minLength: 1 })
    .chain((chosen) =>
      fc.tuple(
        ...chosen.map((parameter) =>
          readingOf(parameter, own).map((reading) => [parameter.code, reading] as const),
        ),
      ),
    )
    .map((entries) => toSet(model, entries))
    // A set without any reading is never kept.
    .filter(({ readings }) => readings.size > 0);

export const anySet: fc.Arbitrary<ParameterSet> = anySetOf(shippedModel, facts);

/** A set as a unit holds it: a value for every setting. */
export const wholeSet: fc.Arbitrary<ParameterSet> = fc
  .tuple(...settings.map((parameter) => rawOf(parameter).map((raw) => [parameter.code, raw] as const)))
  .map((entries) => toSet(shippedModel, entries));

function toSet(model: Dictionary, entries: readonly (readonly [Code, Reading | undefined])[]): ParameterSet {
  const known = entries.filter((entry): entry is readonly [Code, Reading] => entry[1] !== undefined);
  return { dictionary: model.id, readings: new Map(known) };
}

/** One seed for all properties: a failure on one machine is a failure on every other. */
export const SEEDED = { seed: 640_712 } as const;
