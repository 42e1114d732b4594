// A number as it stands but for its unit and what it counts to: amperes from a share of the unit's current, hertz from rpm,
// seconds for each hertz from a ramp time. The plain value is a multiple of the parameter's own.
// Speeds of induction machines: f = n·p/60, synchronous. Increments of CiA 402: n = 60·v/(608F:01/608F:02).

import { fail, inBaseUnit, ok, sameQuantity, type Result, meaningOf } from '../../values/index.ts';
import { nothing, tidy, type How, type UsedFact, type Untold } from '../plain.ts';
import { frequencyOfSpeed, polePairs, referenceName } from '../references.ts';
import { impossible, nearest, stepOf, untold, type Conversion, type Place } from './conversion.ts';

export interface Scale {
  readonly factor: number;
  readonly unit: string;
  readonly conversion: How['conversion'];
  readonly facts: readonly UsedFact[];
}

const PERCENT = 100;
/** Shares and their rates, in percent. */
const SHARES: Readonly<Record<string, number>> = { '%': 1, '‰': 0.1, '%/s': 1 };
const AS_IT_IS = { conversion: 'as-it-is', facts: [] } as const;

type Counted = Pick<Place, 'set' | 'entry' | 'parameter'>;

/** One of the parameter's own unit in the plain unit of the meaning. */
export function scaleOf({ set, entry, parameter }: Counted): Result<Scale, Untold> {
  if (parameter.form.kind !== 'number') return fail({ code: 'unit', unit: '' });
  const own = parameter.form.unit;
  // Nobody says in which unit a meaning of the plant's own counts.
  if (entry?.unit === undefined) return ok({ factor: 1, unit: own, ...AS_IT_IS });
  const { unit } = entry;
  if (unit === 's/Hz') return rampScale({ set, entry, parameter });
  const share = SHARES[own];
  const name = referenceName(set.dictionary, parameter, entry);
  if (share !== undefined) return shareScale(set, share, name, unit, entry.of);
  if (unit === 'Hz/%') return gainScale(set, name);
  const turning = turningScale(set, own, unit);
  if (turning) return turning;
  if (sameQuantity(own, unit))
    return ok({
      factor: own === unit ? 1 : (inBaseUnit(1, own) ?? 1) / (inBaseUnit(1, unit) ?? 1),
      unit,
      ...AS_IT_IS,
    });
  if (unit === '%' && entry.of !== undefined) return ofReference(set, entry.of, own);
  return fail({ code: 'unit', unit: own });
}

function shareScale(
  set: Place['set'],
  share: number,
  of: string | undefined,
  unit: string,
  plainOf: string | undefined,
): Result<Scale, Untold> {
  if (unit === '%' && of === plainOf) return ok({ factor: share, unit, ...AS_IT_IS });
  if (of === undefined) return fail({ code: 'reference-not-stated' });
  const reference = set.reference(of);
  if (!reference.ok) return reference;
  if (unit !== '%' && !unit.startsWith(reference.value.unit))
    return fail({ code: 'unit', unit: reference.value.unit });
  const to = unit === '%' ? set.reference(plainOf ?? '') : undefined;
  if (to && !to.ok) return to;
  if (to && to.value.value === 0) return fail({ code: 'divisor', what: to.value.what });
  const over = to ? to.value.value / PERCENT : 1;
  const factor = (share * reference.value.value) / PERCENT / over;
  const facts = [reference.value, ...(to ? [to.value] : [])];
  return ok({ factor, unit, conversion: 'reference', facts });
}

/** A value that the model keeps as it is and others as a share: the slip in hertz. */
function ofReference(set: Place['set'], of: string, own: string): Result<Scale, Untold> {
  const reference = set.reference(of);
  if (!reference.ok) return reference;
  if (reference.value.unit !== own) return fail({ code: 'unit', unit: own });
  if (reference.value.value === 0) return fail({ code: 'divisor', what: of });
  return ok({
    factor: PERCENT / reference.value.value,
    unit: '%',
    conversion: 'reference',
    facts: [reference.value],
  });
}

/** Seconds to a speed, as seconds for each hertz: 0 is a jump. */
function rampScale({ set, entry, parameter }: Counted): Result<Scale, Untold> {
  if (parameter.form.kind !== 'number' || !entry || !sameQuantity(parameter.form.unit, 's'))
    return fail({ code: 'reference-not-stated' });
  const name = referenceName(set.dictionary, parameter, entry);
  if (name === undefined) return fail({ code: 'reference-not-stated' });
  const reference = set.reference(name);
  if (!reference.ok) return reference;
  const { value, unit } = reference.value;
  const top = unit === 'rpm' ? frequencyOfSpeed(set, value) : ok(value);
  if (!top.ok) return top;
  if (!(top.value > 0)) return fail({ code: 'divisor', what: name });
  const facts = [{ ...reference.value, value: tidy(top.value), unit: 'Hz' }];
  const seconds = inBaseUnit(1, parameter.form.unit) ?? 1;
  return ok({ factor: seconds / top.value, unit: 's/Hz', conversion: 'reference', facts });
}

/** Percent of output for a percent of error, as hertz for a percent. */
function gainScale(set: Place['set'], name: string | undefined): Result<Scale, Untold> {
  if (name === undefined) return fail({ code: 'reference-not-stated' });
  const output = set.reference(name);
  if (!output.ok) return output;
  const factor = output.value.value / PERCENT;
  return ok({ factor, unit: 'Hz/%', conversion: 'reference', facts: [output.value] });
}

/** Revolutions and increments to hertz; nothing for other units. */
function turningScale(set: Place['set'], own: string, unit: string): Result<Scale, Untold> | undefined {
  const wanted = unit === 'Hz' || unit === 'Hz/s';
  if (wanted && (own === 'rpm' || own === 'rpm/s')) {
    const pairs = polePairs(set);
    if (!pairs.ok) return pairs;
    return ok({ factor: pairs.value.value / 60, unit, conversion: 'poles', facts: [pairs.value] });
  }
  if (own !== 'inc/s' || unit !== 'rpm') return undefined;
  const [increments, turns] = [set.fact(meaningOf('scale.increments')), set.fact(meaningOf('scale.turns'))];
  if (!increments.ok) return increments;
  if (!turns.ok) return turns;
  if (increments.value.value === 0) return fail({ code: 'divisor', what: 'scale.increments' });
  const factor = (60 * turns.value.value) / increments.value.value;
  return ok({ factor, unit, conversion: 'increments', facts: [increments.value, turns.value] });
}

export const asItIs: Conversion = {
  read(at) {
    const codes = [at.parameter.code];
    const scale = scaleOf(at);
    if (!scale.ok) return nothing(scale.fault, codes);
    if (at.parameter.form.kind !== 'number') return nothing({ code: 'unsaid' }, codes);
    const { factor, unit, conversion, facts } = scale.value;
    const own = { value: at.own, unit: at.parameter.form.unit };
    const how = conversion === 'as-it-is' ? null : { conversion, own, facts };
    const step = tidy(Math.abs(factor) * stepOf(at.parameter.form));
    return { kind: 'number', value: tidy(at.own * factor), unit, step, codes, how };
  },
  write(at) {
    if (at.wanted.kind !== 'number') return impossible('other-kind');
    const scale = scaleOf(at);
    if (!scale.ok) return untold(scale.fault);
    if (scale.value.factor === 0) return untold({ code: 'divisor', what: at.meaning });
    const write = nearest(at, at.parameter, at.wanted.value / scale.value.factor);
    return write ? { writes: [write] } : impossible('other-kind');
  },
};

/** A pole pair is two poles. */
export const pairs: Conversion = {
  read: ({ own, parameter }) => ({
    kind: 'number',
    value: own * 2,
    unit: '',
    step: 2,
    codes: [parameter.code],
    how: { conversion: 'pairs', own: { value: own, unit: '' }, facts: [] },
  }),
  write(at) {
    if (at.wanted.kind !== 'number') return impossible('other-kind');
    const write = nearest(at, at.parameter, at.wanted.value / 2);
    return write ? { writes: [write] } : impossible('other-kind');
  },
};
