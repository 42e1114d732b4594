// A starting point: what a kind of duty needs of a drive, whatever the model. Everything is said in meanings; terminals are found
// for the model at hand. It names what it assumes, what it asks, what it sets and why, and what every contact must do in the end.
// Format: docs/formats/starting-point.schema.json.

import type { DeviceFacts, FieldDevice } from '../wiring/index.ts';

/** How the load takes torque; it decides what is proposed. */
export const LOADS = ['belt', 'fan', 'pump', 'agitator', 'hoist', 'winder', 'mill', 'axis'] as const;
export type Load = (typeof LOADS)[number];

/** Parts of the sheet in which a question of a starting point can stand. */
export const ASKED_IN = ['duty', 'sources', 'ramps', 'stopping', 'terminals', 'restart', 'loop'] as const;
export type AskedIn = (typeof ASKED_IN)[number];

/** A number, an option, or the answer to a question: `$speed.1`. */
export type Given = number | string;

/** All of them hold: the answer to a question is this option. */
export type Condition = Readonly<Record<string, string>>;

interface AskBase {
  readonly id: string;
  readonly text: string;
  /** What hangs on it. */
  readonly why: string;
  readonly part: AskedIn;
  readonly when: Condition;
}

export type Ask =
  | (AskBase & {
      readonly kind: 'number';
      /** Of the trade; `$unit` takes it from another answer. */
      readonly unit: string;
      /** As long as nobody answers; nothing where somebody has to. */
      readonly is: number | null;
      readonly from: Given | null;
      readonly to: Given | null;
      /** How far it has to stay from a limit that is another answer. */
      readonly apart: number;
    })
  | (AskBase & {
      readonly kind: 'choice';
      readonly options: readonly { readonly id: string; readonly text: string }[];
      readonly is: string;
    })
  | (AskBase & { readonly kind: 'text'; readonly is: string });

/** What a connection of a device does at the drive. */
export interface DigitalRole {
  /** Of the device: `13-14`. */
  readonly contact: string;
  /** Function of the input, as the vocabulary names it. */
  readonly does: string;
  /** The function acts while the circuit is open. */
  readonly opens: boolean;
  /** Contacts of other devices in series with it: `K1:13-14`. */
  readonly through: readonly string[];
}

export type PointDevice = {
  readonly name: string;
  readonly what: string;
  readonly when: Condition;
} & (
  | { readonly does: 'inputs'; readonly facts: DeviceFacts; readonly roles: readonly DigitalRole[] }
  /** A selector with a place for each speed; its contacts follow from how the model chooses presets. */
  | { readonly does: 'speeds'; readonly speeds: readonly Given[] }
  | {
      readonly does: 'signal';
      readonly feeds: 'speed' | 'loop' | 'trim';
      readonly facts: DeviceFacts | TransmitterFacts;
      /** Of the speed over the signal, in Hz. */
      readonly curve: readonly [low: Given, high: Given] | null;
      /** What the drive does when a live signal is lost: an option of `analog.*.loss`. */
      readonly loss: Given | null;
    }
  | { readonly does: 'output'; readonly tells: string; readonly facts: DeviceFacts }
  /** Worked by hand or by a controller, and wired in series with contacts of others. */
  | { readonly does: 'through'; readonly facts: DeviceFacts }
  /** On the brake terminals, where a drive has them. */
  | { readonly does: 'brake'; readonly facts: DeviceFacts }
);

/** A transmitter of which somebody answers what it sends and measures. */
export interface TransmitterFacts {
  readonly kind: 'transmitter';
  readonly signal: Given;
  readonly wires: Given;
  readonly low: Given;
  readonly high: Given;
  readonly unit: Given;
}

export interface PointSetting {
  readonly meaning: string;
  /** In the plain unit of the meaning. */
  readonly is: Given;
  /** Where it is a share of a range in its own unit: `is` from `low` to `high` in percent. */
  readonly range: readonly [low: Given, high: Given] | null;
  /** Seconds from standstill to base frequency, for ramps; other meanings have none. */
  readonly per: 'base-frequency' | null;
  readonly why: string;
  /** A model that cannot say it takes the duty all the same. */
  readonly may: boolean;
  readonly when: Condition;
}

export const MUSTS = ['stopped', 'forward', 'reverse', 'fault', 'locked', 'not-permitted'] as const;
export type Must = (typeof MUSTS)[number];

/** One line of the duty's own table: from rest with the supply on, what is done and what the drive must do then. */
export interface TableRow {
  /** `S1 on`, `S2 to 1`, `S3 press`, `A1 at 50`, `break A1`, `supply off`. */
  readonly act: readonly string[];
  readonly must: Must;
  /** Speed in Hz, or where it comes from. */
  readonly at: SpeedMust | null;
  readonly why: string;
  readonly when: Condition;
}

export type SpeedMust =
  | { readonly kind: 'hertz'; readonly is: Given }
  /** On the way from the first to the second, at this share. */
  | { readonly kind: 'between'; readonly low: Given; readonly high: Given; readonly share: number }
  | { readonly kind: 'from'; readonly source: 'loop' | 'raised' | 'network' | 'any' };

export interface StartingPoint {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  readonly about: string;
  readonly load: Load;
  readonly assumes: readonly string[];
  readonly asks: readonly Ask[];
  readonly devices: readonly PointDevice[];
  readonly sets: readonly PointSetting[];
  readonly table: readonly TableRow[];
}

/** The question that a given value takes its answer from; nothing for a value that stands there itself. */
export const askOf = (given: Given): string | undefined =>
  typeof given === 'string' && given.startsWith('$') ? given.slice(1) : undefined;

export const deviceOf = (device: Pick<PointDevice, 'name' | 'what'>, facts: DeviceFacts): FieldDevice => ({
  ...facts,
  name: device.name,
  what: device.what,
});
