// The sheet of a replacement as people read it: fit, settings, wires, cautions, same behaviour, what hands have to do, and who
// else knows the old unit. What somebody has said of a line comes in, and what is still open comes out. Every word of it is
// written here, for the screen, for paper and for the record alike.

import {
  mendOf,
  sameBehaviour,
  sayDifference,
  saySameness,
  type Difference,
  type Event,
  type Sameness,
  type WalkOptions,
} from '../behaviour/index.ts';
import { sayPlain, type Bridge, type Plain, type Vocabulary } from '../meanings/index.ts';
import { findParameter, type Code, type Dictionary, type Outfit } from '../dictionary/index.ts';
import { isRaw, isUnreadable, showRaw, type Reading } from '../values/index.ts';
import { cautionsOf, type Caution } from './cautions.ts';
import type { CrossReference } from './cross-reference.ts';
import { worstOf, type FitItem, type FitState } from './fit.ts';
import { outsideTable, type OutsideTable } from './outside.ts';
import { fitAs, replace, type OldUnit, type Replacement } from './replacement.ts';
import {
  GROUPS,
  parameterOf,
  type Answers,
  type Group,
  type Part,
  type SettingLine,
  type Why,
} from './settings.ts';
import { tasksOf, type Task } from './tasks.ts';
import type { ChosenTerminals, LinkMove, Move, MoveDoubt } from './wire-moves.ts';

/** What people have said, each by the name of its line. */
export interface Sayings {
  readonly answers: Answers;
  readonly terminals: ChosenTerminals;
  /** That something is right as it stands, with the reason: `fit size`, `wire 10 which`, `caution contactor`, `difference …`. */
  readonly accepted: ReadonlyMap<string, string>;
}

export const NOTHING_SAID: Sayings = { answers: new Map(), terminals: new Map(), accepted: new Map() };

export interface SheetInput {
  readonly bridge: Bridge;
  readonly words: Vocabulary;
  readonly old: OldUnit;
  readonly fresh: Dictionary;
  readonly region: string;
  /** Nothing: the smallest rating that fits. */
  readonly rating: string | null;
  readonly cross: CrossReference | null;
  readonly sayings: Sayings;
}

export interface LineText {
  readonly id: string;
  readonly group: Group;
  /** What it says, whatever the model. */
  readonly meanings: readonly string[];
  readonly code: string;
  readonly name: string;
  readonly value: string;
  /** What the successor is set to. */
  readonly now: readonly NewValue[];
  readonly why: string;
  readonly question: { readonly ask: string; readonly choices: readonly string[] } | null;
  readonly proven: boolean;
  readonly open: boolean;
}

export interface NewValue {
  readonly code: string;
  readonly name: string;
  readonly value: string;
}

/** Something that somebody has to look at. */
export interface Point {
  readonly id: string;
  readonly text: string;
  /** Why it is right as it stands; nothing while nobody has said so. */
  readonly accepted: string | null;
}

export interface DifferencePoint extends Point {
  readonly events: readonly Event[];
  /** Settings of the successor that would make both do the same here; none where no setting does. */
  readonly mend: readonly (NewValue & { readonly raw: number })[];
}

export interface ReplacementSheet {
  readonly ratings: readonly { readonly id: string; readonly name: string; readonly state: FitState }[];
  readonly rating: string;
  readonly fit: readonly (FitItem & { readonly id: string; readonly accepted: string | null })[];
  readonly lines: readonly LineText[];
  readonly unproven: number;
  readonly moves: readonly Move[];
  readonly doubts: readonly Point[];
  readonly links: readonly LinkMove[];
  readonly switches: readonly string[];
  readonly logic: { readonly old: string | undefined; readonly fresh: string | undefined };
  readonly cautions: readonly Point[];
  readonly behaviour: {
    readonly summary: string;
    readonly same: boolean;
    readonly differences: readonly DifferencePoint[];
  };
  readonly tasks: readonly Task[];
  readonly outside: OutsideTable | null;
  readonly open: OpenPoints;
}

/** How many things of each part wait for somebody. */
export interface OpenPoints {
  readonly fit: number;
  readonly settings: number;
  readonly wires: number;
  readonly behaviour: number;
  readonly outside: number;
}

export const openOf = ({ fit, settings, wires, behaviour, outside }: OpenPoints): number =>
  fit + settings + wires + behaviour + outside;

/** Long enough for every difference that somebody would read. */
const WALK: WalkOptions = { mostPairs: 200_000, mostDifferences: 12, keys: false };

/** The computation without its words: of the rating that was chosen, or of the smallest that fits. */
export function replaceBy(input: SheetInput): {
  readonly ratings: ReplacementSheet['ratings'];
  readonly rating: string;
  readonly replacement: Replacement;
} {
  const { bridge, old, fresh, region, cross, sayings } = input;
  const by = (rating: string): Replacement => {
    const successor = { dictionary: fresh, outfit: { rating, region }, cross };
    return replace(bridge, old, successor, sayings.answers, sayings.terminals);
  };
  const known = fresh.ratings.find(({ id }) => id === input.rating)?.id;
  const first = by(known ?? fresh.ratings[0]?.id ?? '');
  const ratings = fresh.ratings.map(({ id, name }) => {
    const fit = fitAs(bridge, old, fresh, { rating: id, region }, first);
    return { id, name, state: worstOf(fit) };
  });
  const fitting = ratings.find(({ state }) => state !== 'bad') ?? ratings.at(-1);
  const rating = known ?? fitting?.id ?? '';
  return {
    ratings,
    rating,
    replacement: rating === fresh.ratings[0]?.id || rating === known ? first : by(rating),
  };
}

/** `walk` bounds the proof of same behaviour; what it has not looked at it says. */
export function replacementSheet(input: SheetInput, walk: WalkOptions = WALK): ReplacementSheet {
  const { old, fresh, region, words, sayings } = input;
  const { ratings, rating, replacement } = replaceBy(input);
  const { settings, wires, machine } = replacement;
  const point = (id: string, text: string): Point => ({
    ...{ id, text, accepted: sayings.accepted.get(id) ?? null },
  });
  const walked = sameBehaviour(replacement.old, machine, walk);
  const fit = replacement.fit.map((item) => {
    // Loads and signals are several; each is named by what it needs.
    const id = `fit ${item.what}${SEVERAL.includes(item.what) ? ` ${item.needs}` : ''}`;
    return { ...item, id, accepted: sayings.accepted.get(id) ?? null };
  });
  const doubts = doubtsOf(wires.moves, point);
  const cautions = cautionsOf(old.set.dictionary, fresh, old.wiring, wires).map(({ id, text }: Caution) =>
    point(`caution ${id}`, text),
  );
  const differences = differencesOf(walked, replacement, { words, fresh, outfit: { rating, region } }, point);
  const outside = old.onLine ? outsideTable(old.set.dictionary, fresh) : null;
  const unsaid = (points: readonly { readonly accepted: string | null }[]) =>
    points.filter(({ accepted }) => accepted === null).length;
  return {
    ...{ ratings, rating, fit, doubts, cautions, outside },
    ...{ moves: wires.moves, links: wires.links, logic: wires.logic },
    unproven: settings.lines.filter(({ proven }) => !proven).length,
    lines: sorted(settings.lines).map((line) =>
      lineTextOf(line, { old: old.set.dictionary, fresh, term: words.termOf, readings: settings.readings }),
    ),
    switches: Object.entries(wires.wiring.switches).map(([name, place]) => `${name}: ${place}`),
    behaviour: { summary: saySameness(walked), same: walked.same, differences },
    tasks: tasksOf({
      ...{ old: old.set.dictionary, oldOutfit: old.outfit, fresh, outfit: { rating, region } },
      ...{ wiring: old.wiring, wires, after: wires.wiring },
    }),
    open: {
      fit: unsaid(fit.filter(({ state }) => state === 'bad' || state === 'ask')),
      settings: settings.open,
      wires: unsaid(doubts) + unsaid(cautions),
      behaviour: unsaid(differences),
      outside: outside && sayings.accepted.get(OUTSIDE) === undefined ? 1 : 0,
    },
  };
}

const SEVERAL: readonly FitItem['what'][] = ['contacts', 'burden'];

/** Whoever reads and writes the registers of the old unit was told. */
export const OUTSIDE = 'outside';

/** One for each terminal and what is doubtful of it. */
function doubtsOf(moves: readonly Move[], point: (id: string, text: string) => Point): readonly Point[] {
  const found = new Map<string, Point>();
  for (const { from, to, place, at, doubt } of moves) {
    if (!doubt) continue;
    const id = `wire ${from} ${doubt.code}`;
    if (!found.has(id)) found.set(id, point(id, `${from} (${place}, from ${at}): ${doubtText(doubt, to)}`));
  }
  return [...found.values()];
}

function doubtText(doubt: MoveDoubt, to: string | null): string {
  switch (doubt.code) {
    case 'no-place':
      return 'the successor has nothing that does this. Choose a terminal, or say what becomes of the wire.';
    case 'which':
      return `any of ${doubt.of.join(', ')} would do. Choose one.`;
    case 'other-side':
      return `contacts change sides: it goes to ${to ?? 'no place'}, the other side of the supply.`;
    case 'own-supply':
      return `the old unit fed contacts and potentiometer from one terminal; the successor has one for each, and this end goes to ${to ?? 'no place'}.`;
  }
}

function differencesOf(
  { differences }: Sameness,
  { machine, old }: Replacement,
  {
    words,
    fresh,
    outfit,
  }: { readonly words: Vocabulary; readonly fresh: Dictionary; readonly outfit: Outfit },
  point: (id: string, text: string) => Point,
): readonly DifferencePoint[] {
  const speaker = { machine, term: words.termOf };
  // What somebody has said of a difference is said of these words: other words are another difference.
  return differences.map((each: Difference) => {
    const text = `${sayDifference(each, speaker)}.`;
    const mend = [...mendOf(each, old, machine, outfit)].flatMap(([code, raw]) => {
      const parameter = findParameter(fresh, code);
      return parameter ? [{ code, raw, name: parameter.name, value: showRaw(parameter.form, raw) }] : [];
    });
    return { ...point(`difference ${text}`, text), events: each.events, mend };
  });
}

/** What waits for somebody first, then by group. */
const sorted = (lines: readonly SettingLine[]): readonly SettingLine[] =>
  [...lines].sort(
    (a, b) => Number(b.open) - Number(a.open) || GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group),
  );

export interface LineWords {
  readonly old: Dictionary;
  readonly fresh: Dictionary;
  readonly term: (what: string) => string;
  readonly readings: ReadonlyMap<Code, Reading>;
}

/** A line as people read it. */
export function lineTextOf(line: SettingLine, words: LineWords): LineText {
  const { old, fresh, readings, term } = words;
  const shown = (model: Dictionary, code: Code, reading: Reading | undefined): string => {
    const found = model.parameters.find((each) => each.code === code);
    if (isUnreadable(reading)) return 'could not be read';
    return found && isRaw(reading) ? showRaw(found.form, reading) : 'not kept';
  };
  const isOld = line.id.startsWith('old ');
  return {
    ...{ id: line.id, group: line.group, code: line.code, proven: line.proven, open: line.open },
    name: parameterOf(line, old, fresh)?.name ?? '',
    meanings: line.parts.map(({ meaning }): string => meaning),
    value: shown(isOld ? old : fresh, line.code, line.reading),
    now: codesSetBy(line).map((code) => ({
      ...{ code, value: shown(fresh, code, readings.get(code)) },
      name: fresh.parameters.find((each) => each.code === code)?.name ?? '',
    })),
    why: [whyText(line.why), ...line.parts.map((part) => partText(part, term))].filter(Boolean).join(' '),
    question: line.question && {
      ask: line.question.ask,
      choices: line.question.choices.map(({ text }) => text),
    },
  };
}

/** Settings of the successor that say what an old setting says, or that somebody has said for this line. */
function codesSetBy({ id, parts, answer, question }: SettingLine): readonly Code[] {
  const chosen = answer?.kind === 'choice' ? [...(question?.choices[answer.at]?.sets.keys() ?? [])] : [];
  const own = answer?.kind === 'own' ? [...answer.values.keys()] : [];
  const said = id.startsWith('old ') ? parts.flatMap((part) => part.codes) : [];
  return [...new Set([...said, ...chosen, ...own])];
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
  said: 'Set by hand on this sheet.',
};
const whyText = (why: Why): string => (why.code === 'text' ? why.text : WHY[why.code]);

/** Nothing of what is met exactly. */
function partText({ meaning, wanted, now, met }: Part, term: LineWords['term']): string {
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
