// The fields of a sheet of first settings, part by part: what stands there now, who says so, what somebody typed and what is
// wrong with it, what is proposed. A field that its model does not have is not there.

import type { Parameter } from '../dictionary/index.ts';
import { sayNumber, type Plain, type PlainSet } from '../meanings/index.ts';
import { forPeople, meaningOf, normalUnit, type Meaning } from '../values/index.ts';
import { takes } from './place-roles.ts';
import type { Proposal } from './proposals.ts';
import {
  isRamp,
  meaningsOf,
  PLATE_LINES,
  SECTIONS,
  SHOWN_UNITS,
  SUPPLY_LINES,
  type Section,
} from './sections.ts';
import { typedNumber, type Answer, type TypedFields } from './told.ts';
import type { WishFrom, Wishes } from './wishes.ts';

export type FieldFrom = WishFrom | 'default' | 'none';

export interface FieldOption {
  readonly id: string;
  readonly text: string;
}

export interface Field {
  readonly key: string;
  readonly section: Section;
  readonly name: string;
  readonly unit: string;
  /** Nothing for numbers and texts. */
  readonly options: readonly FieldOption[] | null;
  /** As somebody typed it; empty where nobody did. */
  readonly typed: string;
  readonly typedWhy: string;
  /** What stands there now, in `unit`; empty where nothing can be told. */
  readonly shown: string;
  readonly from: FieldFrom;
  readonly why: string;
  readonly codes: readonly string[];
  readonly proposal: ShownProposal | null;
  readonly fault: string | null;
  /** Somebody has to tell it. */
  readonly open: boolean;
}

/** A proposal in the unit of its field. */
export type ShownProposal = Omit<Proposal, 'value'> & { readonly shown: string };

export interface FieldInput {
  /** As it would stand. */
  readonly set: PlainSet;
  readonly blank: PlainSet;
  readonly typed: TypedFields;
  readonly wishes: Wishes;
  readonly answers: readonly Answer[];
  readonly proposals: readonly Proposal[];
  readonly faults: ReadonlyMap<string, string>;
  /** A starting point needs the plate; other sheets may have it from elsewhere. */
  readonly needsPlate: boolean;
}

/** Without them nothing of the motor can be set. */
const PLATE_NEEDS = ['plate.power', 'plate.voltage', 'plate.current', 'plate.frequency', 'plate.speed'];
const STEP_DIGITS = 6;

export function fieldsOf(input: FieldInput): readonly Field[] {
  const found = [
    ...input.answers.map((answer) => askField(input, answer)),
    ...PLATE_LINES.map((line) => lineField(input, line, 'plate')),
    ...SUPPLY_LINES.map((line) => lineField(input, line, 'supply')),
    ...SECTIONS.flatMap((section) =>
      meaningsOf(section).flatMap((meaning) => settingField(input, meaning, section)),
    ),
    ...terminalFields(input),
  ];
  return found;
}

const typedOf = ({ typed }: FieldInput, key: string) => ({
  typed: typed.get(key)?.text ?? '',
  typedWhy: typed.get(key)?.why ?? '',
});

function askField(input: FieldInput, { ask, value, unit, fault, isTyped }: Answer): Field {
  const key = `ask.${ask.id}`;
  return {
    ...{ key, section: ask.part, name: ask.text, unit, codes: [], proposal: null, fault },
    ...typedOf(input, key),
    options: ask.kind === 'choice' ? ask.options : null,
    shown: value === undefined ? '' : typeof value === 'number' ? forPeople(String(value)) : value,
    from: isTyped ? 'typed' : value === undefined ? 'none' : 'point',
    why: ask.why,
    open: value === undefined,
  };
}

function lineField(
  input: FieldInput,
  line: (typeof PLATE_LINES)[number],
  section: 'plate' | 'supply',
): Field {
  const { key, name, unit, times, meaning } = line;
  const { typed, typedWhy } = typedOf(input, key);
  const now = meaning === null ? undefined : input.set.get(meaningOf(meaning));
  const isTyped = typed.trim() !== '';
  const ownText = now?.kind === 'number' ? numberText(now.value / times, now.step / times) : '';
  return {
    ...{ key, section, name, unit, options: null, typed, typedWhy, proposal: null },
    ...{ shown: ownText, codes: now?.codes ?? [], fault: input.faults.get(key) ?? null },
    from: isTyped ? 'typed' : ownText === '' ? 'none' : 'default',
    why: '',
    open: input.needsPlate && PLATE_NEEDS.includes(key) && !isTyped,
  };
}

function settingField(input: FieldInput, meaning: Meaning, section: Section): readonly Field[] {
  const { set, wishes, proposals, faults, blank } = input;
  const carrier = set.carrierOf(meaning);
  // What every unit does without a setting for it is nobody's to choose.
  if (!carrier || !('parameter' in carrier)) return [];
  const key = `set.${meaning}`;
  const now = set.get(meaning);
  const wish = wishes.of.get(meaning);
  const unit = unitOf(set, meaning, now);
  const proposal = proposals.find((each) => each.meaning === meaning);
  const delivered = textOf(blank, blank.get(meaning));
  const shown = textOf(set, now);
  const { termOf } = set.bridge.vocabulary;
  return [
    {
      ...{ key, section, name: upper(termOf(meaning)), unit, shown, codes: now.codes },
      ...typedOf(input, key),
      options: optionsOf(set, meaning, carrier.parameter),
      from: wish?.from ?? (shown === '' ? 'none' : shown === delivered ? 'default' : 'base'),
      why: wish?.why ?? '',
      proposal: proposal ? shownProposal(set, meaning, proposal) : null,
      ...{ fault: faults.get(key) ?? null, open: false },
    },
  ];
}

/** Every input and output that a person could give another function. */
function terminalFields(input: FieldInput): readonly Field[] {
  const found: Field[] = [];
  for (const meaning of input.set.meanings)
    if (/^(input|output)\.\d+\.(function|sense)$|^analog\.\d+\.(signal|curve|loss)$/.test(meaning))
      found.push(...settingField(input, meaning, 'terminals'));
  return found;
}

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Options that the model can say, in the words of the trade; nothing for numbers. */
function optionsOf(
  set: PlainSet,
  meaning: Meaning,
  { form, named }: Parameter,
): readonly FieldOption[] | null {
  const { vocabulary } = set.bridge;
  const known = vocabulary.of(meaning)?.options ?? [];
  const own =
    form.kind === 'option'
      ? form.options.flatMap(({ meaning: option, instead }) => [option, instead?.meaning])
      : form.kind === 'bits'
        ? known.filter((option) => takes(set, meaning, option))
        : named.map((each) => each.meaning);
  const options = [...new Set(own.filter((each): each is string => each !== undefined && each !== 'unsaid'))];
  if (options.length === 0 || (form.kind === 'number' && named.length > 0)) return null;
  return options.map((id) => ({ id, text: optionText(set, id) }));
}

export function optionText(set: PlainSet, id: string): string {
  const words = set.bridge.vocabulary.wordsForOption(id);
  return words.length > 0 ? set.bridge.vocabulary.termOf(id) : id.replace(/[-.]/g, ' ');
}

/** Ramps in seconds, power in kilowatts. */
function unitOf(set: PlainSet, meaning: Meaning, now: Plain): string {
  const unit =
    now.kind === 'number' || now.kind === 'curve' ? now.unit : set.bridge.vocabulary.of(meaning)?.unit;
  return SHOWN_UNITS[unit ?? '']?.unit ?? normalUnit(unit ?? '');
}

/** The number of a plain value in the unit of its field. */
export function shownNumber(set: PlainSet, value: number, unit: string): number {
  if (isRamp(unit)) return value * baseFrequency(set);
  return value / (SHOWN_UNITS[unit]?.times ?? 1);
}

const baseFrequency = (set: PlainSet): number => {
  const base = set.get(meaningOf('motor.baseFrequency'));
  return base.kind === 'number' ? base.value : 0;
};

function textOf(set: PlainSet, now: Plain): string {
  switch (now.kind) {
    case 'number':
      return numberText(shownNumber(set, now.value, now.unit), shownNumber(set, now.step, now.unit));
    case 'choice':
      return now.option;
    case 'curve': {
      const [first, last] = [now.points[0], now.points.at(-1)];
      return first && last ? `${sayNumber(first.value, now.step)} to ${sayNumber(last.value, now.step)}` : '';
    }
    case 'nothing':
      return '';
  }
}

const numberText = (value: number, step: number): string =>
  step > 0 ? sayNumber(value, step) : forPeople(String(Number(value.toPrecision(STEP_DIGITS))));

function shownProposal(set: PlainSet, meaning: Meaning, { value, ...rest }: Proposal): ShownProposal {
  const plain = set.get(meaning);
  const entry = set.bridge.vocabulary.of(meaning);
  const unit = plain.kind === 'number' ? plain.unit : (entry?.unit ?? '');
  // A proposed ramp is a time already.
  const number = value === null ? null : isRamp(unit) ? value : shownNumber(set, value, unit);
  const step = plain.kind === 'number' ? shownNumber(set, plain.step, plain.unit) : 0;
  return {
    ...rest,
    unit: unitOf(set, meaning, plain),
    shown: number === null ? '' : numberText(number, step),
  };
}

/** What somebody typed into a field of a setting, as a plain value; a text says what is wrong with it. */
export function plainTyped(set: PlainSet, meaning: Meaning, text: string, base: number): Plain | string {
  const carrier = set.carrierOf(meaning);
  if (!carrier || !('parameter' in carrier))
    return `The ${set.dictionary.name} has no setting for ${set.bridge.vocabulary.termOf(meaning)}.`;
  const said = { codes: [], how: null };
  const options = optionsOf(set, meaning, carrier.parameter);
  const { named } = carrier.parameter;
  const word = text.trim();
  const option = options?.find((each) => each.id === word || each.text === word)?.id;
  if (options && option !== undefined) return { kind: 'choice', option, ...said };
  if (options) return `Choose one of: ${options.map((each) => each.text).join(', ')}.`;
  if (named.some((each) => each.meaning === word)) return { kind: 'choice', option: word, ...said };
  const unit = set.bridge.vocabulary.of(meaning)?.unit ?? '';
  const shown = SHOWN_UNITS[unit]?.unit ?? normalUnit(unit);
  const read = typedNumber(word, shown);
  if (!read.ok) return read.fault;
  if (isRamp(unit) && !(base > 0)) return 'A ramp counts to the base frequency, and that is not told.';
  const value = isRamp(unit) ? read.value / base : read.value * (SHOWN_UNITS[unit]?.times ?? 1);
  return { kind: 'number', value, unit, step: 0, ...said };
}
