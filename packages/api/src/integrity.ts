/** What hashing everything again has found. */
export interface IntegrityReport {
  readonly at: string;
  readonly checked: number;
  readonly damaged: readonly {
    readonly hash: string;
    readonly dictionary: string;
    /** Positions and what of theirs points to it. */
    readonly usedBy: readonly string[];
    readonly restoreFrom: string;
  }[];
}
