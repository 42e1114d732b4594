// The fields of a sheet of first settings, part by part: what stands there now, who says so, what somebody typed and what is
// wrong with it, what is proposed. A field that its model does not have is not there.

import type { Parameter } from '../dictionary/index.ts';
import { sayNumber, type Carrier, type Plain, type PlainSet } from '../meanings/index.ts';
import { forPeople, meaningOf, normalUnit, type Meaning } from '../values/index.ts';
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
    why:
      meaning === null || input.set.carrierOf(meaningOf(meaning)) ? '' : 'The model has no setting for it.',
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
  const delivered = shownOf(blank, meaning, carrier);
  const shown = shownOf(set, meaning, carrier);
  const { termOf } = set.bridge.vocabulary;
  const options = optionsOf(set, meaning, carrier, [shown, input.typed.get(key)?.text.trim() ?? '']);
  return [
    {
      ...{ key, section, name: upper(termOf(meaning)), shown, codes: now.codes, options },
      ...typedOf(input, key),
      // Options say their unit themselves.
      unit: options ? '' : unit,
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
    if (/^(input|output)\.\d+\.(function|sense)$|^analog\.\d+\.(signal|liveZero|curve|loss)$/.test(meaning))
      found.push(...settingField(input, meaning, 'terminals'));
  return found;
}

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** A carrier in which people can set something. */
type Settable = Extract<Carrier, { readonly parameter: Parameter }>;

interface Sayable {
  readonly id: string;
  /** Only under this setting, or only without it; nothing where it can always be said. */
  readonly when: { readonly meaning: Meaning; readonly is: string; readonly so: boolean } | null;
}

/** Whatever a model can say of a meaning in words, if need be under another setting. */
function sayablesOf(carrier: Settable): readonly Sayable[] {
  const always = (ids: readonly (string | undefined)[]) =>
    ids.flatMap((id) => (id === undefined ? [] : [{ id, when: null }]));
  if (carrier.kind === 'said')
    return always(carrier.sayers.flatMap(({ saying }) => [saying.is, saying.else]));
  const { form, named } = carrier.parameter;
  if (form.kind !== 'option') return always(named.map((each) => each.meaning));
  return form.options.flatMap<Sayable>(({ meaning: id, instead }) => {
    if (id === undefined || id === 'unsaid') return [];
    if (!instead) return [{ id, when: null }];
    return [
      { id, when: { ...instead.when, so: false } },
      { id: instead.meaning, when: { ...instead.when, so: true } },
    ];
  });
}

/** Numbers beside words are typed, and their words with them. */
const isTypedNumber = ({ kind, parameter }: Settable): boolean =>
  kind === 'parameter' && parameter.form.kind === 'number';

/** Options that can be said as things stand, and those that stand there; nothing for numbers. */
function optionsOf(
  set: PlainSet,
  meaning: Meaning,
  carrier: Settable,
  standing: readonly string[],
): readonly FieldOption[] | null {
  if (isTypedNumber(carrier)) return null;
  const now = sayablesOf(carrier).filter(
    ({ id, when }) =>
      when === null || standing.includes(id) || (set.choice(when.meaning) === when.is) === when.so,
  );
  const ids = [...new Set(now.map(({ id }) => id))];
  return ids.length === 0 ? null : ids.map((id) => ({ id, text: wordsOf(set, meaning, id) }));
}

/** Quantities of which a model knows only some are said with their unit. */
function wordsOf(set: PlainSet, meaning: Meaning, id: string): string {
  const entry = set.bridge.vocabulary.of(meaning);
  return entry?.kind === 'quantity' && Number.isFinite(Number(id))
    ? `${forPeople(id)} ${normalUnit(entry.unit ?? '')}`.trim()
    : optionText(set, id);
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

/** What stands there: the option where there are options, else a text in the unit of the field. */
function shownOf(set: PlainSet, meaning: Meaning, carrier: Settable): string {
  const now = set.get(meaning);
  const options = now.kind === 'number' && !isTypedNumber(carrier) ? sayablesOf(carrier) : [];
  const own = options.find(({ id }) => now.kind === 'number' && Number(id) === now.value);
  return own?.id ?? textOf(set, now);
}

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
  const word = text.trim();
  const entry = set.bridge.vocabulary.of(meaning);
  const unit = entry?.unit ?? '';
  const sayables = sayablesOf(carrier);
  const option = sayables.find(({ id }) => id === word || wordsOf(set, meaning, id) === word)?.id;
  if (option !== undefined)
    return entry?.kind === 'quantity' && Number.isFinite(Number(option))
      ? { kind: 'number', value: Number(option), unit, step: 0, ...said }
      : { kind: 'choice', option, ...said };
  if (!isTypedNumber(carrier) && sayables.length > 0)
    return `Choose one of: ${[...new Set(sayables.map(({ id }) => wordsOf(set, meaning, id)))].join(', ')}.`;
  const shown = SHOWN_UNITS[unit]?.unit ?? normalUnit(unit);
  const read = typedNumber(word, shown);
  if (!read.ok) return read.fault;
  if (isRamp(unit) && !(base > 0)) return 'A ramp counts to the base frequency, and that is not told.';
  const value = isRamp(unit) ? read.value / base : read.value * (SHOWN_UNITS[unit]?.times ?? 1);
  return { kind: 'number', value, unit, step: 0, ...said };
}
