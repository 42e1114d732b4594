// Papers as PDF, in a process of their own: laying out a hundred pages takes seconds in which a server would answer
// nobody. The fonts come with the application; nothing is fetched. Plain JavaScript, so that it runs alike from sources
// and when built.

import { createRequire } from 'node:module';
import { constants, setPriority } from 'node:os';
import { dirname, join } from 'node:path';
import pdfmake from 'pdfmake';
import workerpool from 'workerpool';

const require = createRequire(import.meta.url);
const folderOf = (name) => dirname(require.resolve(`${name}/package.json`));
const atkinson = (kind, weight) =>
  join(
    folderOf(`@fontsource/atkinson-hyperlegible-${kind}`),
    'files',
    `atkinson-hyperlegible-${kind}-latin-${weight}-normal.woff`,
  );
const dejaVu = (weight) => join(folderOf('dejavu-fonts-ttf'), 'ttf', `DejaVuSans${weight}.ttf`);

const FONTS = {
  Text: { normal: atkinson('next', 400), bold: atkinson('next', 700) },
  Code: { normal: atkinson('mono', 400), bold: atkinson('mono', 700) },
  // Ω, arrows and shapes, which the others lack.
  Signs: { normal: dejaVu(''), bold: dejaVu('-Bold') },
};
const files = new Set(Object.values(FONTS).flatMap((font) => Object.values(font)));

pdfmake.setFonts(FONTS);
pdfmake.setLocalAccessPolicy((path) => files.has(path));
pdfmake.setUrlAccessPolicy(() => false);

const INK = '#231d2d';
const SOFT = '#5f5769';
const RULE = '#dbd2c2';
const MARKED = '#fbe7b4';
/** A4 without its margins, in points. */
const WIDTH = 595 - 2 * 40;

/** Signs that the text fonts have: Latin-1 and the marks of good typography. */
const KNOWN = /^[\u0020-\u007e\u00a0-\u00b4\u00b6-\u00ff–—‘’“”•…−]+$/;

/** Text in runs, each in a font that has its signs. */
function runs(text, more = {}) {
  const parts = [];
  for (const sign of text) {
    const font = KNOWN.test(sign) ? undefined : 'Signs';
    const last = parts.at(-1);
    if (last && last.font === font) last.text += sign;
    else parts.push({ text: sign, ...(font ? { font } : {}) });
  }
  return { text: parts, ...more };
}

const LOOKS = { code: { font: 'Code', fontSize: 8.5 }, value: { font: 'Code', fontSize: 8.5 } };

function table(columns, rows) {
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      // Cells have a padding of 4 on both sides.
      widths: columns.map(({ share }) => share * WIDTH - 8),
      body: [
        columns.map(({ heading }) => ({ text: heading, color: SOFT, fontSize: 8 })),
        ...rows.map(({ cells, marked }) =>
          cells.map((cell, at) =>
            runs(cell, {
              ...LOOKS[columns[at].look],
              ...(marked ? { bold: true, fillColor: MARKED } : {}),
            }),
          ),
        ),
      ],
    },
    layout: {
      hLineWidth: () => 0.5,
      vLineWidth: () => 0,
      hLineColor: () => RULE,
      paddingTop: () => 2,
      paddingBottom: () => 2,
    },
  };
}

const signature = ({ what, by, at }) => ({
  unbreakable: true,
  margin: [0, 18, 0, 0],
  columns: [
    { width: 210, stack: [runs(what, { fontSize: 8.5, color: SOFT })] },
    by === ''
      ? {
          width: '*',
          stack: [
            { canvas: [{ type: 'line', x1: 0, y1: 14, x2: 280, y2: 14, lineWidth: 0.5, lineColor: INK }] },
            { text: 'name, date', fontSize: 7, color: SOFT },
          ],
        }
      : { width: '*', text: `signed by ${by}, ${at}`, bold: true },
  ],
});

function definition(paper) {
  const { title, about, plant, facts, columns, parts, nothing, signatures, printed } = paper;
  return {
    pageSize: 'A4',
    pageMargins: [40, 56, 40, 52],
    defaultStyle: { font: 'Text', fontSize: 9, color: INK },
    info: { title: `${title} ${about}`, creator: 'Drive Keep', producer: 'Drive Keep' },
    header: (page) =>
      page === 1
        ? undefined
        : runs(`${title} · ${about}`, { margin: [40, 26, 40, 0], fontSize: 8, color: SOFT }),
    footer: (page, pages) => ({
      margin: [40, 14, 40, 0],
      fontSize: 8,
      color: SOFT,
      columns: [
        runs(`${plant} · printed ${printed}`),
        { text: `page ${page} of ${pages}`, alignment: 'right', width: 90 },
      ],
    }),
    content: [
      { text: title, fontSize: 18, bold: true },
      runs(about, { fontSize: 11, margin: [0, 2, 0, 8] }),
      {
        table: {
          widths: [70, '*'],
          body: facts.map(([name, text]) => [
            { text: name, color: SOFT },
            runs(text, text.startsWith('sha256:') ? { font: 'Code', fontSize: 7.5 } : {}),
          ]),
        },
        layout: 'noBorders',
      },
      ...(parts.length === 0 ? [{ text: nothing, margin: [0, 14, 0, 0] }] : []),
      ...parts.map(({ name, rows }) => ({
        stack: [{ text: name, bold: true, fontSize: 11, margin: [0, 12, 0, 3] }, table(columns, rows)],
        // A heading alone at the foot of a page is of no use.
        unbreakable: rows.length < 8,
      })),
      ...signatures.map(signature),
    ],
  };
}

/** Labels of 70 by 37 mm, three by eight on A4, in points. */
const LABEL = { width: 595.28 / 3, height: 841.89 / 8, rows: 8, columns: 3 };

const labelCell = (label, plant) =>
  label
    ? {
        margin: [10, 12, 6, 0],
        columns: [
          { width: 82, qr: label.address, fit: 78, eccLevel: 'M' },
          {
            width: '*',
            stack: [
              runs(label.tag, { bold: true, fontSize: label.tag.length > 12 ? 10 : 13 }),
              runs(shortened(label.duty, 64), { fontSize: 8, margin: [0, 3, 0, 3] }),
              runs(shortened(plant, 40), { fontSize: 6.5, color: SOFT }),
            ],
          },
        ],
      }
    : { text: '' };

const shortened = (text, most) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

function labelSheets({ labels, plant, skip }) {
  const places = [...Array.from({ length: skip }, () => undefined), ...labels];
  const rows = [];
  for (let at = 0; at < places.length; at += LABEL.columns)
    rows.push(Array.from({ length: LABEL.columns }, (_, column) => labelCell(places[at + column], plant)));
  return {
    pageSize: 'A4',
    pageMargins: [0, 0, 0, 0],
    defaultStyle: { font: 'Text', fontSize: 9, color: INK },
    info: { title: `Labels of ${plant}`, creator: 'Drive Keep', producer: 'Drive Keep' },
    content: {
      table: {
        dontBreakRows: true,
        widths: Array.from({ length: LABEL.columns }, () => LABEL.width),
        // A hair less, so that eight rows fit on their page.
        heights: () => LABEL.height - 0.05,
        body: rows,
      },
      layout: {
        defaultBorder: false,
        ...{ hLineWidth: () => 0, vLineWidth: () => 0 },
        ...{ paddingLeft: () => 0, paddingRight: () => 0, paddingTop: () => 0, paddingBottom: () => 0 },
      },
    },
  };
}

// Whoever waits for a screen goes first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

workerpool.worker({
  work: (paper) =>
    pdfmake
      .createPdf(paper.kind === 'labels' ? labelSheets(paper) : definition(paper))
      .getBuffer()
      .then(
        (buffer) => ({ bytes: new Uint8Array(buffer) }),
        () => ({}),
      ),
});
