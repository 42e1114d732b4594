// A key-in sheet as a paper: what is done first, each change in the order of the keys with a box to tick, what is done
// afterwards. What was marked already is printed, too.

import type { KeptKeyInMark, KeyInLineView, KeyInSheetView } from '@drive-keep/api';
import { findParameter, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { hasBit, showRaw } from '@drive-keep/core/values';
import type { Paper, PaperRow } from './paper.ts';

export const KEY_IN_COLUMNS = [
  { heading: 'Done', share: 0.07 },
  { heading: 'Code', share: 0.1, look: 'code' },
  { heading: 'Parameter', share: 0.29 },
  { heading: 'Holds', share: 0.19, look: 'value' },
  { heading: 'Gets', share: 0.19, look: 'value' },
  { heading: 'Keys, remarks', share: 0.16 },
] as const;

const BOX = '☐';

/** A part for each stretch of one menu: the order of the keys is that of the rows. */
export function keyInParts(dictionary: Dictionary, sheet: KeyInSheetView): Paper['parts'] {
  const marks = new Map(sheet.marks.map((mark) => [mark.place, mark]));
  const parts: { name: string; rows: PaperRow[] }[] = [];
  for (const line of sheet.lines.filter(({ kind }) => kind === 'change')) {
    const parameter = findParameter(dictionary, line.code);
    if (!parameter) continue;
    const name = parameter.menu.join(' › ');
    const row = rowOf(line, parameter, marks.get(line.place));
    const last = parts.at(-1);
    if (last?.name === name) last.rows.push(row);
    else parts.push({ name, rows: [row] });
  }
  const steps = (name: string, texts: readonly string[]): Paper['parts'] =>
    texts.length === 0
      ? []
      : [{ name, rows: texts.map((text) => ({ cells: [BOX, '', text, '', '', ''], marked: false })) }];
  const missed = sheet.unreachable.map(({ code, text }) => ({
    cells: ['', code, text, '', '', ''],
    marked: true,
  }));
  return [
    ...steps('First', sheet.first),
    ...parts,
    ...steps('Afterwards', sheet.afterwards),
    ...(missed.length > 0 ? [{ name: 'Not possible', rows: missed }] : []),
  ];
}

function rowOf(line: KeyInLineView, parameter: Parameter, mark: KeptKeyInMark | undefined): PaperRow {
  const { form } = parameter;
  const remarks = [
    `${line.way === 1 ? '1 key' : `${line.way} keys`} to it, ${line.edit} to change it`,
    ...(line.stopped ? ['only while it stands'] : []),
    ...(mark?.state === 'other-found' ? [`found ${showRaw(form, mark.found ?? 0)} (${mark.by})`] : []),
    ...(mark?.note ? [mark.note] : []),
    ...(mark?.other ? [`${mark.other.by} says something else`] : []),
  ];
  return {
    cells: [
      mark?.state === 'done' ? `✓ ${mark.by}` : BOX,
      line.code,
      parameter.name,
      line.from === null ? 'not known' : valueText(line, line.from, parameter),
      valueText(line, line.to, parameter),
      remarks.join('; '),
    ],
    marked: mark?.state === 'other-found' || Boolean(mark?.other),
  };
}

/** At a keypad the bits of a word are set one by one: those that turn are named. */
function valueText({ from, to }: KeyInLineView, raw: number, { form }: Parameter): string {
  if (form.kind !== 'bits') return showRaw(form, raw);
  const turned = form.bits.filter(({ bit }) => from === null || hasBit(from, bit) !== hasBit(to, bit));
  return turned.map(({ bit, text }) => `bit ${bit} ${text}: ${hasBit(raw, bit) ? 'on' : 'off'}`).join('; ');
}
