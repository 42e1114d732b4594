// What shares and times count to, as values of this unit and set: the rated current of the unit at its duty, the slip of the
// motor, or another plain value. Symbols such as the transmitter's range have no value of their own.

import { fail, ok, type Result, meaningOf } from '../values/index.ts';
import type { Parameter } from '../dictionary/index.ts';
import { nothing, tidy, type Plain, type UsedFact, type Untold } from './plain.ts';
import type { PlainSet } from './plain-set.ts';
import type { MeaningEntry } from './vocabulary.ts';

const SECONDS_PER_MINUTE = 60;
/** Rounding of a plate's speed; and the slip beyond which speed and frequency do not belong together. */
const POLE_SLACK = 0.03;
const LARGEST_SLIP = 0.15;

/** The value of a reference in its plain unit. */
export function referenceOf(set: PlainSet, name: string): Result<UsedFact, Untold> {
  switch (name) {
    case 'unit.current':
      return unitCurrent(set);
    case 'motor.ratedSlip':
      return ratedSlip(set);
    case 'maker':
      return fail({ code: 'maker-scale' });
    default:
      return set.fact(meaningOf(name));
  }
}

/** Rated current of the unit (A) at the duty that it is set to. */
function unitCurrent(set: PlainSet): Result<UsedFact, Untold> {
  const missing = fail({ code: 'missing', what: 'unit.current' } as const);
  const byDuty = set.dictionary.unitCurrent ?? {};
  const duties = Object.keys(byDuty);
  const duty = duties.length === 1 ? duties[0] : set.choice(meaningOf('unit.duty'));
  const fact = duty === undefined ? undefined : byDuty[duty];
  const value = fact === undefined ? Number.NaN : Number(set.rating?.[fact]);
  if (!(value > 0)) return missing;
  return ok({
    what: 'unit.current',
    code: set.stated(meaningOf('unit.duty'))?.code ?? null,
    value,
    unit: 'A',
  });
}

/** Pole pairs of the motor, given or derived from its plate. */
export function polePairs(set: PlainSet): Result<UsedFact, Untold> {
  const poles = set.fact(meaningOf('motor.poles'));
  if (!poles.ok) return poles;
  if (!(poles.value.value > 0)) return fail({ code: 'divisor', what: 'motor.poles' });
  return ok({ ...poles.value, what: 'motor.polePairs', value: poles.value.value / 2 });
}

/** Synchronous frequency (Hz) of a speed in rpm: f = n·p/60. */
export function frequencyOfSpeed(set: PlainSet, rpm: number): Result<number, Untold> {
  const pairs = polePairs(set);
  return pairs.ok ? ok((rpm * pairs.value.value) / SECONDS_PER_MINUTE) : pairs;
}

/** Slip of the plate in Hz: f_b − p·n/60. */
function ratedSlip(set: PlainSet): Result<UsedFact, Untold> {
  const [base, speed] = [set.fact(meaningOf('motor.baseFrequency')), set.fact(meaningOf('motor.ratedSpeed'))];
  if (!base.ok) return base;
  if (!speed.ok) return speed;
  const turning = frequencyOfSpeed(set, speed.value.value);
  if (!turning.ok) return turning;
  const value = tidy(base.value.value - turning.value);
  if (value <= 0) return fail({ code: 'divisor', what: 'motor.ratedSlip' });
  return ok({ what: 'motor.ratedSlip', code: speed.value.code, value, unit: 'Hz' });
}

/** p = max(1, ⌊60·f/n + 0.03⌋), in poles; no way back to the plate. */
export function polesFromPlate(set: PlainSet): Plain {
  const [base, speed] = [set.fact(meaningOf('motor.baseFrequency')), set.fact(meaningOf('motor.ratedSpeed'))];
  if (!base.ok) return nothing(base.fault);
  if (!speed.ok) return nothing(speed.fault);
  const [f, n] = [base.value.value, speed.value.value];
  if (!(f > 0) || !(n > 0))
    return nothing({ code: 'divisor', what: n > 0 ? base.value.what : speed.value.what });
  const pairs = Math.max(1, Math.floor((SECONDS_PER_MINUTE * f) / n + POLE_SLACK));
  if (1 - (n * pairs) / (SECONDS_PER_MINUTE * f) > LARGEST_SLIP) return nothing({ code: 'plate-slip' });
  return {
    kind: 'number',
    value: 2 * pairs,
    unit: '',
    step: 2,
    codes: [base.value.code, speed.value.code].flatMap((code) => code ?? []),
    how: { conversion: 'poles-from-plate', own: null, facts: [base.value, speed.value] },
  };
}

const CURRENT_IN: Readonly<Record<string, string>> = {
  'percent-of-unit': 'unit.current',
  'percent-of-motor': 'motor.ratedCurrent',
};
const RAMP_TO: Readonly<Record<string, string>> = {
  'base-frequency': 'motor.baseFrequency',
  'maximum-frequency': 'frequency.maximum',
  'rated-speed': 'motor.ratedSpeed',
};

/**
 * What a parameter counts to: stated at the parameter, or by a convention of the model where it states one. Nothing else: a
 * convention that a model does not state is not stated.
 */
export function referenceName(
  { conventions }: PlainSet['dictionary'],
  parameter: Parameter,
  entry: MeaningEntry,
): string | undefined {
  if (parameter.of !== null) return parameter.of;
  if (entry.unit === 's/Hz') return RAMP_TO[conventions.ramp_counts_to ?? ''];
  if (entry.unit === 'A' && entry.id.startsWith('limit.current'))
    return CURRENT_IN[conventions.current_limit_in ?? ''];
  const speed = entry.unit === 'Hz' || entry.unit === 'Hz/s';
  return speed && conventions.speeds_in === 'percent-of-base-frequency' ? 'motor.baseFrequency' : undefined;
}
