// A sheet of labels as data: 3 by 8 of 70 by 37 mm on A4, as they are sold for printers.

/** On one sheet. */
export const LABELS_ON_SHEET = 24;

export interface Label {
  readonly tag: string;
  readonly duty: string;
  /** What the code on it opens. */
  readonly address: string;
}

export interface LabelSheet {
  readonly kind: 'labels';
  readonly plant: string;
  readonly labels: readonly Label[];
  /** Places of the first sheet that stay empty. */
  readonly skip: number;
}
