import type { Reading } from '@drive-keep/core/values';

export interface PeersView {
  readonly dictionary: string;
  /** Of all that are shown: versions of one model count most parameters alike; the others are left out. */
  readonly versions: readonly string[];
  readonly columns: readonly { readonly tag: string; readonly duty: string; readonly at: string }[];
  /** Positions that were asked for and have no backup. */
  readonly withoutBackup: readonly string[];
  readonly rows: readonly PeerRowView[];
  readonly agreed: number;
  readonly leftOut: number;
}

/** Readings, shares and odd places are in the order of the columns. */
export interface PeerRowView {
  readonly code: string;
  readonly readings: readonly (Reading | null)[];
  readonly usual: number | null;
  readonly shares: readonly number[];
  readonly odd: readonly number[];
}

/** Positions of one machine and one model, two at the least. */
export interface PeerGroup {
  readonly name: string;
  readonly tags: readonly string[];
}
