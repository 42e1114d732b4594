// The field wiring of a position: devices, wires, links and the places of the switches on the board. Plain data; a kept
// revision of it never changes.

import type { FieldDevice } from './device.ts';

/** A terminal of the drive, or a connection of a device. */
export type WireEnd =
  | { readonly kind: 'terminal'; readonly terminal: string }
  | { readonly kind: 'device'; readonly device: string; readonly connection: string };

export interface Wire {
  /** As it is printed on the conductor; may be empty. */
  readonly number: string;
  readonly colour: string;
  readonly from: WireEnd;
  readonly to: WireEnd;
}

/** A jumper between two terminals of the drive. */
export interface FittedLink {
  readonly between: readonly [string, string];
  /** In the plug it stays with the machine when the drive goes. */
  readonly place: 'drive' | 'plug';
}

export interface Wiring {
  readonly devices: readonly FieldDevice[];
  readonly wires: readonly Wire[];
  readonly links: readonly FittedLink[];
  /** Places of board switches by their names; as delivered where one is not named. */
  readonly switches: Readonly<Record<string, string>>;
  /** Name of the supply arrangement; as delivered where it is empty. */
  readonly arrangement: string;
}

export const NO_WIRING: Wiring = { devices: [], wires: [], links: [], switches: {}, arrangement: '' };

/** `12` for a terminal, `S2:13` for a device. */
export const showEnd = (end: WireEnd): string =>
  end.kind === 'terminal' ? end.terminal : `${end.device}:${end.connection}`;

/** Nothing for an empty text; a colon makes it a connection of a device. */
export function parseEnd(text: string): WireEnd | undefined {
  const trimmed = text.trim();
  const colon = trimmed.lastIndexOf(':');
  if (trimmed === '') return undefined;
  if (colon === -1) return { kind: 'terminal', terminal: trimmed };
  const [device, connection] = [trimmed.slice(0, colon).trim(), trimmed.slice(colon + 1).trim()];
  return device === '' || connection === '' ? undefined : { kind: 'device', device, connection };
}
