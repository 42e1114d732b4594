// A paper as data: what it is about, its parts as tables, who has signed and who may still. It is printed as PDF or left
// as a table; both say the same.

export interface PaperColumn {
  readonly heading: string;
  /** Share of the width of the page. */
  readonly share: number;
  readonly look?: 'code' | 'value';
}

export interface PaperRow {
  readonly cells: readonly string[];
  /** Differs from what it is compared with; printed bold. */
  readonly marked: boolean;
}

export interface Paper {
  readonly title: string;
  readonly about: string;
  readonly plant: string;
  /** Position and unit, then what is told of the sets, with their hashes. */
  readonly facts: readonly (readonly [string, string])[];
  readonly columns: readonly PaperColumn[];
  readonly parts: readonly { readonly name: string; readonly rows: readonly PaperRow[] }[];
  /** Said where there is no row at all. */
  readonly nothing: string;
  readonly signatures: readonly PaperSignature[];
  readonly printed: string;
}

/** With a name it has been signed; without one there is a line to sign on. */
export interface PaperSignature {
  readonly what: string;
  readonly by: string;
  readonly at: string;
}
