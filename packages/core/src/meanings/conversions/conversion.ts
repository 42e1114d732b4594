// What a way of counting is: both directions in one file, with the facts that it needs. No conversion answers NaN: a divisor
// of zero is "cannot be told".

import { toNumber, type NumberForm, type Meaning, meaningOf } from '../../values/index.ts';
import type { Code, Limits, Parameter } from '../../dictionary/index.ts';
import type { Plain, Untold } from '../plain.ts';
import type { PlainSet } from '../plain-set.ts';
import type { MeaningEntry } from '../vocabulary.ts';

export interface Place {
  readonly set: PlainSet;
  readonly meaning: Meaning;
  /** Nothing for a meaning that the vocabulary does not know. */
  readonly entry: MeaningEntry | null;
  readonly parameter: Parameter;
}

export interface ReadAt extends Place {
  /** What the parameter says, in its own unit. */
  readonly own: number;
}

export interface WriteAt extends Place {
  readonly wanted: Plain;
  /** The other plain values that are wanted along with it. */
  readonly others: ReadonlyMap<Meaning, Plain>;
  readonly limitsOf: (parameter: Parameter) => Limits;
}

export interface Write {
  readonly parameter: Parameter;
  readonly raw: number;
  /** The range of the parameter does not reach what was wanted. */
  readonly limited: boolean;
}

export type Impossible =
  | { readonly code: 'untold'; readonly why: Untold }
  | { readonly code: 'no-such-thing' | 'fixed' | 'no-such-option' | 'one-width' | 'not-straight' | 'falling' }
  /** What is wanted is not of this kind: an option for a number. */
  | { readonly code: 'other-kind' }
  /** Another wanted value wants the same parameter otherwise. */
  | { readonly code: 'conflict' };

export type Written = { readonly writes: readonly Write[] } | { readonly impossible: Impossible };

export interface Conversion {
  read(at: ReadAt): Plain;
  write(at: WriteAt): Written;
}

export const impossible = (code: Exclude<Impossible['code'], 'untold'>): Written => ({
  impossible: { code },
});
export const untold = (why: Untold): Written => ({ impossible: { code: 'untold', why } });

/** The parameters that state these parts, as far as the model has them. */
export const codesOf = ({ set }: Pick<Place, 'set'>, ...stated: readonly string[]): readonly Code[] =>
  stated.flatMap((meaning) => set.stated(meaningOf(meaning))?.code ?? []);

/** One raw step in the unit of the form. */
export const stepOf = (form: NumberForm): number =>
  toNumber({ digits: form.resolution.step, places: form.resolution.places });

/** The write that brings a parameter nearest to a value in its own unit. */
export function nearest(
  at: Pick<WriteAt, 'limitsOf'>,
  parameter: Parameter,
  value: number,
): Write | undefined {
  if (parameter.form.kind !== 'number' || !Number.isFinite(value)) return undefined;
  const wanted = Math.round(Number((value / stepOf(parameter.form)).toPrecision(12)));
  const { minimum, maximum } = at.limitsOf(parameter);
  const raw = Math.max(minimum, Math.min(maximum, wanted)) + 0;
  return { parameter, raw, limited: raw !== wanted };
}

/** All of them, or impossible where one is no number. */
export function nearestOf(
  at: Pick<WriteAt, 'limitsOf'>,
  values: readonly (readonly [Parameter, number])[],
): Written {
  const writes = values.map(([parameter, value]) => nearest(at, parameter, value));
  const found = writes.filter((each) => each !== undefined);
  return found.length === values.length ? { writes: found } : impossible('other-kind');
}
