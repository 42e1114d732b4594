// Whether a rating of another model can take the place of a unit: what its motor, supply, wiring and cabinet need against what
// the successor is told to give. What a model does not tell is asked, never assumed.

import {
  terminalsOf,
  type Dictionary,
  type Fit,
  type Outfit,
  type Rating,
  type Terminal,
  type TerminalKind,
} from '../dictionary/index.ts';
import type { PlainSet } from '../meanings/index.ts';
import { deratedBy } from '../rules/index.ts';
import { meaningOf } from '../values/index.ts';
import type { FieldDevice } from '../wiring/index.ts';
import type { WireMoves } from './wire-moves.ts';

export type FitState = 'good' | 'change' | 'bad' | 'ask';

export interface FitItem {
  readonly what: FitSubject;
  readonly state: FitState;
  /** What is needed, and what the successor gives: numbers with their units, or words. */
  readonly needs: string;
  readonly gives: string;
}

export type FitSubject =
  | 'current'
  | 'inputs'
  | 'contacts'
  | 'burden'
  | 'brake'
  | 'heat'
  | 'relays'
  | 'outputs'
  | 'signals'
  | 'safe-inputs'
  | 'line'
  | 'logic'
  | 'size'
  | 'fuse'
  | 'resistor'
  | 'filter';

export interface FitInput {
  readonly old: PlainSet;
  readonly oldOutfit: Outfit;
  readonly fresh: Dictionary;
  readonly outfit: Outfit;
  readonly moves: WireMoves;
  /** Rated current of the successor at its duty. */
  readonly unitCurrent: ReturnType<PlainSet['reference']>;
  /** The old unit is on a line. */
  readonly onLine: boolean;
  /** In the cabinet, in °C; nothing where it is not known. */
  readonly ambient: number | null;
  /** That the successor will be set to, in kHz; nothing where it is not told. */
  readonly carrier: number | null;
  readonly devices: readonly FieldDevice[];
}

export const worstOf = (items: readonly FitItem[]): FitState =>
  (['bad', 'ask', 'change', 'good'] as const).find((state) => items.some((each) => each.state === state)) ??
  'good';

export function fitOf(input: FitInput): readonly FitItem[] {
  return [
    current(input),
    ...wired(input),
    ...contacts(input),
    ...burdens(input),
    line(input),
    ...cabinet(input),
  ];
}

/** The rated current of the motor against that of the unit at its duty, in its cabinet and at its carrier frequency. */
function current(input: FitInput): FitItem {
  const { old, unitCurrent: unit } = input;
  const motor = old.get(meaningOf('motor.ratedCurrent'));
  const needs = motor.kind === 'number' ? `${motor.value.toFixed(1)} A` : 'not told';
  const rated = unit.ok ? `${unit.value.value.toFixed(1)} A` : 'not told';
  if (motor.kind !== 'number' || !unit.ok) return { what: 'current', state: 'ask', needs, gives: rated };
  const { derating } = input.fresh;
  const { ambient, carrier } = input;
  const { share, byHeat, byCarrier } = deratedBy(derating, ambient, carrier);
  const told = [
    ...(byHeat < 100 ? [`${ambient ?? ''} °C`] : []),
    ...(byCarrier < 100 ? [`${carrier ?? ''} kHz`] : []),
  ];
  // Nobody has told how warm the cabinet is, and it counts on this model.
  const unknown = ambient === null && (derating?.ambient.length ?? 0) > 0;
  const left = unit.value.value * share;
  const gives = told.length === 0 ? rated : `${left.toFixed(1)} A (${rated} at ${told.join(', ')})`;
  if (left < motor.value) return { what: 'current', state: 'bad', needs, gives };
  return {
    what: 'current',
    state: unknown && left * LEAST_SHARE < motor.value ? 'ask' : 'good',
    needs,
    gives,
  };
}

/** Below it a rating is chosen larger whatever the manual says. */
const LEAST_SHARE = 0.8;

function wired({ fresh, moves }: FitInput): readonly FitItem[] {
  const kinds = [
    ['inputs', 'input ', 'digital-input'],
    ['relays', 'relay ', 'relay'],
    ['outputs', 'output ', 'digital-output'],
    ['signals', 'signal ', 'analog-input'],
    ['safe-inputs', 'safe-input ', 'safe-input'],
    ['brake', 'brake ', 'brake'],
  ] as const;
  const terminals = fresh.terminals ? terminalsOf(fresh.terminals) : [];
  const counted = (kind: TerminalKind) => {
    const own = terminals.filter((each) => each.kind === kind);
    return new Set(own.map(({ id, contact }) => contact?.relay ?? id)).size;
  };
  const items = kinds.flatMap(([what, start, kind]): FitItem[] => {
    const own = moves.moves.filter(({ place }) => place.startsWith(start));
    // Common and contact of a relay are one output.
    const places = new Set(own.map(({ place }) => place.split(' ').slice(0, 2).join(' ')));
    if (places.size === 0) return [];
    const lost = own.some(({ to }) => to === null);
    const other = own.some(({ doubt }) => doubt !== null);
    const state = lost ? 'bad' : other ? 'change' : 'good';
    return [{ what, state, needs: `${places.size} wired`, gives: String(counted(kind)) }];
  });
  const { old, fresh: now } = moves.logic;
  if (old === undefined || now === undefined || moves.moves.length === 0) return items;
  return [...items, { what: 'logic', state: old === now ? 'good' : 'change', needs: old, gives: now }];
}

const terminalsBy = ({ terminals }: Dictionary): ReadonlyMap<string, Terminal> =>
  new Map((terminals ? terminalsOf(terminals) : []).map((each) => [each.id, each]));

/** What hangs on relays and transistor outputs, against what these can switch. */
function contacts({ fresh, moves, devices }: FitInput): readonly FitItem[] {
  const terminals = terminalsBy(fresh);
  return moves.moves.flatMap(({ at, to }): FitItem[] => {
    const terminal = to === null ? undefined : terminals.get(to);
    const load = devices.find(({ name }) => at.startsWith(`${name}:`));
    const switches = terminal?.kind === 'relay' || terminal?.kind === 'digital-output';
    if (!terminal || !switches || !load || !('milliamps' in load) || load.kind === 'supply') return [];
    const known = terminal.volts !== null && terminal.milliamps !== null;
    const holds = (terminal.volts ?? 0) >= load.volts && (terminal.milliamps ?? 0) >= load.milliamps;
    return [
      {
        ...{ what: 'contacts', state: known ? (holds ? 'good' : 'bad') : 'ask' },
        needs: `${load.name}: ${load.volts} V, ${load.milliamps} mA`,
        gives: known
          ? `${terminal.id}: ${terminal.volts ?? ''} V, ${terminal.milliamps ?? ''} mA`
          : 'not told',
      },
    ];
  });
}

/** A transmitter that sends a current has to drive it through the input. */
function burdens({ old, fresh, moves, devices }: FitInput): readonly FitItem[] {
  const [before, now] = [terminalsBy(old.dictionary), terminalsBy(fresh)];
  return moves.moves.flatMap(({ at, from, to, place }): FitItem[] => {
    const device = devices.find(({ name }) => at.startsWith(`${name}:`));
    const sends = device?.kind === 'transmitter' && device.signal.endsWith('ma');
    if (!sends || to === null || !place.startsWith('signal ')) return [];
    const [had, has] = [before.get(from)?.burdenOhm ?? null, now.get(to)?.burdenOhm ?? null];
    const ohms = (value: number | null) => (value === null ? 'not told' : `${value} Ω`);
    const state = had !== null && has !== null && has <= had ? 'good' : 'ask';
    return [{ what: 'burden', state, needs: `${device.name} drove ${ohms(had)}`, gives: ohms(has) }];
  });
}

const line = ({ onLine, fresh }: FitInput): FitItem => ({
  what: 'line',
  state: !onLine || fresh.line ? 'good' : 'change',
  needs: onLine ? 'on a line' : 'no line',
  gives: fresh.line ? 'can be on a line' : 'keypad only',
});

const ratingOf = ({ ratings }: Dictionary, { rating }: Outfit): Rating | undefined =>
  ratings.find(({ id }) => id === rating);

/** Room, fuse, resistor and filter. */
function cabinet({ old, oldOutfit, fresh, outfit }: FitInput): readonly FitItem[] {
  const [before, now] = [ratingOf(old.dictionary, oldOutfit)?.fit, ratingOf(fresh, outfit)?.fit];
  const room = (fit: Fit | null | undefined) =>
    fit?.widthMm && fit.heightMm && fit.depthMm
      ? `${fit.widthMm} × ${fit.heightMm} × ${fit.depthMm} mm`
      : 'not told';
  const smaller = (['widthMm', 'heightMm', 'depthMm'] as const).every(
    (side) => (now?.[side] ?? Infinity) <= (before?.[side] ?? 0),
  );
  const fits: FitItem[] = [
    { what: 'size', state: smaller ? 'good' : 'ask', needs: room(before), gives: room(now) },
  ];
  const fuse = (fit: Fit | null | undefined) => (fit?.fuseA ? `${fit.fuseA} A` : 'not told');
  const fuseFits = before?.fuseA && now?.fuseA ? before.fuseA <= now.fuseA : undefined;
  fits.push({
    ...{ what: 'fuse', needs: fuse(before), gives: `up to ${fuse(now)}` },
    state: fuseFits === undefined ? 'ask' : fuseFits ? 'good' : 'change',
  });
  if (old.choice(meaningOf('brake.resistor')) === 'fitted') {
    const [had, needs] = [before?.leastResistorOhm, now?.leastResistorOhm];
    const ohms = (value: number | null | undefined) => (value ? `at least ${value} Ω` : 'not told');
    const state = !needs || !had ? 'ask' : needs <= had ? 'good' : 'ask';
    fits.push({ what: 'resistor', state, needs: ohms(had), gives: ohms(needs) });
  }
  if (before?.lossesW && now?.lossesW)
    fits.push({
      ...{ what: 'heat', needs: `${before.lossesW} W`, gives: `${now.lossesW} W` },
      state: now.lossesW <= before.lossesW ? 'good' : 'ask',
    });
  if (before?.filter && now?.filter && before.filter !== now.filter)
    fits.push({ what: 'filter', state: 'change', needs: before.filter, gives: now.filter });
  return fits;
}
