/** What hashing everything again has found. */
export interface IntegrityReport {
  readonly at: string;
  /** Contents, and rows of evidence in the chain. */
  readonly checked: number;
  readonly rows: number;
  readonly damaged: readonly {
    readonly hash: string;
    readonly dictionary: string;
    /** Positions and what of theirs points to it. */
    readonly usedBy: readonly string[];
    readonly restoreFrom: string;
  }[];
  /** Everything else that does not fit together. */
  readonly findings: readonly IntegrityFinding[];
}

export interface IntegrityFinding {
  /** What happened to it; `chain` where a link itself is not as it was made. */
  readonly kind: 'changed' | 'gone' | 'added' | 'chain' | 'signature' | 'look';
  /** The table that it is in. */
  readonly what: string;
  readonly text: string;
}
