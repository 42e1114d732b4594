export interface CrossReferenceView {
  /** Models by their names, whatever their version. */
  readonly old: string;
  readonly fresh: string;
  /** The file; nothing where nobody has written one for this pair. */
  readonly text: string | null;
  /** 0 for what the catalogue ships. */
  readonly revision: number;
  /** Of the plant's own, the newest first. */
  readonly revisions: readonly {
    readonly revision: number;
    readonly savedBy: string;
    readonly savedAt: string;
    readonly why: string;
  }[];
}

/** A pair for which somebody has written what no bridge can know. */
export interface CrossReferencePair {
  readonly old: string;
  readonly fresh: string;
  readonly revision: number;
  /** The catalogue ships one. */
  readonly shipped: boolean;
}
