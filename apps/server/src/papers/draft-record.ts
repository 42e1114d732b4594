// First settings on paper: what was chosen and why, what that sets against the defaults, the wires, what was found, and what the
// contacts must do.

import type { DraftRecord } from '@drive-keep/api';
import { SECTION_NAMES, SECTIONS } from '@drive-keep/core/start';
import type { KeptRevision } from '../drafts/draft-revisions.service.ts';
import { paperTime } from './paper-time.ts';
import type { Paper, PaperRow } from './paper.ts';
import { wiringParts } from './wiring-parts.ts';

export const DRAFT_COLUMNS = [
  { heading: 'Code', share: 0.14, look: 'code' },
  { heading: 'What', share: 0.3 },
  { heading: 'Value', share: 0.22 },
  { heading: 'Why', share: 0.34 },
] as const;

const row = (cells: readonly string[], marked = false): PaperRow => ({ cells, marked });

export const draftFacts = ({ record, revision }: KeptRevision): Paper['facts'] => [
  ['For', record.tag ?? 'a unit still in its box'],
  ['Unit', `${record.dictionary}, ${record.rating}, ${record.region}`],
  ['Begins with', record.begins],
  ['Kept', `${paperTime(revision.keptAt)} by ${revision.keptBy}: ${revision.why}`],
  ['Set', revision.contentHash],
  ['Open', record.sheet.open === 0 ? 'nothing' : `${record.sheet.open} things are not told or not possible`],
];

export function draftParts({ sheet, fields }: DraftRecord): Paper['parts'] {
  const said = new Map(fields.map((each) => [each.key, each]));
  const chosen = SECTIONS.map((section) => ({
    name: `Chosen: ${SECTION_NAMES[section]}`,
    rows: sheet.fields
      .filter(
        ({ section: own, from, key }) => own === section && (from === 'typed' || key.startsWith('ask.')),
      )
      .map(({ key, name, unit, shown, typed, fault, why }) => {
        const word = said.get(key);
        const by = word ? `${word.by}, ${paperTime(new Date(word.at))}` : '';
        const value = shown === '' ? typed : shown;
        return row(
          [
            '',
            name,
            `${value} ${unit}`.trim(),
            [fault ?? '', word?.why ?? '', why, by].filter((each) => each !== '').join(' · '),
          ],
          fault !== null,
        );
      }),
  }));
  const parts = [
    { name: 'Not possible on this model', rows: sheet.refusals.map((text) => row(['', text, '', ''], true)) },
    ...chosen,
    {
      name: 'Set otherwise than delivered',
      rows: sheet.lines.map(({ code, name, value, delivered, why }) =>
        row([code, name, `${value} (delivered: ${delivered})`, why]),
      ),
    },
    {
      name: 'What changes on the way from another unit',
      rows: sheet.carried.map(({ code, name, value, now, why, open }) =>
        row([code, name, `${value} becomes ${now}`, why], open),
      ),
    },
    ...(sheet.wiring.devices.length > 0 ? wiringParts(sheet.wiring) : []),
    {
      name: 'Found by the checks',
      rows: sheet.findings.map(({ attention, text }) => row([attention, text, '', ''], attention === 'stop')),
    },
    {
      name: 'What the contacts must do, and what they do by this set',
      rows: sheet.table.map(({ act, must, does, passed, why }) =>
        row([passed ? 'as it must' : 'not so', act, does, `must: ${must}. ${why}`], !passed),
      ),
    },
  ];
  return parts.filter(({ rows }) => rows.length > 0);
}
