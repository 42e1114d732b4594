// A code is text. What spreadsheet programs make of it (a date, a number without its zeros) and rows that stand for several codes
// are found here, for every importer alike.

const MONTH = '(jan|feb|m[aä]r|apr|ma[iy]|jun|jul|aug|sep|o[ck]t|nov|de[cz])[a-zäé]*';
const DATES = [
  /^\d{4}-\d{1,2}-\d{1,2}([T ].*)?$/,
  /^\d{1,2}[./-]\d{1,2}[./-]\d{2,4}$/,
  /^\d{1,2}\.\d{1,2}\.$/,
  new RegExp(`^\\d{1,2}[. /-]+${MONTH}\\.?([ -/]*\\d{2,4})?$`, 'i'),
  new RegExp(`^${MONTH}[. /-]+\\d{1,4}$`, 'i'),
];

/** What spreadsheet programs of several languages make of a text such as `4/12`. */
export const looksLikeDate = (text: string): boolean => DATES.some((date) => date.test(text.trim()));

export type CodeFault =
  | 'date'
  /** Kept as a number with a fraction or an exponent: 1.10 and 1.1 look the same. */
  | 'number'
  /** `P1…P5`, `4/01 to 4/06`: several codes in one cell. */
  | 'run'
  | 'formula';

/** Two codes with a mark between them that counts on: the second is of the same shape as the first. */
const RUN = /^(.*?)(\d+)\s*(?:\.{2,3}|…|–|—|~|\s-\s|\s(?:to|bis|à|a|hasta|tot)\s|-(?=\D))\s*(.*?)(\d+)$/i;

/** Why a cell cannot be taken for a code; `stored` where the file keeps it as a number. */
export function codeFault(text: string, stored: boolean): CodeFault | undefined {
  if (/^[=@]/.test(text)) return 'formula';
  if (looksLikeDate(text)) return 'date';
  if (/^\d+(?:\.\d+)?e[+-]?\d+$/i.test(text) && (stored || /[+.]/.test(text))) return 'number';
  if (stored && text.includes('.')) return 'number';
  const [, before = '', from = '', again = '', to = ''] = RUN.exec(text) ?? [];
  if (from !== '' && (again === '' || again === before) && Number(to) > Number(from)) return 'run';
  return undefined;
}

/**
 * Codes from which a spreadsheet has cut zeros: whole numbers kept as numbers among codes that have them (`7` beside `007`). The
 * width that the others have, or nothing.
 */
export function cutZeros(
  codes: readonly { readonly text: string; readonly stored: boolean }[],
): number | undefined {
  const padded = codes.find(({ text, stored }) => !stored && /^0\d+$/.test(text));
  if (!padded) return undefined;
  const shorter = codes.some(
    ({ text, stored }) => stored && /^\d+$/.test(text) && text.length < padded.text.length,
  );
  return shorter ? padded.text.length : undefined;
}
