// All parameters of a model with the facts that belong to it: ratings, regions, the way to talk to it, effects of
// a write. A dictionary never changes; a new version is another dictionary with another id.

import { parseRaw, type Meaning, meaningOf } from '../values/index.ts';
import type { Behaviour } from './behaviour.ts';
import type { Effect } from './effect.ts';
import type { Fault } from './faults.ts';
import type { Bound, Parameter, Reference } from './parameter.ts';
import type { Procedure } from './procedures.ts';
import type { TerminalChart } from './terminals.ts';

declare const brand: unique symbol;
/** Model and version of its dictionary: `halvern-hn64@1`. */
export type DictionaryId = string & { readonly [brand]: 'DictionaryId' };

/** Facts are values in engineering units, as text, by name: `{ normal_current: '3.7' }`. */
export type Facts = Readonly<Record<string, string>>;

export interface Rating {
  readonly id: string;
  /** Number in the unit's identity register. */
  readonly number: number;
  readonly name: string;
  readonly facts: Facts;
  /** Nothing where the model does not tell it. */
  readonly fit: Fit | null;
}

/** Whether what keeps disturbances off the mains is in the unit, is bought beside it, or is not made for it. */
export const FILTERS = ['built-in', 'separate', 'none'] as const;

/** What a cabinet and its supply have to give a unit; each is nothing where the model does not tell it. */
export interface Fit {
  readonly widthMm: number | null;
  readonly heightMm: number | null;
  readonly depthMm: number | null;
  /** Left free above and below. */
  readonly clearanceMm: number | null;
  /** Largest fuse before it, of class gG. */
  readonly fuseA: number | null;
  /** Least resistance of a braking resistor; nothing where it has no chopper. */
  readonly leastResistorOhm: number | null;
  /** Until its bus is discharged after the supply is off. */
  readonly dischargeMin: number | null;
  readonly filter: (typeof FILTERS)[number] | null;
  /** Heat at rated current. */
  readonly lossesW: number | null;
}

export interface Region {
  readonly id: string;
  readonly name: string;
  readonly facts: Facts;
}

export interface RegisterValue {
  readonly register: number;
  readonly value: number;
}

export interface SerialPlace {
  readonly register: number;
  readonly width: 16 | 32;
}

/**
 * How a unit of this model is spoken to over Modbus. Registers are unified addresses (register-address.ts). What a model does
 * not tell is nothing: what then does not work is in `gapsOf`.
 */
export interface LineFacts {
  readonly wordOrder: 'high-first' | 'low-first';
  readonly largestRead: number;
  readonly bridgeGaps: boolean;
  /** Areas that the unit refuses to read, both ends included. */
  readonly reserved: readonly { readonly from: number; readonly to: number }[];
  readonly identity: {
    readonly model: RegisterValue | null;
    readonly rating: number | null;
    readonly firmware: number | null;
    readonly serial: SerialPlace | null;
  };
  /** The register of the status word, and the bits of running and of a fault. */
  readonly status: { readonly register: number; readonly running: number; readonly fault: number } | null;
  /** What a controller writes to run it. Told for those who replace it; it is written by nobody here. */
  readonly command: CommandWord | null;
  readonly fault: {
    readonly active: number;
    readonly history: number;
    readonly historyLength: number;
  } | null;
  /** Makes permanent what was written; nothing where the unit keeps every write at once. */
  readonly save: (RegisterValue & { readonly busyMs: number }) | null;
  /** Nothing where only the supply restarts it. */
  readonly restart: (RegisterValue & { readonly busyMs: number }) | null;
  /** The unit takes function 16 even for a single register; function 6 is used otherwise. */
  readonly only16: boolean;
  /** The Modbus exception that the manual gives for a refused write. */
  readonly refusals: { readonly readOnly: number; readonly running: number; readonly locked: number };
}

/** `VendorNumber`, `ProductNumber`, `RevisionNumber`; nothing for what is not told. */
export interface DeviceNumbers {
  readonly vendor: number | null;
  readonly product: number | null;
  readonly revision: number | null;
}

/** Bits of the command word by what they do, and where the speed is written. */
export interface CommandWord {
  readonly register: number;
  readonly bits: Readonly<Partial<Record<CommandBit, number>>>;
  readonly speed: { readonly register: number; readonly counts: string } | null;
}

/** `run` with `reverse`, or one bit for each direction; `enable` has to stay on; `reset` clears a fault. */
export const COMMAND_BITS = [
  'run',
  'reverse',
  'run_forward',
  'run_reverse',
  'enable',
  'fast_stop',
  'reset',
] as const;
export type CommandBit = (typeof COMMAND_BITS)[number];

/** How the maker counts, where makers differ; keys and choices are those of `CONVENTIONS`. */
export type Conventions = Readonly<Partial<Record<ConventionName, string>>>;

/** What a value counts to, and the choices there are. Where one is not stated, nobody may convert by it. */
export const CONVENTIONS = {
  ramp_counts_to: ['base-frequency', 'maximum-frequency', 'rated-speed'],
  current_limit_in: ['percent-of-unit', 'percent-of-motor', 'ampere'],
  speeds_in: ['hertz', 'percent-of-base-frequency', 'rpm', 'increments'],
  analog_scaling: ['gain-and-bias', 'two-points', 'end-points'],
  loop_proportional: ['gain', 'band'],
  loop_integral: ['time', 'gain'],
  poles: ['given', 'derived', 'pairs'],
  presets_by: ['one-input-each', 'binary-inputs', 'none'],
  power_in: ['watt', 'kilowatt', 'horsepower'],
} as const;
export type ConventionName = keyof typeof CONVENTIONS;

/** What every unit of the model does without a setting for it. */
export type Fixed = { readonly meaning: Meaning } & (
  | { readonly kind: 'choice'; readonly is: string }
  /** As another meaning of the same unit. */
  | { readonly kind: 'same-as'; readonly as: Meaning }
  /** In percent of a reference. */
  | { readonly kind: 'share'; readonly percent: number; readonly of: Reference }
);

/** Share of the rated current that is left at a stated ambient temperature (°C) or carrier frequency (kHz). */
export interface Derating {
  readonly ambient: readonly DeratingPoint[];
  readonly carrier: readonly DeratingPoint[];
}

export interface DeratingPoint {
  readonly at: number;
  /** In percent. */
  readonly share: number;
}

/** Key presses at the model's own keypad. */
export interface KeypadFacts {
  /** From one menu to the next, and from one parameter of a menu to the next. */
  readonly menuMove: number;
  readonly move: number;
  /** From the last parameter of a menu on to its first, and the other way round. */
  readonly wraps: boolean;
  readonly enter: number;
  readonly back: number;
  /** From one digit of a number to the next, and a digit one up or down. */
  readonly digitMove: number;
  readonly digitStep: number;
  /** From one option, or one bit of a word, to the next. */
  readonly optionStep: number;
}

export interface Dictionary {
  readonly id: DictionaryId;
  readonly model: string;
  readonly version: number;
  /** Corrections of its words and meanings beside the kept version, counted from 1; what was computed names it. */
  readonly revision: number;
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmware: { readonly from: string; readonly to: string };
  /** Numbers of the device by CiA 306, where the model came from an EDS that tells them. */
  readonly device: DeviceNumbers | null;
  readonly ratings: readonly Rating[];
  readonly regions: readonly Region[];
  readonly line: LineFacts | null;
  /** Nothing for a model without a keypad. */
  readonly keypad: KeypadFacts | null;
  readonly conventions: Conventions;
  /** The fact of a rating that holds the rated current of the unit (A), by duty: `{ heavy: 'heavy' }`; `any` where there is one. */
  readonly unitCurrent: Readonly<Record<string, string>> | null;
  readonly fixed: readonly Fixed[];
  /** What it does with its contacts, keys, signals and supply, as far as that is stated. */
  readonly behaviour: Behaviour;
  readonly derating: Derating | null;
  readonly procedures: readonly Procedure[];
  readonly terminals: TerminalChart | null;
  /** By number; none for a model that does not tell them. */
  readonly faults: readonly Fault[];
  readonly effects: readonly Effect[];
  readonly parameters: readonly Parameter[];
}

/** The rating and region of one unit: they decide some defaults and ranges. */
export interface Outfit {
  readonly rating: string;
  readonly region: string;
}

export interface Limits {
  readonly minimum: number;
  readonly maximum: number;
}

interface Index {
  readonly byCode: ReadonlyMap<string, Parameter>;
  readonly byMeaning: ReadonlyMap<Meaning, Parameter>;
  readonly place: ReadonlyMap<string, number>;
}

const indexes = new WeakMap<Dictionary, Index>();

function indexOf(dictionary: Dictionary): Index {
  let index = indexes.get(dictionary);
  if (!index) {
    const { parameters } = dictionary;
    index = {
      byCode: new Map(parameters.map((parameter) => [parameter.code, parameter])),
      byMeaning: new Map(
        parameters.flatMap((parameter) => (parameter.meaning ? [[parameter.meaning, parameter]] : [])),
      ),
      place: new Map(parameters.map((parameter, at) => [parameter.code, at])),
    };
    indexes.set(dictionary, index);
  }
  return index;
}

/** The parameter with this code, or nothing; upper and lower case are told apart, as the maker writes them. */
export const findParameter = (dictionary: Dictionary, code: string): Parameter | undefined =>
  indexOf(dictionary).byCode.get(meaningOf(code));

/** The parameter that bears this meaning, or nothing where the model has none; no model has a meaning twice. */
export const findMeaning = (dictionary: Dictionary, meaning: Meaning): Parameter | undefined =>
  indexOf(dictionary).byMeaning.get(meaning);

/** The place of a code in menu order, for sorting; unknown codes come last. */
export const placeOf = (dictionary: Dictionary, code: string): number =>
  indexOf(dictionary).place.get(code) ?? Number.MAX_SAFE_INTEGER;

/** Rating and region facts together; nothing where the dictionary does not have that rating or region. */
export function factsOf(dictionary: Dictionary, outfit: Outfit): Facts | undefined {
  const rating = dictionary.ratings.find((each) => each.id === outfit.rating);
  const region = dictionary.regions.find((each) => each.id === outfit.region);
  return rating && region ? { ...rating.facts, ...region.facts } : undefined;
}

/** A fact by its name; names that every object knows by itself are none. */
export const factNamed = (facts: Facts, name: string): string | undefined =>
  Object.hasOwn(facts, name) ? facts[name] : undefined;

/** The raw value of a bound; nothing where the fact is unknown or between two steps of the parameter. */
export function rawOfBound(parameter: Parameter, bound: Bound, facts: Facts): number | undefined {
  if ('raw' in bound) return bound.raw;
  const text = factNamed(facts, bound.fact);
  const raw = text === undefined ? undefined : parseRaw(parameter.form, text);
  return raw?.ok ? raw.value : undefined;
}

/** Minimum and maximum raw value for this rating and region. Checked for every outfit when a dictionary is read. */
export function limitsOf(parameter: Parameter, facts: Facts): Limits {
  return {
    minimum: rawOfBound(parameter, parameter.minimum, facts) ?? Number.NEGATIVE_INFINITY,
    maximum: rawOfBound(parameter, parameter.maximum, facts) ?? Number.POSITIVE_INFINITY,
  };
}

/** The default as a raw value; nothing for monitors and counters. */
export const defaultOf = (parameter: Parameter, facts: Facts): number | undefined =>
  parameter.default === null ? undefined : rawOfBound(parameter, parameter.default, facts);

/** Why a raw value cannot be held, or nothing if it can. Options and bits must exist; numbers must be in range. */
export function refusalOf(parameter: Parameter, raw: number, facts: Facts): ValueRefusal | undefined {
  const { form } = parameter;
  if (form.kind === 'option') {
    return form.options.some((option) => option.raw === raw) ? undefined : { code: 'no-such-option', raw };
  }
  if (form.kind === 'bits') {
    const known = form.bits.reduce((word, bit) => word | (1 << bit.bit), 0) >>> 0;
    return (raw & ~known) === 0 ? undefined : { code: 'no-such-bit', raw };
  }
  const { minimum, maximum } = limitsOf(parameter, facts);
  if (raw < minimum) return { code: 'below-minimum', raw, limit: minimum };
  if (raw > maximum) return { code: 'above-maximum', raw, limit: maximum };
  return undefined;
}

export type ValueRefusal =
  | { readonly code: 'no-such-option'; readonly raw: number }
  | { readonly code: 'no-such-bit'; readonly raw: number }
  | { readonly code: 'below-minimum'; readonly raw: number; readonly limit: number }
  | { readonly code: 'above-maximum'; readonly raw: number; readonly limit: number };
