// Controllers of two forms. With times: u = K[e + (1/T_i)∫e dt + T_d·de/dt]; with gains: u = K_p·e + K_i∫e dt + K_d·de/dt,
// so T_i = K_p/K_i and T_d = K_d/K_p. A proportional band is K = 100 %/PB. The gain is in hertz of output for a percent of
// the transmitter's range.

import { fail, ok, type Result, meaningOf } from '../../values/index.ts';
import { nothing, tidy, type UsedFact, type Untold } from '../plain.ts';
import { referenceName } from '../references.ts';
import {
  codesOf,
  impossible,
  nearest,
  nearestOf,
  stepOf,
  untold,
  type Conversion,
  type Place,
} from './conversion.ts';

const PERCENT = 100;

/** Frequency (Hz) of the whole output. */
function outputOf({ set, parameter, entry }: Place): Result<UsedFact, Untold> {
  const name = entry ? referenceName(set.dictionary, parameter, entry) : undefined;
  return name === undefined ? fail({ code: 'reference-not-stated' }) : set.reference(name);
}

const stepIn = ({ parameter }: Place): number =>
  parameter.form.kind === 'number' ? stepOf(parameter.form) : 0;
const unitIn = ({ parameter }: Place): string =>
  parameter.form.kind === 'number' ? parameter.form.unit : '';

export const band: Conversion = {
  read(at) {
    const codes = [at.parameter.code];
    const output = outputOf(at);
    if (!output.ok) return nothing(output.fault, codes);
    if (at.own === 0) return nothing({ code: 'divisor', what: at.meaning }, codes);
    const value = output.value.value / at.own;
    const how = { conversion: 'band', own: { value: at.own, unit: '%' }, facts: [output.value] } as const;
    const step = (value / at.own) * stepIn(at);
    return { kind: 'number', value: tidy(value), unit: 'Hz/%', step: tidy(step), codes, how };
  },
  write(at) {
    const output = outputOf(at);
    if (!output.ok) return untold(output.fault);
    if (at.wanted.kind !== 'number') return impossible('other-kind');
    if (at.wanted.value === 0) return untold({ code: 'divisor', what: at.meaning });
    const write = nearest(at, at.parameter, output.value.value / at.wanted.value);
    return write ? { writes: [write] } : impossible('other-kind');
  },
};

/** The proportional gain as the controller itself counts it. */
function gainOf({ set }: Place): Result<UsedFact & { readonly step: number }, Untold> {
  const gain = set.part(meaningOf('loop.gain'));
  if (!gain.ok) return gain;
  const { value, parameter } = gain.value;
  const step = parameter.form.kind === 'number' ? stepOf(parameter.form) : 0;
  return ok({ what: 'loop.gain', code: parameter.code, value, unit: '', step });
}

export const integralGain: Conversion = {
  read(at) {
    const codes = [at.parameter.code];
    const gain = gainOf(at);
    if (!gain.ok) return nothing(gain.fault, [...codes, ...codesOf(at, 'loop.gain')]);
    const { step, ...fact } = gain.value;
    // An integral part without a proportional one is no time of the other form.
    if (fact.value === 0 || at.own === 0) return nothing({ code: 'divisor', what: 'loop.gain' }, codes);
    const value = fact.value / at.own;
    const steps = (value / at.own) * stepIn(at) + step / at.own;
    const how = {
      conversion: 'integral-gain',
      own: { value: at.own, unit: unitIn(at) },
      facts: [fact],
    } as const;
    const all = [...codes, ...(fact.code ? [fact.code] : [])];
    return { kind: 'number', value: tidy(value), unit: 's', step: tidy(steps), codes: all, how };
  },
  write(at) {
    const gain = gainOf(at);
    if (!gain.ok) return untold(gain.fault);
    if (at.wanted.kind !== 'number') return impossible('other-kind');
    if (at.wanted.value === 0) return untold({ code: 'divisor', what: at.meaning });
    return nearestOf(at, [[at.parameter, gain.value.value / at.wanted.value]]);
  },
};

export const derivativeGain: Conversion = {
  read(at) {
    const codes = [at.parameter.code];
    const gain = gainOf(at);
    if (!gain.ok) return nothing(gain.fault, [...codes, ...codesOf(at, 'loop.gain')]);
    const { step, ...fact } = gain.value;
    if (fact.value === 0) return nothing({ code: 'divisor', what: 'loop.gain' }, codes);
    const value = at.own / fact.value;
    const steps = stepIn(at) / fact.value + (value / fact.value) * step;
    const how = {
      conversion: 'derivative-gain',
      own: { value: at.own, unit: unitIn(at) },
      facts: [fact],
    } as const;
    const all = [...codes, ...(fact.code ? [fact.code] : [])];
    return { kind: 'number', value: tidy(value), unit: 's', step: tidy(steps), codes: all, how };
  },
  write(at) {
    const gain = gainOf(at);
    if (!gain.ok) return untold(gain.fault);
    if (at.wanted.kind !== 'number') return impossible('other-kind');
    return nearestOf(at, [[at.parameter, at.wanted.value * gain.value.value]]);
  },
};

/** Set-point in the unit of the transmitter, as a share of its range: y = lo + (hi − lo)·sp/100. */
export const loopUnit: Conversion = {
  read(at) {
    const codes = [at.parameter.code];
    const range = rangeOf(at);
    if (!range.ok) return nothing(range.fault, codes);
    const [low, high] = range.value;
    const span = high.value - low.value;
    const value = ((at.own - low.value) / span) * PERCENT;
    const how = {
      conversion: 'loop-unit',
      own: { value: at.own, unit: unitIn(at) },
      facts: [low, high],
    } as const;
    const step = Math.abs(stepIn(at) / span) * PERCENT;
    return { kind: 'number', value: tidy(value), unit: '%', step: tidy(step), codes, how };
  },
  write(at) {
    const range = rangeOf(at);
    if (!range.ok) return untold(range.fault);
    if (at.wanted.kind !== 'number') return impossible('other-kind');
    const [low, high] = range.value;
    const wanted = low.value + ((high.value - low.value) * at.wanted.value) / PERCENT;
    return nearestOf(at, [[at.parameter, wanted]]);
  },
};

function rangeOf({ set }: Place): Result<readonly [UsedFact, UsedFact], Untold> {
  const [low, high] = [set.fact(meaningOf('loop.scaleLow')), set.fact(meaningOf('loop.scaleHigh'))];
  if (!low.ok) return low;
  if (!high.ok) return high;
  if (low.value.value === high.value.value) return fail({ code: 'divisor', what: 'loop.scaleHigh' });
  return ok([low.value, high.value]);
}
