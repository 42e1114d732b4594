// What is reckoned from a trace: ramps against their settings, the course that the settings predict, and a step of the loop.

import type { TraceSettings } from '@drive-keep/api';
import {
  predictedCourse,
  rampsIn,
  stepFigures,
  valuesOf,
  type MeasuredRamp,
  type Point,
  type RampSetting,
  type StepResult,
  type Trace,
} from '@drive-keep/core/signals';

/** A set-point is seen to have changed so long after the ramp has begun. */
const ASKED_SECONDS = 0.4;

export interface FiguresInput {
  readonly trace: Trace;
  readonly settings: TraceSettings;
}

export interface Figures {
  readonly ramps: readonly MeasuredRamp[];
  /** Courses that the settings predict, as a trace of their own; nothing where they predict none. */
  readonly predicted: Trace | undefined;
  /** Nothing where the trace has no loop in it. */
  readonly step: StepResult | undefined;
  readonly stepUnit: string;
}

export function figuresOf(trace: Trace, settings: TraceSettings): Figures {
  const frequency = pointsOf(trace, 'frequency');
  const setpoint = pointsOf(trace, 'setpoint');
  const setting = settingIn(settings);
  const [first] = frequency ?? [];
  const course =
    setting && setpoint && first && sameUnit(trace)
      ? predictedCourse(setpoint, first.value, setting)
      : undefined;
  const [actual, wanted] = [pointsOf(trace, 'loopActual'), pointsOf(trace, 'loopSetpoint')];
  return {
    ramps: frequency && setting ? rampsIn(frequency, setting).filter((ramp) => isAsked(ramp, trace)) : [],
    predicted: course ? asTrace(course) : undefined,
    step: actual && wanted ? stepFigures(actual, wanted) : undefined,
    stepUnit: trace.signals.find(({ meaning }) => meaning === 'loopActual')?.unit ?? '',
  };
}

/** In thousandths of a hertz. */
const PREDICTED = { meaning: 'frequency', code: '', unit: 'Hz', step: 1, places: 3 };

const asTrace = (course: readonly Point[]): Trace => ({
  signals: [PREDICTED],
  times: course.map(({ at }) => Math.round(at * 1000)),
  values: [course.map(({ value }) => Math.round(value * 1000))],
});

/** In seconds and in its unit; what was not answered is left out. */
export function pointsOf(trace: Trace, meaning: string): readonly Point[] | undefined {
  const index = trace.signals.findIndex((each) => each.meaning === meaning);
  if (index === -1) return undefined;
  return valuesOf(trace, index).flatMap((value, at) =>
    value === null ? [] : [{ at: (trace.times[at] ?? 0) / 1000, value }],
  );
}

/** Its set-point stood while it went: what a loop or a hand on a signal asks for bit by bit is no ramp. */
function isAsked({ from, to }: MeasuredRamp, trace: Trace): boolean {
  const setpoint = pointsOf(trace, 'setpoint');
  if (!setpoint) return pointsOf(trace, 'loopActual') === undefined;
  const seen = setpoint.filter(({ at }) => at > from.at + ASKED_SECONDS && at < to.at);
  return new Set(seen.map(({ value }) => value)).size <= 1;
}

/** A set-point in percent predicts no frequency. */
const sameUnit = ({ signals }: Trace): boolean =>
  signals.find(({ meaning }) => meaning === 'setpoint')?.unit === 'Hz';

function settingIn({ rampUp, rampDown, top, roundUp, roundDown }: TraceSettings): RampSetting | undefined {
  return top === null ? undefined : { up: rampUp, down: rampDown, top, roundUp, roundDown };
}
