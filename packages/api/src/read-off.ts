/** A value that somebody read at the keypad and typed in. */
export interface ReadOffEntry {
  readonly code: string;
  readonly raw: number;
  readonly by: string;
  readonly at: string;
}

/** Values read off at a keypad so far; it becomes a backup when it is kept. */
export interface ReadOffView {
  readonly tag: string;
  readonly dictionary: string;
  readonly serial: number;
  readonly startedBy: string;
  readonly startedAt: string;
  readonly entries: readonly ReadOffEntry[];
}

/** What a phone brings back: the value, and what it knew of that parameter before; nothing where it knew none. */
export interface BroughtEntry {
  readonly code: string;
  readonly raw: number;
  readonly at: string;
  readonly before: number | null;
}

/** Somebody else has entered another value meanwhile. Neither is taken until a person has chosen. */
export interface ReadOffConflict {
  readonly code: string;
  readonly mine: number;
  readonly theirs: ReadOffEntry;
}

export interface ReadOffSync {
  readonly readOff: ReadOffView;
  readonly conflicts: readonly ReadOffConflict[];
}
