// A file as it was uploaded: a spreadsheet, or text in UTF-8 or in UTF-16 with its mark. Other encodings are refused: a
// wrong guess would change texts without anybody noticing.

import type { Table } from '@drive-keep/core/values';
import { ProblemException } from '../problems/problem.ts';
import { describeSheetFault, isSpreadsheet, readSheet } from './spreadsheet.ts';

export interface UploadedFile {
  readonly originalname: string;
  readonly buffer: Buffer;
}

export type FileContent =
  { readonly kind: 'sheet'; readonly table: Table } | { readonly kind: 'text'; readonly text: string };

/** A set or dictionary of 2000 parameters is below 1 MB; everything near this limit is another kind of file. */
export const MOST_BYTES = 5_000_000;

export async function contentOf({ buffer }: UploadedFile): Promise<FileContent> {
  if (!isSpreadsheet(buffer)) return { kind: 'text', text: decode(buffer) };
  const sheet = await readSheet(buffer);
  if (sheet.ok) return { kind: 'sheet', table: sheet.value };
  throw new ProblemException(422, 'spreadsheet', describeSheetFault(sheet.fault));
}

function decode(bytes: Buffer): string {
  const [first, second] = bytes;
  const encoding =
    first === 0xff && second === 0xfe ? 'utf-16le' : first === 0xfe && second === 0xff ? 'utf-16be' : 'utf-8';
  try {
    const text = new TextDecoder(encoding, { fatal: true }).decode(bytes);
    if (!text.includes('\u0000')) return text;
  } catch {
    // Falls through to the problem below.
  }
  throw new ProblemException(
    422,
    'encoding',
    'The file is not text in UTF-8. Save it as "CSV UTF-8" and choose it again. Nothing was kept.',
  );
}

export function givenFile(file: UploadedFile | undefined, what: string): UploadedFile {
  if (file) return file;
  throw new ProblemException(400, 'file-missing', `No file was sent. Choose ${what}.`);
}
