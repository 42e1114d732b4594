// Which set-point an analog signal asks for, as straight pieces over the share of the signal. By end points
// f = ref·[L+(H−L)·s]; by gain and bias f = f_x·clamp(G·s+B, 0, 1); by two points the line through them, held beyond them;
// by full scale n = full·(u−offset)/10 V.

import { fail, ok, type Result, type Meaning, meaningOf } from '../../values/index.ts';
import type { Code, Parameter } from '../../dictionary/index.ts';
import {
  curveAt,
  nothing,
  tidy,
  type CurvePoint,
  type PlainCurve,
  type UsedFact,
  type Untold,
} from '../plain.ts';
import { scaleOf } from './scale.ts';
import {
  codesOf,
  impossible,
  nearestOf,
  stepOf,
  untold,
  type Conversion,
  type Place,
  type ReadAt,
  type WriteAt,
  type Written,
} from './conversion.ts';

const PERCENT = 100;
const inputOf = (meaning: Meaning): string => /\d+/.exec(meaning)?.[0] ?? '';

interface Part {
  readonly parameter: Parameter;
  readonly value: number;
  /** One of its own unit in hertz. */
  readonly factor: number;
  readonly facts: readonly UsedFact[];
}

/** A speed of the curve by what it states, with the way to hertz. */
function speedPart(at: Place, stated: string): Result<Part, Untold> {
  const part = at.set.part(meaningOf(stated));
  if (!part.ok) return part;
  const scale = scaleOf({ ...at, parameter: part.value.parameter });
  if (!scale.ok) return scale;
  return ok({ ...part.value, factor: scale.value.factor, facts: scale.value.facts });
}

/** The signal is the actual value of the loop while that is on and takes it from here. */
const isActualValue = ({ set, meaning }: Place): boolean =>
  set.choice(meaningOf('loop.feedback')) === `analog-${inputOf(meaning)}` &&
  (set.choice(meaningOf('loop.mode')) ?? 'off') !== 'off';

function curve(
  at: ReadAt,
  conversion: 'end-points' | 'gain-and-bias' | 'two-points' | 'full-scale',
  points: readonly CurvePoint[],
  parts: readonly Part[],
): PlainCurve {
  const facts = [
    ...parts.slice(1).map(({ parameter, value }) => ({
      what: parameter.meaning ?? '',
      code: parameter.code,
      value,
      unit: parameter.form.kind === 'number' ? parameter.form.unit : '',
    })),
    ...(parts[0]?.facts ?? []),
  ];
  const steps = parts.map(({ parameter: { form }, factor }) =>
    form.kind === 'number' ? stepOf(form) * Math.abs(factor) : 0,
  );
  const codes: readonly Code[] = parts.map(({ parameter }) => parameter.code);
  const own = { value: at.own, unit: at.parameter.form.kind === 'number' ? at.parameter.form.unit : '' };
  return {
    kind: 'curve',
    points: points.map(({ signal, value }) => ({ signal: tidy(signal), value: tidy(value) })),
    unit: 'Hz',
    step: tidy(Math.max(...steps)),
    codes,
    how: { conversion, own, facts },
  };
}

/** The ends of a wanted curve where it is straight all the way. */
function straight(at: WriteAt): Result<{ readonly low: number; readonly high: number }, Written> {
  const { wanted } = at;
  if (wanted.kind !== 'curve') return fail(impossible('other-kind'));
  const [low, high] = [curveAt(wanted, 0), curveAt(wanted, 1)];
  const bent = wanted.points.some(
    ({ signal, value }) => Math.abs(low + (high - low) * signal - value) > wanted.step / 2 + 1e-9,
  );
  return bent ? fail(impossible('not-straight')) : ok({ low, high });
}

export const endPoints: Conversion = {
  read(at) {
    const input = `analog.${inputOf(at.meaning)}`;
    if (isActualValue(at)) return nothing({ code: 'other-use' }, [at.parameter.code]);
    const [low, high] = [speedPart(at, `${input}.low`), speedPart(at, `${input}.high`)];
    const codes = codesOf(at, `${input}.low`, `${input}.high`);
    if (!low.ok) return nothing(low.fault, codes);
    if (!high.ok) return nothing(high.fault, codes);
    const points = [low.value, high.value].map(({ value, factor }, signal) => ({
      signal,
      value: value * factor,
    }));
    return curve(at, 'end-points', points, [low.value, high.value]);
  },
  write(at) {
    const input = `analog.${inputOf(at.meaning)}`;
    const [low, high] = [speedPart(at, `${input}.low`), speedPart(at, `${input}.high`)];
    const ends = straight(at);
    if (!ends.ok) return ends.fault;
    if (!low.ok) return untold(low.fault);
    if (!high.ok) return untold(high.fault);
    if (low.value.factor === 0) return untold({ code: 'divisor', what: at.meaning });
    return nearestOf(at, [
      [low.value.parameter, ends.value.low / low.value.factor],
      [high.value.parameter, ends.value.high / high.value.factor],
    ]);
  },
};

export const gainAndBias: Conversion = {
  read(at) {
    const input = `analog.${inputOf(at.meaning)}`;
    if (isActualValue(at)) return nothing({ code: 'other-use' }, [at.parameter.code]);
    const [gain, bias] = [speedPart(at, `${input}.gain`), speedPart(at, `${input}.bias`)];
    const codes = codesOf(at, `${input}.gain`, `${input}.bias`);
    if (!gain.ok) return nothing(gain.fault, codes);
    if (!bias.ok) return nothing(bias.fault, codes);
    const top = gain.value.factor * PERCENT;
    const [g, b] = [gain.value.value / PERCENT, bias.value.value / PERCENT];
    const bends = g === 0 ? [] : [-b / g, (1 - b) / g].filter((signal) => signal > 0 && signal < 1);
    const points = [0, ...bends, 1]
      .sort((one, other) => one - other)
      .map((signal) => ({ signal, value: top * Math.max(0, Math.min(1, g * signal + b)) }));
    return curve(at, 'gain-and-bias', points, [gain.value, bias.value]);
  },
  write(at) {
    const input = `analog.${inputOf(at.meaning)}`;
    const [gain, bias] = [speedPart(at, `${input}.gain`), speedPart(at, `${input}.bias`)];
    if (at.wanted.kind !== 'curve') return impossible('other-kind');
    if (!gain.ok) return untold(gain.fault);
    if (!bias.ok) return untold(bias.fault);
    const { factor } = gain.value;
    if (factor === 0) return untold({ code: 'divisor', what: at.meaning });
    const slope = sloping(at.wanted);
    if (!slope) return impossible('not-straight');
    if (slope.rise < 0) return impossible('falling');
    return nearestOf(at, [
      [gain.value.parameter, slope.rise / factor],
      [bias.value.parameter, slope.start / factor],
    ]);
  },
};

/** The one piece of a curve that is not level, as a line from the start of the signal; level curves have none to find. */
function sloping(wanted: PlainCurve): { readonly start: number; readonly rise: number } | undefined {
  const pieces = wanted.points.slice(1).flatMap((right, at) => {
    const left = wanted.points[at];
    return left && right.signal > left.signal && Math.abs(right.value - left.value) > 1e-9
      ? [{ left, right }]
      : [];
  });
  const [first, second] = pieces;
  if (!first) return { start: curveAt(wanted, 0), rise: 0 };
  if (second) return undefined;
  const { left, right } = first;
  const rise = (right.value - left.value) / (right.signal - left.signal);
  return { start: left.value - rise * left.signal, rise };
}

export const twoPoints: Conversion = {
  read(at) {
    const parts = pointParts(at);
    if (!parts.ok) return nothing(parts.fault, codesOf(at, ...pointNames(at)));
    const { low, lowSpeed, high, highSpeed } = parts.value;
    const [a, b] = [low.value / PERCENT, high.value / PERCENT];
    if (a === b) return nothing({ code: 'points-equal' }, [at.parameter.code, high.parameter.code]);
    const ends = [
      { signal: a, value: lowSpeed.value * lowSpeed.factor },
      { signal: b, value: highSpeed.value * highSpeed.factor },
    ].sort((one, other) => one.signal - other.signal);
    const [first, last] = ends as [CurvePoint, CurvePoint];
    const points = [
      ...(first.signal > 0 ? [{ signal: 0, value: first.value }] : []),
      ...ends,
      ...(last.signal < 1 ? [{ signal: 1, value: last.value }] : []),
    ];
    const speeds = [lowSpeed, highSpeed].map((part) => part);
    const signals = [low, high].map((part) => ({ ...part, factor: 0, facts: [] }));
    return curve(at, 'two-points', points, [...speeds, ...signals]);
  },
  write(at) {
    const parts = pointParts(at);
    const { wanted } = at;
    if (wanted.kind !== 'curve') return impossible('other-kind');
    if (!parts.ok) return untold(parts.fault);
    const { low, lowSpeed, high, highSpeed } = parts.value;
    if (lowSpeed.factor === 0) return untold({ code: 'divisor', what: at.meaning });
    const corners = cornersOf(wanted);
    if (!corners) return impossible('not-straight');
    const [first, last] = corners;
    return nearestOf(at, [
      [low.parameter, first.signal * PERCENT],
      [lowSpeed.parameter, first.value / lowSpeed.factor],
      [high.parameter, last.signal * PERCENT],
      [highSpeed.parameter, last.value / highSpeed.factor],
    ]);
  },
};

/** The ends of the one piece that is not level. */
function cornersOf(wanted: PlainCurve): readonly [CurvePoint, CurvePoint] | undefined {
  const slope = sloping(wanted);
  if (!slope) return undefined;
  if (slope.rise === 0)
    return [
      { signal: 0, value: slope.start },
      { signal: 1, value: slope.start },
    ];
  const on = wanted.points.filter(
    ({ signal, value }) => Math.abs(slope.start + slope.rise * signal - value) < 1e-6,
  );
  const [first, last] = [on[0], on.at(-1)];
  return first && last ? [first, last] : undefined;
}

interface PointParts {
  readonly low: { readonly value: number; readonly parameter: Parameter };
  readonly lowSpeed: Part;
  readonly high: { readonly value: number; readonly parameter: Parameter };
  readonly highSpeed: Part;
}

const pointNames = ({ meaning }: Place): readonly string[] =>
  ['pointLow.signal', 'pointLow.speed', 'pointHigh.signal', 'pointHigh.speed'].map(
    (part) => `analog.${inputOf(meaning)}.${part}`,
  );

function pointParts(at: Place): Result<PointParts, Untold> {
  const input = `analog.${inputOf(at.meaning)}`;
  if (isActualValue(at)) return fail({ code: 'other-use' });
  const [low, high] = [
    at.set.part(meaningOf(`${input}.pointLow.signal`)),
    at.set.part(meaningOf(`${input}.pointHigh.signal`)),
  ];
  const [lowSpeed, highSpeed] = [
    speedPart(at, `${input}.pointLow.speed`),
    speedPart(at, `${input}.pointHigh.speed`),
  ];
  if (!low.ok) return low;
  if (!high.ok) return high;
  if (!lowSpeed.ok) return lowSpeed;
  if (!highSpeed.ok) return highSpeed;
  return ok({ low: low.value, lowSpeed: lowSpeed.value, high: high.value, highSpeed: highSpeed.value });
}

/** Volts at the end of the signal, which goes from −10 V to 10 V. */
const FULL_VOLTS = 10;
const MILLIVOLTS = 1000;

export const fullScale: Conversion = {
  read(at) {
    const input = `analog.${inputOf(at.meaning)}`;
    const codes = codesOf(at, `${input}.full`, `${input}.offset`);
    if ((at.set.choice(meaningOf(`${input}.use`)) ?? 'speed') !== 'speed')
      return nothing({ code: 'other-use' }, codes);
    const full = speedPart(at, `${input}.full`);
    if (!full.ok) return nothing(full.fault, codes);
    const offset = at.set.part(meaningOf(`${input}.offset`));
    if (!offset.ok) return nothing(offset.fault, codes);
    const at10 = full.value.value * full.value.factor;
    const volts = offset.value.value / MILLIVOLTS;
    const points = [-FULL_VOLTS, FULL_VOLTS].map((u, signal) => ({
      signal,
      value: (at10 * (u - volts)) / FULL_VOLTS,
    }));
    const moved = { ...offset.value, factor: at10 / FULL_VOLTS / MILLIVOLTS, facts: [] };
    return curve(at, 'full-scale', points, [full.value, moved]);
  },
  write(at) {
    const input = `analog.${inputOf(at.meaning)}`;
    const full = speedPart(at, `${input}.full`);
    const offset = at.set.part(meaningOf(`${input}.offset`));
    const ends = straight(at);
    if (!ends.ok) return ends.fault;
    if (!full.ok) return untold(full.fault);
    if (!offset.ok) return untold(offset.fault);
    const at10 = (ends.value.high - ends.value.low) / 2;
    if (at10 === 0 || full.value.factor === 0) return untold({ code: 'divisor', what: at.meaning });
    const volts = (-FULL_VOLTS * (ends.value.high + ends.value.low)) / 2 / at10;
    return nearestOf(at, [
      [full.value.parameter, at10 / full.value.factor],
      [offset.value.parameter, volts * MILLIVOLTS],
    ]);
  },
};
