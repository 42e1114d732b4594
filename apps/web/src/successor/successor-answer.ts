// An old unit and one successor, as sentences: what of it fits, what becomes of each setting and each wire, and whether both do
// the same. Runs in a worker; without one (as in tests) in place.

import type { CrossReferenceView, DryRunView, VocabularyView } from '@drive-keep/api';
import { sameBehaviour, sayDifference, saySameness, type Event } from '@drive-keep/core/behaviour';
import type { Code, Dictionary, Outfit } from '@drive-keep/core/dictionary';
import { Bridge, sayPlain, Vocabulary, type Plain } from '@drive-keep/core/meanings';
import {
  GROUPS,
  parameterOf,
  readCrossReference,
  replace,
  worstOf,
  type Answer,
  type Answers,
  type CrossReference,
  type FitItem,
  type Group,
  type LinkMove,
  type Move,
  type Part,
  type Replacement,
  type SettingLine,
  type Why,
} from '@drive-keep/core/replace';
import { isRaw, isUnreadable, showRaw, type Reading } from '@drive-keep/core/values';
import { wiringOf } from '../dry-run/dry-runner.ts';

export interface SuccessorInput {
  readonly view: DryRunView;
  readonly old: Dictionary;
  readonly onLine: boolean;
  readonly fresh: Dictionary;
  readonly region: string;
  /** Nothing: the smallest rating that fits. */
  readonly rating: string | null;
  readonly cross: CrossReferenceView;
  readonly vocabulary: VocabularyView;
  /** Which choice was taken, by line. */
  readonly choices: Readonly<Record<string, number>>;
  /** Terminals that were chosen, by those of the old unit. */
  readonly terminals: Readonly<Record<string, string>>;
}

export interface LineText {
  readonly id: string;
  readonly group: Group;
  readonly code: string;
  readonly name: string;
  readonly value: string;
  /** What the successor is set to: its codes with their names and values. */
  readonly now: readonly string[];
  readonly why: string;
  readonly question: { readonly ask: string; readonly choices: readonly string[] } | null;
  readonly chosen: number | null;
  readonly proven: boolean;
  readonly open: boolean;
}

export interface SuccessorAnswer {
  /** Faults of the cross-reference, where it cannot be read. */
  readonly faults: readonly { readonly line: number; readonly text: string }[];
  readonly ratings: readonly {
    readonly id: string;
    readonly name: string;
    readonly state: FitItem['state'];
  }[];
  readonly rating: string;
  readonly fit: readonly FitItem[];
  readonly lines: readonly LineText[];
  readonly open: number;
  readonly unproven: number;
  readonly moves: readonly Move[];
  readonly links: readonly LinkMove[];
  readonly switches: readonly string[];
  readonly logic: { readonly old: string | undefined; readonly fresh: string | undefined };
  readonly behaviour: {
    readonly summary: string;
    readonly same: boolean;
    readonly differences: readonly { readonly text: string; readonly events: readonly Event[] }[];
  };
}

const WALK = { mostPairs: 200_000, mostDifferences: 12, keys: false };

export function successorAnswer(input: SuccessorInput): SuccessorAnswer {
  const { view, old, fresh, cross, vocabulary, region } = input;
  const words = new Vocabulary(vocabulary.entries, vocabulary.functions);
  const bridge = new Bridge(words);
  const outfit: Outfit = { rating: view.rating, region: view.region };
  const readings = new Map(view.readings.map(([code, reading]) => [code as Code, reading]));
  const set = bridge.read(old, outfit, readings);
  const unit = { set, outfit, wiring: wiringOf(view.wiring), onLine: input.onLine };
  const read = cross.text === null ? null : readCrossReference(cross.text, old, fresh);
  const reference: CrossReference | null = read?.ok ? read.value : null;
  const answers: Answers = new Map(
    Object.entries(input.choices).map(([id, at]): [string, Answer] => [id, { kind: 'choice', at }]),
  );
  const by = (rating: string): Replacement => {
    const successor = { dictionary: fresh, outfit: { rating, region }, cross: reference };
    return replace(bridge, unit, successor, answers, new Map(Object.entries(input.terminals)));
  };
  const ratings = fresh.ratings.map(({ id, name }) => ({ id, name, state: worstOf(by(id).fit) }));
  const rating =
    ratings.find(({ id }) => id === input.rating)?.id ??
    (ratings.find(({ state }) => state !== 'bad') ?? ratings.at(-1))?.id ??
    '';
  const { fit, settings, wires, machine, old: oldMachine } = by(rating);
  const walked = sameBehaviour(oldMachine, machine, WALK);
  const speaker = { machine, term: words.termOf };
  return {
    ...{
      ratings,
      rating,
      fit,
      open: settings.open,
      moves: wires.moves,
      links: wires.links,
      logic: wires.logic,
    },
    faults: read && !read.ok ? read.fault : [],
    unproven: settings.lines.filter(({ proven }) => !proven).length,
    lines: sorted(settings.lines).map((line) =>
      textOf(line, { old, fresh, term: words.termOf, readings: settings.readings }),
    ),
    switches: Object.entries(wires.wiring.switches).map(([name, place]) => `${name}: ${place}`),
    behaviour: {
      summary: saySameness(walked),
      same: walked.same,
      differences: walked.differences.map((each) => ({
        text: `${sayDifference(each, speaker)}.`,
        events: each.events,
      })),
    },
  };
}

/** What waits for somebody first, then by group. */
const sorted = (lines: readonly SettingLine[]): readonly SettingLine[] =>
  [...lines].sort(
    (a, b) => Number(b.open) - Number(a.open) || GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group),
  );

interface Words {
  readonly old: Dictionary;
  readonly fresh: Dictionary;
  readonly term: (what: string) => string;
  readonly readings: ReadonlyMap<Code, Reading>;
}

function textOf(line: SettingLine, words: Words): LineText {
  const { old, fresh, readings, term } = words;
  const parameter = parameterOf(line, old, fresh);
  const shown = (model: Dictionary, code: Code, reading: Reading | undefined): string => {
    const found = model.parameters.find((each) => each.code === code);
    if (isUnreadable(reading)) return 'could not be read';
    return found && isRaw(reading) ? showRaw(found.form, reading) : 'not kept';
  };
  const isOld = line.id.startsWith('old ');
  const codes = isOld ? [...new Set(line.parts.flatMap((part) => part.codes))] : [];
  return {
    ...{ id: line.id, group: line.group, code: line.code, proven: line.proven, open: line.open },
    name: parameter?.name ?? '',
    value: shown(isOld ? old : fresh, line.code, line.reading),
    now: codes.map((code) => {
      const name = fresh.parameters.find((each) => each.code === code)?.name ?? '';
      return `${code} ${name}: ${shown(fresh, code, readings.get(code))}`;
    }),
    why: [whyText(line.why), ...line.parts.map((part) => partText(part, term))].filter(Boolean).join(' '),
    question: line.question && {
      ask: line.question.ask,
      choices: line.question.choices.map(({ text }) => text),
    },
    chosen: line.answer?.kind === 'choice' ? line.answer.at : null,
  };
}

const WHY: Readonly<Record<Exclude<Why['code'], 'text'>, string>> = {
  'not-set': 'Read, not set.',
  command: 'A command, no setting.',
  'measured-again': 'Of the motor as the old unit measured it: measured again.',
  'never-set': 'Stands as delivered; the successor has nothing like it.',
  'no-meaning': 'No dictionary says what it means for another model.',
  'says-nothing': 'Says something only together with settings that say nothing now.',
  'could-not-be-read': 'Could not be read.',
  bridge: '',
  default: 'Only the successor has it: as delivered.',
};
const whyText = (why: Why): string => (why.code === 'text' ? why.text : WHY[why.code]);

/** Nothing of what is met exactly. */
function partText({ meaning, wanted, now, met }: Part, term: Words['term']): string {
  const said = (plain: Plain) => sayPlain(plain, term);
  switch (met?.kind) {
    case 'exactly':
      return '';
    case 'rounded':
      // Less than what can be shown is not worth a word.
      if (said(wanted) === said(now)) return '';
      return `${term(meaning)}: rounded from ${said(wanted)} to ${said(now)}.`;
    case 'limited':
      return `${term(meaning)}: ${said(wanted)} wanted, ${said(now)} is what it can be.`;
    default:
      return `${term(meaning)} ${said(wanted)}: the successor cannot say it.`;
  }
}
