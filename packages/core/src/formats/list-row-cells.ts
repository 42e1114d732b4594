// The cells of one row of a maker's list by what their columns hold, and what is to be said of them.

import type { Access } from '../dictionary/index.ts';
import { finding, type FactsOf, type Finding, type FindingCode } from '../findings/index.ts';
import type { ColumnUse, HeadingTold } from './list-headings.ts';
import { numberWithUnit, type DecimalMark, type WrittenNumber } from './list-number.ts';
import type { ListRow } from './list-rows.ts';

/** What the columns hold, and what somebody has said of words that are not understood. */
export interface ListReading {
  readonly columns: ReadonlyMap<ColumnUse, { readonly heading: string; readonly told: HeadingTold }>;
  readonly mark: DecimalMark;
  /** Codes of the list: `014` as a limit is no number where there is a parameter of that code. */
  readonly codes: ReadonlySet<string>;
  /** What a word in the column of the access means here. */
  readonly access: ReadonlyMap<string, Access>;
}

/** What makers write where they tell nothing. */
const NOTHING_TOLD = /^(?:[?–—-]+|n\/?a\.?|tbd|unknown|unbekannt|inconnu|desconocido|sconosciuto|onbekend)$/i;
/** In the catalogue's columns: it is not told. */
export const UNTOLD = '?';

export const isTold = (text: string): boolean => text !== '' && !NOTHING_TOLD.test(text);

export class RowCells {
  protected readonly findings: Finding[] = [];
  protected readonly row: ListRow;
  protected readonly reading: ListReading;

  constructor(row: ListRow, reading: ListReading) {
    this.row = row;
    this.reading = reading;
  }

  protected column = (use: ColumnUse) => this.reading.columns.get(use);

  protected of(use: ColumnUse): string {
    const column = this.column(use);
    return column ? (this.row.cells[column.heading] ?? '').trim() : '';
  }

  protected stored = (use: ColumnUse): boolean => this.row.numeric.has(this.column(use)?.heading ?? '');

  protected say<C extends FindingCode>(
    attention: Finding['attention'],
    use: ColumnUse,
    code: C,
    facts: FactsOf<C>,
  ): void {
    const place = { line: this.row.line, column: this.column(use)?.heading ?? use };
    this.findings.push(finding(attention, place, code, facts));
  }

  protected written = (text: string): WrittenNumber | undefined =>
    this.namesCode(text) ? undefined : numberWithUnit(text, this.reading.mark);

  /** Zeros in front are those of a code. */
  protected namesCode = (text: string): boolean =>
    (text.match(/(?<![\d.,])0\d+(?![\d.,])/g) ?? []).some((each) => this.reading.codes.has(each));

  protected odd(use: ColumnUse, wanted: string): void {
    this.say('stop', use, 'cell-not-understood', { text: this.of(use), wanted });
  }

  /** Cells that say something which has no place in a parameter of this kind. */
  protected unused(uses: readonly ColumnUse[]): void {
    for (const use of uses) {
      const text = this.of(use);
      if (isTold(text)) this.say('look', use, 'cell-not-used', { text });
    }
  }
}
