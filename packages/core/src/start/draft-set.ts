// The set of a draft: wishes of the starting point, of the wires, of the plate and of whoever types, written over the defaults of
// a unit or over another set.

import { machineOf } from '../behaviour/index.ts';
import {
  describeRefusal,
  factsOf,
  findParameter,
  refusalOf,
  type Code,
  type Dictionary,
  type Outfit,
} from '../dictionary/index.ts';
import { writePlain, type Met, type PlainSet } from '../meanings/index.ts';
import { polesOf, type PlateRating } from '../motor/index.ts';
import { switchesFor } from '../replace/index.ts';
import { defaultSet } from '../sets/index.ts';
import { asTyped, isRaw, meaningOf, parseRaw, type Meaning } from '../values/index.ts';
import { NO_WIRING } from '../wiring/index.ts';
import { carriedFrom, type CarriedNote } from './carried.ts';
import { plainTyped } from './draft-fields.ts';
import type { DraftInput } from './draft-sheet.ts';
import { proposalsOf, USUAL_TORQUE, type Proposal } from './proposals.ts';
import { PLATE_LINES, SUPPLY_LINES } from './sections.ts';
import type { StartingPoint } from './starting-point.ts';
import { Told, typedNumber, type TypedFields } from './told.ts';
import { typedCurve, wirePoint, type WiredPoint } from './wire-point.ts';
import { Wishes } from './wishes.ts';

export interface DraftSet {
  readonly set: PlainSet;
  readonly blank: PlainSet;
  readonly readings: ReadonlyMap<Code, number>;
  readonly wishes: Wishes;
  readonly told: Told;
  readonly wired: WiredPoint;
  readonly met: ReadonlyMap<Meaning, Met>;
  readonly faults: ReadonlyMap<string, string>;
  readonly proposals: readonly Proposal[];
  readonly carried: readonly CarriedNote[];
  readonly baseTitle: string | null;
}

/** `numbers` are those of plate, load and supply that were typed, in plain units. */
export function makeSet(
  input: DraftInput,
  outfit: Outfit,
  plate: PlateRating,
  numbers: ReadonlyMap<string, number>,
): DraftSet {
  const { bridge, dictionary, point, typed, base } = input;
  const delivered = new Map(
    [...(defaultSet(dictionary, outfit)?.readings ?? [])].flatMap(([code, raw]) =>
      isRaw(raw) ? [[code, raw] as const] : [],
    ),
  );
  const blank = bridge.read(dictionary, outfit, delivered);
  const faults = new Map<string, string>();
  const wishes = new Wishes(bridge);
  const told = new Told(point, typed, { sto: stoOf(dictionary, typed) });
  if (point) pointWishes(point, told, wishes, plate.frequency ?? numberOf(blank, 'motor.baseFrequency'));
  const presets = machineOf(blank, NO_WIRING).rules.answer('preset.select');
  const carried = base ? carriedFrom(bridge, base, dictionary, outfit, delivered) : null;
  const wired: WiredPoint = point
    ? wirePoint({ point, told, typed, blank, presets }, wishes)
    : { wiring: carried?.wiring ?? NO_WIRING, roles: [], refusals: [], faults: new Map() };
  plateWishes(blank, numbers, plate, wishes);
  const start = carried?.readings ?? delivered;
  const beforeProposals = bridge.read(dictionary, outfit, start);
  const proposals = proposalsOf(proposalInput(input, told, plate, numbers, blank, beforeProposals, wishes));
  if (point)
    proposedWishes(proposals, wishes, plate.frequency ?? numberOf(blank, 'motor.baseFrequency') ?? 0);
  typedWishes(
    typed,
    blank,
    plate.frequency ?? numberOf(beforeProposals, 'motor.baseFrequency') ?? 0,
    wishes,
    faults,
  );
  const written = writePlain(bridge, dictionary, outfit, wishes.wanted, start);
  const readings = new Map(written.readings);
  codesTyped(dictionary, outfit, typed, readings, faults);
  const switches = { ...wired.wiring.switches, ...switchesFor(dictionary, readings) };
  return {
    ...{ blank, wishes, told, faults, proposals, readings, met: written.met },
    ...{ carried: carried?.notes ?? [], baseTitle: base?.title ?? null },
    wired: { ...wired, wiring: { ...wired.wiring, switches } },
    set: bridge.read(dictionary, outfit, readings),
  };
}

/** Safe torque off is asked where a model has it. */
export function stoOf({ terminals }: Dictionary, typed: TypedFields): string {
  const has = (terminals?.strips ?? []).some(({ terminals: all }) =>
    all.some(({ kind }) => kind === 'safe-input'),
  );
  return has && typed.get('ask.sto')?.text === 'relay' ? 'relay' : 'link';
}

export function numberOf(set: PlainSet, meaning: string): number | undefined {
  const plain = set.get(meaningOf(meaning));
  return plain.kind === 'number' ? plain.value : undefined;
}

/** What was typed of plate, load and supply, in plain units. */
export function numbersTyped(typed: TypedFields): {
  readonly values: ReadonlyMap<string, number>;
  readonly faults: ReadonlyMap<string, string>;
} {
  const values = new Map<string, number>();
  const faults = new Map<string, string>();
  for (const { key, unit, times } of [...PLATE_LINES, ...SUPPLY_LINES]) {
    const text = typed.get(key)?.text.trim() ?? '';
    if (text === '') continue;
    const read = typedNumber(text, unit);
    if (!read.ok) faults.set(key, read.fault);
    else if (!(read.value > 0) && key !== 'load.torque' && key !== 'supply.ambient')
      faults.set(key, 'No plate has that on it.');
    else if (key === 'plate.powerFactor' && read.value > 1) faults.set(key, 'cos φ is never above 1.');
    else values.set(key, read.value * times);
  }
  return { values, faults };
}

const PLATE_FACTS = ['power', 'voltage', 'current', 'frequency', 'speed', 'powerFactor'] as const;

export const plateOf = (numbers: ReadonlyMap<string, number>): PlateRating =>
  Object.fromEntries(
    PLATE_FACTS.flatMap((name) => {
      const value = numbers.get(`plate.${name}`);
      return value === undefined ? [] : [[name, value]];
    }),
  );

function pointWishes(point: StartingPoint, told: Told, wishes: Wishes, base: number | undefined): void {
  for (const { meaning, is, range, per, why, may, when } of point.sets) {
    if (!told.holds(when)) continue;
    const value = told.given(is);
    const by = { from: 'point', why, may } as const;
    if (typeof value === 'string') wishes.choice(meaning, LOOP_UNITS[value] ?? value, by);
    else if (value !== undefined) {
      const [low, high] = (range ?? []).map((each) => told.number(each));
      if (range && (low === undefined || high === undefined || low === high)) continue;
      const share =
        range && low !== undefined && high !== undefined ? (100 * (value - low)) / (high - low) : value;
      if (per === null) wishes.number(meaning, share, by);
      else if (base !== undefined && base > 0) wishes.number(meaning, share / base, by);
    }
  }
}

/** Units as transmitters write them, by the option that says them. */
const LOOP_UNITS: Readonly<Record<string, string>> = {
  '%': 'percent',
  Pa: 'pascal',
  kPa: 'kilopascal',
  'm³/h': 'cubic-metre-per-hour',
  '°C': 'celsius',
};

function plateWishes(
  blank: PlainSet,
  numbers: ReadonlyMap<string, number>,
  { frequency, speed }: PlateRating,
  wishes: Wishes,
): void {
  const by = { from: 'plate', why: 'From the plate.' } as const;
  for (const { key, meaning } of [...PLATE_LINES, ...SUPPLY_LINES]) {
    const value = numbers.get(key);
    if (meaning !== null && value !== undefined && blank.carrierOf(meaningOf(meaning)))
      wishes.number(meaning, value, key.startsWith('supply') ? { ...by, why: 'Of the cabinet.' } : by);
  }
  const poles = frequency && speed ? polesOf(frequency, speed) : undefined;
  if (poles !== undefined && blank.stated(meaningOf('motor.poles')))
    wishes.number('motor.poles', poles, { from: 'plate', why: 'From frequency and speed of the plate.' });
}

function proposalInput(
  { point }: DraftInput,
  told: Told,
  plate: PlateRating,
  numbers: ReadonlyMap<string, number>,
  blank: PlainSet,
  start: PlainSet,
  wishes: Wishes,
): Parameters<typeof proposalsOf>[0] {
  const unit = blank.reference('unit.current');
  const rotor = numbers.get('plate.inertia');
  const own = numbers.get('load.inertia');
  const load = point?.load ?? 'belt';
  const seconds = (id: string, meaning: string): number | undefined => {
    const asked = told.value(id);
    if (typeof asked === 'number') return asked;
    const slope = numberOf(start, meaning);
    const base = numberOf(start, 'motor.baseFrequency');
    return slope === undefined || base === undefined ? undefined : slope * base;
  };
  return {
    ...{ plate, load, derating: blank.dictionary.derating, ambient: numbers.get('supply.ambient') ?? null },
    // The rotor alone tells nothing of a ramp: it is the load that takes the time.
    inertia: own === undefined ? undefined : own + (rotor ?? 0),
    loadShare: numbers.get('load.torque') ?? USUAL_TORQUE[load],
    bears: numberOf(blank, 'limit.current'),
    unitCurrent: unit.ok ? unit.value.value : undefined,
    heavy: (choiceOf(wishes, 'unit.duty') ?? blank.choice(meaningOf('unit.duty')) ?? 'heavy') !== 'normal',
    resistor: ['fitted', 'inside'].includes(choiceOf(wishes, 'brake.resistor') ?? ''),
    carrier: numberOf(blank, 'carrier.frequency'),
    usual: { up: seconds('ramp.up', 'ramp.up'), down: seconds('ramp.down', 'ramp.down') },
    loop: point?.asks.some(({ id }) => id === 'process.lag')
      ? {
          gain: processGain(told, wishes, numberOf(blank, 'frequency.maximum')),
          lag: numeric(told.value('process.lag')),
          dead: numeric(told.value('process.dead')),
        }
      : null,
  };
}

function choiceOf(wishes: Wishes, meaning: string): string | undefined {
  const plain = wishes.of.get(meaningOf(meaning))?.plain;
  return plain?.kind === 'choice' ? plain.option : undefined;
}

const numeric = (value: number | string | undefined): number | undefined =>
  typeof value === 'number' ? value : undefined;

/** Percent of the range for each Hz: from rest to what the process gives at full speed. */
function processGain(told: Told, wishes: Wishes, delivered: number | undefined): number | undefined {
  const [low, high] = [numeric(told.value('range.low')), numeric(told.value('range.high'))];
  const [rest, full] = [numeric(told.value('process.rest')), numeric(told.value('process.full'))];
  const most = wishes.value('frequency.maximum') ?? delivered;
  if (low === undefined || high === undefined || high === low) return undefined;
  if (rest === undefined || full === undefined || most === undefined || !(most > 0)) return undefined;
  return (100 * Math.abs(full - rest)) / Math.abs(high - low) / most;
}

function proposedWishes(proposals: readonly Proposal[], wishes: Wishes, base: number): void {
  for (const { meaning, value, formula, worked, missing } of proposals) {
    if (value === null) continue;
    const plain = meaning.startsWith('ramp.') ? (base > 0 ? value / base : undefined) : value;
    // Without its numbers it is the usual value, and no formula has said it.
    const why = missing.length > 0 ? (worked ?? '') : `${formula}: ${worked ?? ''}`;
    if (plain !== undefined) wishes.number(meaning, plain, { from: 'proposed', why, may: true });
  }
}

function typedWishes(
  typed: TypedFields,
  blank: PlainSet,
  base: number,
  wishes: Wishes,
  faults: Map<string, string>,
): void {
  for (const [key, { text, why }] of typed) {
    if (!key.startsWith('set.') || text.trim() === '' || key === 'set.arrangement') continue;
    const meaning = meaningOf(key.slice('set.'.length));
    const plain = meaning.endsWith('.curve') ? typedCurve(text) : plainTyped(blank, meaning, text, base);
    if (typeof plain === 'string') faults.set(key, plain);
    else wishes.plain(meaning, plain, { from: 'typed', why: why === '' ? 'Typed on the sheet.' : why });
  }
}

/** Any other setting, by its code and as its keypad shows it. */
function codesTyped(
  dictionary: Dictionary,
  outfit: Outfit,
  typed: TypedFields,
  readings: Map<Code, number>,
  faults: Map<string, string>,
): void {
  const facts = factsOf(dictionary, outfit) ?? {};
  for (const [key, { text }] of typed) {
    if (!key.startsWith('code.') || text.trim() === '') continue;
    const code = key.slice('code.'.length);
    const parameter = findParameter(dictionary, code);
    const raw = parameter && parseRaw(parameter.form, asTyped(text.trim()));
    const refusal = parameter && raw?.ok ? refusalOf(parameter, raw.value, facts) : undefined;
    if (!parameter) faults.set(key, `The ${dictionary.name} has no ${code}.`);
    else if (parameter.access === 'read') faults.set(key, `${code} is only read.`);
    else if (!raw?.ok) faults.set(key, `${code} does not take "${text}". Type it as its keypad shows it.`);
    else if (refusal) faults.set(key, describeRefusal(parameter, refusal));
    else readings.set(parameter.code, raw.value);
  }
}
