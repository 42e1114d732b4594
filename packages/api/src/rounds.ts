/** Which positions a round backs up; empty lists mean all of them. */
export interface RoundScope {
  readonly areas: readonly string[];
  readonly models: readonly string[];
  readonly criticalities: readonly ('low' | 'middle' | 'high')[];
}

export interface RoundSettings {
  readonly name: string;
  /** Time of day in the plant's time, as 02:00. */
  readonly at: string;
  /** Days of the week, 0 for Sunday. */
  readonly days: readonly number[];
  readonly scope: RoundScope;
  /** How often units that did not answer are tried again, with a growing pause. */
  readonly retries: number;
  /** Nothing is read between these times of day; nothing where there are no quiet hours. */
  readonly quiet: { readonly from: string; readonly to: string } | null;
  readonly enabled: boolean;
}

export interface RoundView extends RoundSettings {
  readonly id: string;
  /** Goes with a change, so that the later of two people is told. */
  readonly version: number;
  /** Positions that it covers now. */
  readonly positions: number;
  readonly next: string | null;
  readonly runs: readonly RoundRunView[];
}

/** One run with all its tries. */
export interface RoundRunView {
  readonly id: string;
  readonly dueAt: string;
  readonly state: 'running' | 'waiting' | 'done';
  readonly tries: number;
  readonly jobId: string | null;
  readonly kept: number;
  /** Kept ones whose content is another than before. */
  readonly changed: readonly string[];
  readonly failed: readonly { readonly tag: string; readonly text: string }[];
}
