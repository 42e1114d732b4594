/** What was found in a file, in words. */
export interface FindingView {
  /** Counted from 1; nothing for a finding about the whole file. */
  readonly line: number | null;
  /** Heading of the file; empty where the whole line is meant. */
  readonly column: string;
  /** `stop`: the file is not taken in; `look`: somebody should know. */
  readonly attention: 'stop' | 'look';
  readonly text: string;
}
