import type { TraceSignal } from '@drive-keep/core/signals';

/** In ms since the trace began. */
export interface TraceMarker {
  readonly at: number;
  readonly text: string;
}

/** What the unit itself held when the trace began; nothing where it has no such setting or did not tell it. */
export interface TraceSettings {
  readonly rampUp: number | null;
  readonly rampDown: number | null;
  /** Hz to which the ramp times count. */
  readonly top: number | null;
  readonly roundUp: number;
  readonly roundDown: number;
}

export interface TraceListing {
  readonly id: string;
  readonly title: string;
  readonly state: 'recording' | 'kept';
  readonly beganAt: string;
  readonly beganBy: string;
  readonly endedAt: string | null;
  /** Why it ended before its time, or that it was brought as a file; empty otherwise. */
  readonly endedWhy: string;
  readonly signals: readonly TraceSignal[];
  readonly samples: number;
}

export interface TraceView extends TraceListing {
  readonly tag: string;
  readonly duty: string;
  readonly dictionary: string;
  readonly serial: number | null;
  readonly everyMs: number;
  readonly seconds: number;
  readonly settings: TraceSettings;
  readonly markers: readonly TraceMarker[];
}
