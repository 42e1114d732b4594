// Which value the full analog output stands for. By gain: f_x/G, 2·I_u/G, 1000 V/G; by share: F·rated, of what is shown.

import { fail, ok, type Result, meaningOf } from '../../values/index.ts';
import { nothing, tidy, type UsedFact, type Untold } from '../plain.ts';
import type { PlainSet } from '../plain-set.ts';
import { impossible, nearest, stepOf, untold, type Conversion, type ReadAt } from './conversion.ts';

const PERCENT = 100;
/** Bus voltage at the full signal with a gain of 100 %. */
const FULL_BUS_VOLTS = 1000;
const SHOWN = 'analogOutput.source';

/** What the full signal stands for at 100 %, of what the output shows. */
function fullByGain(set: PlainSet): Result<UsedFact, Untold> {
  switch (set.choice(meaningOf(SHOWN))) {
    case 'frequency':
      return set.fact(meaningOf('frequency.maximum'));
    case 'current': {
      const current = set.reference('unit.current');
      return current.ok ? ok({ ...current.value, value: 2 * current.value.value }) : current;
    }
    case 'bus-voltage':
      return ok({ what: SHOWN, code: null, value: FULL_BUS_VOLTS, unit: 'V' });
    default:
      return fail({ code: 'missing', what: SHOWN });
  }
}

const RATED: Readonly<Record<string, string>> = {
  frequency: 'motor.baseFrequency',
  speed: 'motor.ratedSpeed',
  current: 'motor.ratedCurrent',
  power: 'motor.ratedPower',
};

/** The rated value of what the output shows; of what is not a value of the plate, nobody states one. */
function ratedShown(set: PlainSet): Result<UsedFact, Untold> {
  const shown = set.choice(meaningOf(SHOWN));
  if (shown === undefined) return fail({ code: 'missing', what: SHOWN });
  if (shown === 'torque') return ok({ what: 'motor.ratedTorque', code: null, value: PERCENT, unit: '%' });
  const rated = RATED[shown];
  return rated === undefined ? fail({ code: 'reference-not-stated' }) : set.fact(meaningOf(rated));
}

const told = (
  at: ReadAt,
  conversion: 'output-gain' | 'output-share',
  reference: UsedFact,
  value: number,
  step: number,
) =>
  ({
    kind: 'number',
    value: tidy(value),
    unit: reference.unit,
    step: tidy(step),
    codes: [at.parameter.code],
    how: { conversion, own: { value: at.own, unit: '%' }, facts: [reference] },
  }) as const;

export const outputGain: Conversion = {
  read(at) {
    const reference = fullByGain(at.set);
    if (!reference.ok) return nothing(reference.fault, [at.parameter.code]);
    if (at.own === 0) return nothing({ code: 'divisor', what: at.meaning }, [at.parameter.code]);
    const value = (reference.value.value * PERCENT) / at.own;
    const step = at.parameter.form.kind === 'number' ? (value / at.own) * stepOf(at.parameter.form) : 0;
    return told(at, 'output-gain', reference.value, value, step);
  },
  write(at) {
    const reference = fullByGain(at.set);
    if (!reference.ok) return untold(reference.fault);
    if (at.wanted.kind !== 'number' || at.wanted.unit !== reference.value.unit)
      return impossible('other-kind');
    if (at.wanted.value === 0) return untold({ code: 'divisor', what: at.meaning });
    const write = nearest(at, at.parameter, (reference.value.value * PERCENT) / at.wanted.value);
    return write ? { writes: [write] } : impossible('other-kind');
  },
};

export const outputShare: Conversion = {
  read(at) {
    const reference = ratedShown(at.set);
    if (!reference.ok) return nothing(reference.fault, [at.parameter.code]);
    const one = reference.value.value / PERCENT;
    const step = at.parameter.form.kind === 'number' ? one * stepOf(at.parameter.form) : 0;
    return told(at, 'output-share', reference.value, one * at.own, step);
  },
  write(at) {
    const reference = ratedShown(at.set);
    if (!reference.ok) return untold(reference.fault);
    if (at.wanted.kind !== 'number' || at.wanted.unit !== reference.value.unit)
      return impossible('other-kind');
    if (reference.value.value === 0) return untold({ code: 'divisor', what: reference.value.what });
    const write = nearest(at, at.parameter, (at.wanted.value * PERCENT) / reference.value.value);
    return write ? { writes: [write] } : impossible('other-kind');
  },
};
