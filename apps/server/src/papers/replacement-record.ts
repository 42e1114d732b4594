// The sheet of a replacement on paper: every line with what became of it, who said what, what hands have done. And the wire sheet
// alone, with a box for each line, for a cabinet without a network.

import type { ReplacementView, SayingView } from '@drive-keep/api';
import {
  FIT_STATES,
  FIT_SUBJECTS,
  GROUP_NAMES,
  PHASE_NAMES,
  PHASES,
  type Group,
  type LineText,
  type Point,
  type ReplacementSheet,
} from '@drive-keep/core/replace';
import type { Paper, PaperRow, PaperSignature } from './paper.ts';
import { paperTime } from './paper-time.ts';

export const REPLACEMENT_COLUMNS = [
  { heading: 'Old unit', share: 0.25 },
  { heading: 'What happens, and why', share: 0.35 },
  { heading: 'Successor', share: 0.25 },
  { heading: 'Who', share: 0.15 },
] as const;

export const WIRE_SHEET_COLUMNS = [
  { heading: 'Done', share: 0.14 },
  { heading: 'What', share: 0.46 },
  { heading: 'To know', share: 0.4 },
] as const;
const BOX = '☐';

class Said {
  private readonly words: ReadonlyMap<string, SayingView>;

  constructor({ sayings }: ReplacementView) {
    this.words = new Map(sayings.map((each) => [`${each.part} ${each.line}`, each]));
  }

  of = (part: SayingView['part'], line: string): SayingView | undefined => this.words.get(`${part} ${line}`);

  who(part: SayingView['part'], line: string): string {
    const word = this.of(part, line);
    return word?.value ? `${word.by}, ${paperTime(new Date(word.at))}` : '';
  }
}

const row = (cells: readonly string[], marked = false): PaperRow => ({ cells, marked });

export function replacementParts(sheet: ReplacementSheet, view: ReplacementView): Paper['parts'] {
  const said = new Said(view);
  const points = (name: string, all: readonly Point[]) => ({
    name,
    rows: all.map(({ id, text, accepted }) =>
      row([text, accepted ?? 'open', '', said.who('point', id)], accepted === null),
    ),
  });
  const groups = (Object.keys(GROUP_NAMES) as Group[]).map((group) => ({
    name: `Settings: ${GROUP_NAMES[group]}`,
    rows: sheet.lines
      .filter((line) => line.group === group)
      .map((line) => row(lineCells(line, said), line.open)),
  }));
  const parts = [
    {
      name: 'Fit',
      rows: sheet.fit.map(({ id, what, needs, gives, state, accepted }) =>
        row(
          [
            `${FIT_SUBJECTS[what]}: ${needs}`,
            `${FIT_STATES[state].text}${accepted === null ? '' : `: ${accepted}`}`,
            gives,
            said.who('point', id),
          ],
          (state === 'bad' || state === 'ask') && accepted === null,
        ),
      ),
    },
    ...groups,
    ...hangingParts(sheet, said),
    points('Where function alone does not decide', sheet.doubts),
    points('To be looked at in the cabinet', sheet.cautions),
    points('What they do differently', sheet.behaviour.differences),
    {
      name: 'Who else knows the old unit',
      rows: (sheet.outside?.lines ?? []).map(({ old, fresh }) =>
        row([
          `${old.code} ${old.what}, register ${old.register} (${old.counts}, ${old.words})`.trim(),
          '',
          fresh
            ? `${fresh.code} ${fresh.what}, register ${fresh.register} (${fresh.counts}, ${fresh.words})`.trim()
            : 'nothing like it',
          said.who('point', 'outside'),
        ]),
      ),
    },
    {
      name: 'Done by hands',
      rows: sheet.tasks.map(({ id, text, detail }) => {
        const word = said.of('task', id);
        const note = word?.value?.kind === 'done' ? word.value.note : '';
        return row(
          [
            text,
            [detail, note].filter(Boolean).join(' · '),
            word?.value ? 'done' : 'open',
            said.who('task', id),
          ],
          !word?.value,
        );
      }),
    },
  ];
  return parts.filter(({ rows }) => rows.length > 0);
}

const hangingParts = (sheet: ReplacementSheet, said: Said): Paper['parts'] => [
  {
    name: 'Wires',
    rows: sheet.moves.map(({ number, colour, at, from, to, place }) =>
      row(
        [
          `${from} (${place})`,
          `wire ${[number, colour].filter(Boolean).join(' ')} from ${at}`,
          to ?? 'no place',
          said.who('terminal', from),
        ],
        to === null,
      ),
    ),
  },
  {
    name: 'Links and switches',
    rows: [
      ...sheet.links.map(({ between, was, does, why }) =>
        row([was?.join('–') ?? '', `${does.replaceAll('-', ' ')}. ${why}`, between.join('–'), '']),
      ),
      ...sheet.switches.map((text) => row(['', 'switch on the board', text, ''])),
    ],
  },
];

function lineCells(line: LineText, said: Said): readonly string[] {
  const { id, code, name, value, now, why, question } = line;
  const own = `${code} ${name}: ${value}`;
  const isOld = id.startsWith('old ');
  const word = said.of('setting', id)?.value;
  const answer =
    word?.kind === 'choice'
      ? (question?.choices[word.at] ?? '')
      : word?.kind === 'own' || word?.kind === 'accepted'
        ? word.reason
        : '';
  const asked = question ? `${question.ask} ${answer === '' ? 'Not answered.' : answer}` : answer;
  const set = now.map((each) => `${each.code} ${each.name}: ${each.value}`);
  return [
    isOld ? own : '',
    [why, asked].filter(Boolean).join(' '),
    [...(isOld ? [] : [own]), ...set].join('; '),
    said.who('setting', id),
  ];
}

export function wireSheetParts({ tasks }: ReplacementSheet, view: ReplacementView): Paper['parts'] {
  const said = new Said(view);
  return PHASES.map((phase) => ({
    name: PHASE_NAMES[phase],
    rows: tasks
      .filter((task) => task.phase === phase)
      .map(({ id, text, detail, named }) => {
        const who = said.who('task', id);
        return {
          cells: [who === '' ? `${BOX}${named ? ' name:' : ''}` : `✓ ${who}`, text, detail],
          marked: named,
        };
      }),
  })).filter(({ rows }) => rows.length > 0);
}

/** Baseline and safety function, each by its person; a line to sign on where nobody has yet. */
export function replacementSignatures(
  { tasks }: ReplacementSheet,
  view: ReplacementView,
): readonly PaperSignature[] {
  const { draft } = view.doing;
  const safety = tasks.find(({ id }) => id.startsWith('proof safety'));
  const word = safety && new Said(view).of('task', safety.id);
  return [
    ...(safety
      ? [
          {
            what: 'Safety function validated',
            ...(word?.value ? { by: word.by, at: paperTime(new Date(word.at)) } : { by: '', at: '' }),
          },
        ]
      : []),
    draft !== null && typeof draft !== 'string'
      ? {
          what: `Baseline of the new unit, revision ${draft.revision}`,
          by: draft.by,
          at: paperTime(new Date(draft.at)),
        }
      : { what: 'Baseline of the new unit', by: '', at: '' },
  ];
}
