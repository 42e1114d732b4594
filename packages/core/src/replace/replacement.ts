// The old unit of a position and one successor, laid beside each other: fit, settings and wires, each from the others, so that
// none contradicts another. Pure: what somebody answered comes in, and the whole sheet comes out.

import { machineOf, type Machine } from '../behaviour/index.ts';
import type { Code, Dictionary, Outfit } from '../dictionary/index.ts';
import type { Bridge, Plain, PlainSet } from '../meanings/index.ts';
import { defaultSet } from '../sets/index.ts';
import { meaningOf, type Meaning, type Reading } from '../values/index.ts';
import type { Wiring } from '../wiring/index.ts';
import type { CrossReference } from './cross-reference.ts';
import { fitOf, type FitItem } from './fit.ts';
import { adjustPresets, functionFor } from './presets.ts';
import { replaceSettings, type Answers, type SettingSheet } from './settings.ts';
import { moveWires, type ChosenTerminals, type WireMoves } from './wire-moves.ts';

export interface OldUnit {
  readonly set: PlainSet;
  readonly outfit: Outfit;
  readonly wiring: Wiring;
  readonly onLine: boolean;
  /** In its cabinet, in °C; nothing where it is not known. */
  readonly ambient?: number | null;
}

export interface Successor {
  readonly dictionary: Dictionary;
  readonly outfit: Outfit;
  /** Nothing where nobody has written one for this pair: the bridge alone carries, and says how much of it is unproven. */
  readonly cross: CrossReference | null;
}

export interface Replacement {
  readonly fit: readonly FitItem[];
  readonly settings: SettingSheet;
  readonly wires: WireMoves;
  /** The successor as it would stand, with its wires. */
  readonly machine: Machine;
  readonly old: Machine;
}

/** Throws only where the outfit is not one of the successor. */
export function replace(
  bridge: Bridge,
  old: OldUnit,
  { dictionary: fresh, outfit, cross }: Successor,
  answers: Answers,
  chosen: ChosenTerminals,
): Replacement {
  const oldMachine = machineOf(old.set, old.wiring);
  const defaults = defaultSet(fresh, outfit)?.readings ?? new Map<Code, Reading>();
  const blank = machineOf(bridge.read(fresh, outfit, defaults), old.wiring);
  const ways = {
    old: oldMachine.rules.answer('preset.select'),
    fresh: blank.rules.answer('preset.select'),
    none: blank.rules.answer('preset.none'),
    acts: blank.rules.answer('preset.acts'),
  };
  const warmInput = blank.rules.answer('sensor.takes');
  const wires = moveWires({
    ...{ old: old.set.dictionary, wiring: old.wiring, fresh, chosen },
    does: (number) => oldMachine.inputs.find((each) => each.number === String(number))?.does ?? 'none',
    takes: (number, does) =>
      does === WARM && warmInput !== undefined
        ? warmInput === `input-${number}`
        : takesFunction(blank.set, number, functionFor(does, ways)),
  });
  const settings = replaceSettings({
    ...{ bridge, old: old.set, oldOutfit: old.outfit, fresh, outfit, cross, answers },
    renamed: wires.renamed,
    adjust: (wanted) => {
      if (warmInput === undefined) takeWarmContact(wanted, oldMachine, wires.renamed);
      return adjustPresets(wanted, ways);
    },
  });
  const switches = { ...wires.wiring.switches, ...switchesFor(fresh, settings.readings) };
  const wiring: Wiring = { ...wires.wiring, switches };
  const now = bridge.read(fresh, outfit, settings.readings);
  return {
    ...{ settings, old: oldMachine },
    fit: fitOf({
      ...{ old: old.set, oldOutfit: old.outfit, fresh, outfit },
      ...{ moves: wires, onLine: old.onLine, unitCurrent: blank.set.reference('unit.current') },
      ...{ ambient: old.ambient ?? null, carrier: carrierOf(now), devices: old.wiring.devices },
    }),
    wires: { ...wires, wiring },
    machine: machineOf(now, wiring),
  };
}

/** In kHz. */
function carrierOf(set: PlainSet): number | null {
  const carrier = set.get(meaningOf('carrier.frequency'));
  return carrier.kind === 'number' ? carrier.value / 1000 : null;
}

/** Whether another rating of the successor would fit: its terminals are the same, and so are the moves of the wires. */
export function fitAs(
  bridge: Bridge,
  old: OldUnit,
  fresh: Dictionary,
  outfit: Outfit,
  { wires: moves, machine }: Pick<Replacement, 'wires' | 'machine'>,
): readonly FitItem[] {
  const defaults = defaultSet(fresh, outfit)?.readings ?? new Map<Code, Reading>();
  const unitCurrent = bridge.read(fresh, outfit, defaults).reference('unit.current');
  const { set, outfit: oldOutfit, onLine } = old;
  return fitOf({
    ...{ old: set, oldOutfit, fresh, outfit, moves, onLine, unitCurrent },
    ...{ ambient: old.ambient ?? null, carrier: carrierOf(machine.set), devices: old.wiring.devices },
  });
}

/** The contact of a warm motor, where the old unit has a fixed input for it and the successor a function. */
const WARM = 'motor.warm';

function takeWarmContact(
  wanted: Map<Meaning, Plain>,
  { inputs }: Machine,
  renamed: ReadonlyMap<string, string>,
): void {
  for (const { number, does, opens, code } of inputs) {
    const place = renamed.get(`input.${number}`);
    if (does !== WARM || place === undefined) continue;
    const codes = code === null ? [] : [code];
    const said = (option: string): Plain => ({ kind: 'choice', option, codes, how: null });
    wanted.set(meaningOf(`${place}.function`), said(WARM));
    wanted.set(meaningOf(`${place}.sense`), said(opens ? 'open' : 'closed'));
  }
}

function takesFunction(set: PlainSet, number: number, does: string): boolean {
  const carrier = set.carrierOf(meaningOf(`input.${number}.function`));
  if (carrier?.kind !== 'parameter' || carrier.parameter.form.kind !== 'option') return false;
  return carrier.parameter.form.options.some(
    ({ meaning, instead }) => meaning === does || instead?.meaning === does,
  );
}

/** Board switches in the place that agrees with the setting beside them. */
export function switchesFor(
  { terminals }: Dictionary,
  readings: ReadonlyMap<Code, number>,
): Wiring['switches'] {
  return Object.fromEntries(
    (terminals?.switches ?? []).flatMap(({ id, places, factory, agreesWith }) => {
      const raw = agreesWith === null ? undefined : readings.get(agreesWith);
      const place = places.find(({ agrees }) => raw !== undefined && agrees?.includes(raw));
      return place && place.name !== factory ? [[id, place.name]] : [];
    }),
  );
}
