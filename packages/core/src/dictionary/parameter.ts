// One parameter of one model, as its dictionary states it. Plain data throughout, so that it travels as JSON.

import type { Form, Meaning } from '../values/index.ts';

declare const brand: unique symbol;
/** A parameter's name on the keypad; its key inside a model. */
export type Code = string & { readonly [brand]: 'Code' };

/** What a number counts to; the names that can be converted by are those of core/meanings. */
export type Reference = string & { readonly [brand]: 'Reference' };

export interface NamedValue {
  readonly raw: number;
  readonly text: string;
  /** `off`, or another choice of the meaning. */
  readonly meaning: string;
}

/** What a parameter is for; the order is that of every list on the screen. */
export const PURPOSES = [
  'motor',
  'ramps',
  'commands',
  'io',
  'loop',
  'protection',
  'communication',
  'other',
  'monitor',
] as const;
export type Purpose = (typeof PURPOSES)[number];

/** In the words of the catalogue's column `access`. */
export const ACCESSES = ['write', 'write-stopped', 'read'] as const;
/** Whether the unit takes a write at all times, only when it is not running, or never. */
export type Access = (typeof ACCESSES)[number];

/** In the words of the catalogue's column `keeping`; all but `setting` and `measured` are noise to a comparison. */
export const KEEPINGS = ['setting', 'measured', 'monitor', 'counter', 'identity'] as const;
/** What a change means: somebody set it; the drive measured it on its motor; or it changes by itself. */
export type Keeping = (typeof KEEPINGS)[number];

/** A bound is a raw value, or the name of a fact of the rating or region that holds it. */
export type Bound = { readonly raw: number } | { readonly fact: string };

/** Where the parameter's registers are; 32-bit values take two, in the model's word order. */
export interface RegisterPlace {
  readonly address: number;
  readonly width: 16 | 32;
  readonly signed: boolean;
}

/** `?` in its column of the catalogue. */
export type Untold = 'minimum' | 'maximum' | 'default';

export interface Parameter {
  readonly code: Code;
  readonly menu: readonly string[];
  readonly name: string;
  readonly otherNames: readonly string[];
  readonly description: string;
  readonly purpose: Purpose;
  readonly form: Form;
  readonly minimum: Bound;
  readonly maximum: Bound;
  /** Nothing for monitors and counters, which have no default, and where it is not told. */
  readonly default: Bound | null;
  /** What the maker does not tell: limits are then those of the register, and nothing is a default. */
  readonly untold: readonly Untold[];
  readonly access: Access;
  /** A write takes effect only after the unit was restarted. */
  readonly restart: boolean;
  readonly keeping: Keeping;
  readonly meaning: Meaning | null;
  /** What a share, or a time that runs to something, counts to: `unit.current`, `frequency.maximum`; nothing where it is not stated. */
  readonly of: Reference | null;
  /** Values of a number that stand for something else: 0 is off. */
  readonly named: readonly NamedValue[];
  readonly dependsOn: readonly Code[];
  readonly register: RegisterPlace | null;
}

/** True for what changes by itself and says nothing about how a drive is set. */
export const isNoise = (parameter: Parameter): boolean =>
  parameter.keeping === 'monitor' || parameter.keeping === 'counter' || parameter.keeping === 'identity';
