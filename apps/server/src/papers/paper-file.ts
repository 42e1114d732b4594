// A paper as a file: PDF for people, CSV and XLSX for spreadsheets.

import { fileURLToPath } from 'node:url';
import { writeTable } from '@drive-keep/core/values';
import { inOwnProcess, type Bounds } from '../file-content/own-process.ts';
import { writeSheets } from '../file-content/spreadsheet.ts';
import { ProblemException } from '../problems/problem.ts';
import type { LabelSheet } from './label-sheet.ts';
import type { Paper } from './paper.ts';

export const PAPER_FORMATS = ['pdf', 'csv', 'xlsx'] as const;
export type PaperFormat = (typeof PAPER_FORMATS)[number];

const PROGRAM = fileURLToPath(new URL('../../workers/paper-process.mjs', import.meta.url));
/** Two thousand rows take some 150 MB and a few seconds. */
const BOUNDS: Bounds = { memoryMb: 512, ms: 30_000 };
/** Characters of a column that has the whole width of a page. */
const PAGE_WIDTH = 160;

export async function writePaper(paper: Paper, format: PaperFormat): Promise<string | Uint8Array> {
  switch (format) {
    case 'pdf':
      return pdfOf(paper);
    case 'csv':
      return writeTable(headings(paper), rows(paper));
    case 'xlsx':
      return writeSheets([
        {
          name: 'Record',
          columns: [
            { heading: 'part', width: 20 },
            ...paper.columns.map(({ heading, share }) => ({
              heading,
              width: Math.max(10, Math.round(share * PAGE_WIDTH)),
            })),
          ],
          rows: rows(paper),
        },
        {
          name: 'About',
          columns: [
            { heading: 'what', width: 24 },
            { heading: 'is', width: 80 },
          ],
          rows: [
            ['paper', `${paper.title}, ${paper.about}`],
            ['plant', paper.plant],
            ...paper.facts.map((fact) => [...fact]),
            ...paper.signatures.map(({ what, by, at }) => [
              what,
              [by, at].filter(Boolean).join(', ') || 'not signed',
            ]),
            ['printed', paper.printed],
          ],
        },
      ]);
  }
}

const headings = ({ columns }: Paper): string[] => [
  'part',
  ...columns.map(({ heading }) => heading.toLowerCase()),
];

const rows = ({ parts }: Paper): string[][] =>
  parts.flatMap(({ name, rows: own }) => own.map(({ cells }) => [name, ...cells]));

/** Labels for cabinets as PDF. */
export const writeLabels = (sheet: LabelSheet): Promise<Uint8Array> => pdfOf(sheet);

async function pdfOf(paper: Paper | LabelSheet): Promise<Uint8Array> {
  const answer = await inOwnProcess<{ bytes?: Uint8Array }>(PROGRAM, paper, BOUNDS);
  if (answer?.bytes) return answer.bytes;
  throw new ProblemException(500, 'paper', 'The paper could not be made. Save it as CSV or XLSX instead.');
}
