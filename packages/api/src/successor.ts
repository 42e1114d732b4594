export interface CrossReferenceView {
  /** Models by their names, whatever their version. */
  readonly old: string;
  readonly fresh: string;
  /** The file; nothing where nobody has written one for this pair. */
  readonly text: string | null;
}
