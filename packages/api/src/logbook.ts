export interface LogbookEntry {
  readonly id: string;
  readonly at: string;
  readonly person: string;
  readonly action: string;
  readonly tag: string | null;
  readonly text: string;
}

export interface LogbookPage {
  readonly entries: readonly LogbookEntry[];
  /** Give it as `before` to get older entries; nothing at the end. */
  readonly next: string | null;
}
