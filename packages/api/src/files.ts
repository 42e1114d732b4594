/** What would be kept, before anything is. */
export interface ImportPreview {
  readonly fileName: string;
  readonly kind: 'csv' | 'json';
  readonly dictionary: string;
  readonly parameters: number;
  readonly hash: string;
  /** The kept backup with the same content, if there is one. */
  readonly sameAs: string | null;
  /** False where a finding stops the import. */
  readonly acceptable: boolean;
  readonly findings: readonly {
    readonly line: number;
    readonly severity: 'stop' | 'look';
    readonly text: string;
  }[];
}

export interface ImportedBackup {
  readonly backupId: string;
  readonly hash: string;
  readonly sameAs: string | null;
}
