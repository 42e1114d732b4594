import type { Reading } from '@drive-keep/core/values';
import type { FindingView } from './findings.ts';
import type { FunctionEntry, MeaningEntry } from '@drive-keep/core/meanings';

/** The words that all models share, for whoever computes with sets. */
export interface VocabularyView {
  readonly entries: readonly MeaningEntry[];
  readonly functions: readonly FunctionEntry[];
}

/** What a dry run of a position needs: one of its sets, and its newest wiring. */
export interface DryRunView {
  readonly tag: string;
  readonly duty: string;
  /** What set it is: `Baseline, revision 3`. */
  readonly title: string;
  /** When it was read, signed or worked out; nothing for what has no time. */
  readonly at: string | null;
  readonly reference: string;
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  readonly readings: readonly (readonly [code: string, reading: Reading])[];
  /** Rows of its table; none where none was kept. */
  readonly wiring: readonly (readonly string[])[];
  /** 0 where none was kept. */
  readonly wiringRevision: number;
}

/** A file as a set of a model, for a dry run without a drive; nothing is kept. */
export interface DryRunSetView {
  readonly title: string;
  /** False where a finding has to be mended first: nothing is told of such a set. */
  readonly acceptable: boolean;
  readonly findings: readonly FindingView[];
  readonly readings: DryRunView['readings'];
}

export interface DryRunWiringView {
  readonly rows: DryRunView['wiring'];
  readonly findings: readonly FindingView[];
}
