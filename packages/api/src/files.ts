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
  /** Some values alone: they are kept to be compared and written, and not as a backup. */
  readonly partial: boolean;
  /** The version of the model that the file is of, where it can be carried over to that of the unit. */
  readonly carriesFrom: string | null;
  /** What the file would change, against what is known of the unit. */
  readonly against: readonly FileDifferences[];
  readonly findings: readonly FindingView[];
}

/** What a file says otherwise than a set that is kept. */
export interface FileDifferences {
  readonly reference: 'newest' | 'baseline';
  readonly title: string;
  readonly at: string;
  /** How many there are; the first of them are told. */
  readonly count: number;
  readonly first: readonly {
    readonly code: string;
    readonly name: string;
    readonly before: string;
    readonly after: string;
    readonly change: string;
  }[];
}

/** A file that was kept: as a backup, or as a part of a set. */
export interface ImportedFile {
  readonly backupId: string | null;
  readonly partId: string | null;
  readonly hash: string;
  readonly sameAs: string | null;
}

export interface ImportedBackup {
  readonly backupId: string;
  readonly hash: string;
  readonly sameAs: string | null;
}
