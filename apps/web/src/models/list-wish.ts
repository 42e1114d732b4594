// What a person says of a maker's list, as the server is asked with it.

import type { Access } from '@drive-keep/core/dictionary';
import type { ColumnUse } from '@drive-keep/core/formats';

export interface ListWish {
  readonly maker?: string;
  readonly name?: string;
  readonly about?: string;
  readonly firmwareFrom?: string;
  readonly firmwareTo?: string;
  readonly sheet?: string;
  readonly headLine?: number | undefined;
  readonly decimalMark?: 'point' | 'comma';
  readonly assignment?: Readonly<Record<string, ColumnUse>> | undefined;
  readonly leftOut?: readonly number[] | undefined;
  readonly mended?: readonly (readonly [line: number, heading: string, text: string])[] | undefined;
  readonly access?: readonly (readonly [text: string, access: Access])[];
}

/** A cell in other words; what was written there before is gone. */
export const withCell = (wish: ListWish, line: number, heading: string, text: string): ListWish => ({
  mended: [
    ...(wish.mended ?? []).filter(([at, column]) => at !== line || column !== heading),
    [line, heading, text],
  ],
});

export const withAccess = (wish: ListWish, word: string, access: Access): ListWish => ({
  access: [...(wish.access ?? []).filter(([text]) => text !== word), [word, access]],
});

const NAMES = ['maker', 'name', 'about', 'firmwareFrom', 'firmwareTo'] as const;

/** Another file has other rows and columns: what was said about the old ones means nothing for it. */
export const namesOf = (wish: ListWish): ListWish =>
  Object.fromEntries(NAMES.flatMap((name) => (wish[name] === undefined ? [] : [[name, wish[name]]])));

export function formOf(file: File | undefined, wish: ListWish): FormData {
  const form = new FormData();
  for (const [key, value] of Object.entries(wish) as [string, unknown][])
    if (value !== undefined) form.set(key, typeof value === 'string' ? value : JSON.stringify(value));
  if (file) form.set('file', file);
  return form;
}
