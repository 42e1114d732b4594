// Another set as the beginning of a draft: as it is where model and rating are the same, by the bridge where they are not, with
// what changes on the way. What belongs to the one unit (its address, its lock) and what was measured on its motor stay there.

import { findParameter, type Code, type Dictionary, type Outfit } from '../dictionary/index.ts';
import type { Bridge, PlainSet } from '../meanings/index.ts';
import { lineTextOf, replace, type CrossReference } from '../replace/index.ts';
import { isRaw } from '../values/index.ts';
import type { Wiring } from '../wiring/index.ts';

export interface DraftBase {
  /** `KL1-RD-01, baseline 3`. */
  readonly title: string;
  readonly set: PlainSet;
  readonly outfit: Outfit;
  readonly wiring: Wiring;
  readonly cross: CrossReference | null;
}

/** What a setting became on another model or size. */
export interface CarriedNote {
  readonly code: string;
  readonly name: string;
  readonly value: string;
  readonly now: string;
  readonly why: string;
  /** Nobody has decided what becomes of it. */
  readonly open: boolean;
}

/** Of one unit, whatever it drives. */
const OWN = ['network.address', 'unit.lock', 'unit.serial', 'identify.use', 'axis.number'];

export function carriedFrom(
  bridge: Bridge,
  base: DraftBase,
  dictionary: Dictionary,
  outfit: Outfit,
  delivered: ReadonlyMap<Code, number>,
): {
  readonly readings: ReadonlyMap<Code, number>;
  readonly wiring: Wiring;
  readonly notes: readonly CarriedNote[];
} {
  const same =
    base.set.dictionary.id === dictionary.id &&
    base.outfit.rating === outfit.rating &&
    base.outfit.region === outfit.region;
  const made = same ? copied(base, dictionary, delivered) : byBridge(bridge, base, dictionary, outfit);
  const readings = new Map(made.readings);
  for (const { code, meaning, keeping } of dictionary.parameters) {
    const raw = delivered.get(code);
    if (raw !== undefined && (keeping === 'measured' || OWN.includes(meaning ?? ''))) readings.set(code, raw);
  }
  return { ...made, readings };
}

function copied({ set, wiring }: DraftBase, dictionary: Dictionary, delivered: ReadonlyMap<Code, number>) {
  const readings = new Map(delivered);
  for (const [code, reading] of set.readings) {
    const parameter = findParameter(dictionary, code);
    if (isRaw(reading) && parameter?.keeping === 'setting' && parameter.access !== 'read')
      readings.set(code, reading);
  }
  const unread = dictionary.parameters.filter(
    ({ code, keeping, access }) =>
      keeping === 'setting' && access !== 'read' && !isRaw(set.readings.get(code)),
  );
  const notes = unread.map(({ code, name }): CarriedNote => ({
    ...{ code, name, value: 'not kept', now: 'as delivered', open: true },
    why: 'The set that this draft begins with does not hold it.',
  }));
  return { readings, wiring, notes };
}

function byBridge(bridge: Bridge, base: DraftBase, dictionary: Dictionary, outfit: Outfit) {
  const { set, outfit: oldOutfit, wiring, cross } = base;
  const made = replace(
    bridge,
    { set, outfit: oldOutfit, wiring, onLine: false },
    { dictionary, outfit, cross },
    new Map(),
    new Map(),
  );
  const words = {
    ...{ old: set.dictionary, fresh: dictionary, term: bridge.vocabulary.termOf },
    readings: made.settings.readings,
  };
  const notes = made.settings.lines
    .filter(
      ({ id, open, question, group }) =>
        id.startsWith('old ') && (open || question !== null || group === 'converted'),
    )
    .map((line) => lineTextOf(line, words))
    .filter(({ why, open }) => why !== '' || open)
    .map(({ code, name, value, now, why, open, question }): CarriedNote => ({
      ...{ code, name, value, open, why: why === '' ? (question?.ask ?? '') : why },
      now: now.map((each) => `${each.code} ${each.value}`).join(', '),
    }));
  return { readings: made.settings.readings, wiring: made.wires.wiring, notes };
}
