import type { FindingView } from './findings.ts';

export interface SettingTableView {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly dictionary: string;
  /** CSV. */
  readonly content: string;
  readonly savedBy: string;
  readonly savedAt: string;
  readonly why: string;
}

/** A table as it was understood, before it is kept. */
export interface SettingTablePreview {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly findings: readonly FindingView[];
}
