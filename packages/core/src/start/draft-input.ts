// What a sheet of first settings is worked out from, as it is kept: texts and readings. The server and the screen read it in one
// way, so that both work out the same sheet.

import type { Code, Dictionary } from '../dictionary/index.ts';
import type { Bridge } from '../meanings/index.ts';
import { readCrossReference } from '../replace/index.ts';
import type { Reading } from '../values/index.ts';
import { NO_WIRING, wiringFromText } from '../wiring/index.ts';
import type { DraftBase } from './carried.ts';
import type { DraftInput } from './draft-sheet.ts';
import { readStartingPoint } from './read-starting-point.ts';
import type { StartingPoint } from './starting-point.ts';

export interface KeptBase {
  readonly title: string;
  readonly dictionary: Dictionary;
  readonly rating: string;
  readonly region: string;
  readonly readings: readonly (readonly [code: string, reading: Reading])[];
  /** As `formatWiring` writes it; empty where there is none. */
  readonly wiring: string;
  readonly cross: string | null;
}

export interface KeptDraft {
  readonly dictionary: Dictionary;
  readonly region: string;
  readonly rating: string | null;
  /** The file of its starting point. */
  readonly point: string | null;
  readonly base: KeptBase | null;
  readonly fields: readonly { readonly key: string; readonly text: string; readonly why: string }[];
}

export function draftInputOf(bridge: Bridge, kept: KeptDraft): DraftInput {
  const { dictionary, region, rating, base, fields } = kept;
  const point = pointOf(bridge, kept);
  return {
    ...{ bridge, dictionary, region, rating, point, isPointLost: kept.point !== null && point === null },
    base: base && baseOf(bridge, base, dictionary),
    typed: new Map(fields.map(({ key, text, why }) => [key, { text, why }])),
  };
}

/** Worked out anew with every key that somebody presses: read once. */
const points = new WeakMap<Bridge, Map<string, StartingPoint | null>>();

function pointOf(bridge: Bridge, { point }: KeptDraft): StartingPoint | null {
  if (point === null) return null;
  const known = points.get(bridge) ?? new Map<string, StartingPoint | null>();
  points.set(bridge, known);
  const found = known.get(point);
  if (found !== undefined) return found;
  const read = readStartingPoint(point, bridge.vocabulary);
  known.set(point, read.ok ? read.value : null);
  return read.ok ? read.value : null;
}

function baseOf(bridge: Bridge, base: KeptBase, fresh: Dictionary): DraftBase {
  const { title, dictionary, rating, region, readings, wiring, cross } = base;
  const outfit = { rating, region };
  const read = cross === null ? null : readCrossReference(cross, dictionary, fresh);
  const held = new Map(readings) as ReadonlyMap<string, Reading> as ReadonlyMap<Code, Reading>;
  return {
    ...{ title, outfit, set: bridge.read(dictionary, outfit, held) },
    wiring: wiringFromText(wiring) ?? NO_WIRING,
    cross: read?.ok ? read.value : null,
  };
}
