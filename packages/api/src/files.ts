import type { FindingView } from './findings.ts';

/** What would be kept, before anything is. */
export interface ImportPreview {
  readonly fileName: string;
  readonly kind: 'csv' | 'json' | 'xlsx' | 'dcf';
  readonly dictionary: string;
  /** Maker and name of the position's model. */
  readonly model: string;
  /** Models to which codes of the file belong that this one does not know. */
  readonly likelyModels: readonly string[];
  readonly parameters: number;
  /** Settings that the model has. */
  readonly expected: number;
  readonly hash: string;
  /** The kept backup with the same content, if there is one. */
  readonly sameAs: string | null;
  /** False where a finding stops the import. */
  readonly acceptable: boolean;
  readonly findings: readonly FindingView[];
}

export interface ImportedBackup {
  readonly backupId: string;
  readonly hash: string;
  readonly sameAs: string | null;
}
