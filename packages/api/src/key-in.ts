import type { StepReason } from './writing.ts';

/** One line of a key-in sheet: a value that is changed, or one that is only looked at. */
export interface KeyInLineView {
  /** Its place on the sheet; marks name it. */
  readonly place: number;
  readonly kind: 'change' | 'check';
  readonly code: string;
  /** What it holds by the newest backup; nothing where that is not known. */
  readonly from: number | null;
  readonly to: number;
  readonly reason: StepReason | null;
  readonly stopped: boolean;
  /** Keys from the line before, and to change the value; 0 for a check. */
  readonly way: number;
  readonly edit: number;
}

export const KEY_IN_MARKS = ['done', 'other-found'] as const;

/** What a person says of one line at the keypad. */
export interface KeyInMark {
  readonly place: number;
  /** Done or seen as wanted; another value found there; nothing: taken back. */
  readonly state: (typeof KEY_IN_MARKS)[number] | null;
  /** The raw value that was found instead. */
  readonly found: number | null;
  readonly note: string;
  /** When it was marked, by the device it was marked on. */
  readonly at: string;
}

/** What somebody else said of the same line, and it was something else: both stay on the sheet. */
export type OtherKeyInMark = Omit<KeyInMark, 'place'> & { readonly by: string };

export interface KeptKeyInMark extends KeyInMark {
  readonly by: string;
  readonly other: OtherKeyInMark | null;
}

export interface KeyInSheetView {
  readonly id: string;
  readonly tag: string;
  readonly duty: string;
  readonly dictionary: string;
  readonly model: string;
  readonly rating: string;
  readonly serial: number;
  readonly target: string;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly state: 'open' | 'finished';
  readonly finishedBy: string | null;
  readonly finishedAt: string | null;
  /** What is done before the first line, such as a reset, and after the last one, such as saving; in the manual's words. */
  readonly first: readonly string[];
  readonly afterwards: readonly string[];
  readonly lines: readonly KeyInLineView[];
  readonly unreachable: readonly { readonly code: string; readonly text: string }[];
  readonly presses: number;
  readonly plainPresses: number;
  readonly marks: readonly KeptKeyInMark[];
}
