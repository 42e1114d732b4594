import type { ExpectedInput } from '@drive-keep/core/live';

/** What a unit shows now, as it comes in. */
export type WatchEvent =
  /** `values` are raw values by code. */
  | {
      readonly kind: 'sample';
      /** In ms since 1970, by the clock of the server, in the middle of the request. */
      readonly at: number;
      readonly values: Readonly<Record<string, number>>;
      /** By the status register; nothing where the model has none. */
      readonly runs: boolean | null;
      readonly faulty: boolean | null;
    }
  /** Nothing has come for a while, and why, as far as it is known. */
  | { readonly kind: 'silent'; readonly text: string }
  | { readonly kind: 'expected'; readonly expected: ExpectedView };

/** What the wiring and the set lead one to expect by the inputs that are seen. */
export interface ExpectedView {
  /** By which set, and when it was read; by which revision of the wiring, 0 where none is kept. */
  readonly by: { readonly title: string; readonly at: string | null; readonly wiringRevision: number };
  readonly inputs: readonly (ExpectedInput & {
    /** What it is for by the set, in words. */
    readonly does: string;
    /** Field devices by name, with what they are. */
    readonly named: string;
  })[];
  readonly outputs: readonly { readonly number: string; readonly does: string }[];
  readonly agrees: boolean | null;
  /** The likeliest first. */
  readonly outcomes: readonly { readonly headline: string; readonly reasons: readonly string[] }[];
}
