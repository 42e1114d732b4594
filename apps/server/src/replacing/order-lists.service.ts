// What is to be bought for a model that is replaced: one line a position, and how many of each rating.

import { Injectable } from '@nestjs/common';
import { FIT_STATES } from '@drive-keep/core/replace';
import { writeTable } from '@drive-keep/core/values';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { writeSheets, type SheetToWrite } from '../file-content/spreadsheet.ts';
import { ReplaceLists } from './replace-lists.service.ts';

const COLUMNS = [
  ['tag', 16],
  ['duty', 30],
  ['old_unit', 22],
  ['old_serial', 14],
  ['maker', 14],
  ['model', 14],
  ['rating', 14],
  ['fits', 20],
  ['state', 16],
  ['risk', 40],
] as const;

@Injectable()
export class OrderLists {
  constructor(
    private readonly lists: ReplaceLists,
    private readonly dictionaries: Dictionaries,
  ) {}

  async csv(model: string, dictionaryId: string): Promise<string> {
    return writeTable(
      COLUMNS.map(([name]) => name),
      await this.rows(model, dictionaryId),
    );
  }

  /** The positions on one sheet, and on another how many of each. */
  async xlsx(model: string, dictionaryId: string): Promise<Uint8Array> {
    const rows = await this.rows(model, dictionaryId);
    const counts = new Map<string, number>();
    for (const [, , , , maker, name, rating] of rows) {
      const key = [maker, name, rating].join('\t');
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    const sheets: SheetToWrite[] = [
      {
        name: 'Order',
        columns: ['maker', 'model', 'rating', 'pieces'].map((heading) => ({ heading, width: 16 })),
        rows: [...counts].sort().map(([key, pieces]) => [...key.split('\t'), String(pieces)]),
      },
      { name: 'Positions', columns: COLUMNS.map(([heading, width]) => ({ heading, width })), rows },
    ];
    return writeSheets(sheets);
  }

  /** What sits there already is not ordered. */
  private async rows(model: string, dictionaryId: string): Promise<readonly (readonly string[])[]> {
    const { maker, name } = await this.dictionaries.named(dictionaryId);
    const estimates = new Map(
      (await this.lists.estimates(model, dictionaryId)).map((each) => [each.tag, each]),
    );
    const listed = (await this.lists.models()).find((each) => each.model === model);
    return (listed?.rows ?? []).flatMap((row) => {
      const told = estimates.get(row.tag);
      if (!told) return [];
      const state = row.replacement ? row.replacement.state : 'not begun';
      return [
        [
          row.tag,
          row.duty,
          row.rating,
          String(row.serial),
          maker,
          name,
          told.rating,
          FIT_STATES[told.state].text,
          state,
          row.risks.join('; '),
        ],
      ];
    });
  }
}
