import type { LiveSignal } from '@drive-keep/core/live';
import type { TraceSignal } from '@drive-keep/core/signals';

/** A signal as a trace keeps it. */
export function traceSignal({ meaning, parameter: { code, form } }: LiveSignal): TraceSignal {
  if (form.kind !== 'number') throw new Error(`${code} is no number`);
  return { meaning, code, unit: form.unit, step: form.resolution.step, places: form.resolution.places };
}
