// Whether a rating of another model can take the place of a unit: what its motor, supply, wiring and cabinet need against what
// the successor is told to give. What a model does not tell is asked, never assumed.

import type { Dictionary, Fit, Outfit, Rating } from '../dictionary/index.ts';
import { terminalsOf, type TerminalKind } from '../dictionary/index.ts';
import type { PlainSet } from '../meanings/index.ts';
import { meaningOf } from '../values/index.ts';
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
}

export const worstOf = (items: readonly FitItem[]): FitState =>
  (['bad', 'ask', 'change', 'good'] as const).find((state) => items.some((each) => each.state === state)) ??
  'good';

export function fitOf(input: FitInput): readonly FitItem[] {
  return [current(input), ...wired(input), line(input), ...cabinet(input)];
}

/** The rated current of the motor against that of the unit at its duty. */
function current({ old, unitCurrent: unit }: FitInput): FitItem {
  const motor = old.get(meaningOf('motor.ratedCurrent'));
  const needs = motor.kind === 'number' ? `${motor.value.toFixed(1)} A` : 'not told';
  const gives = unit.ok ? `${unit.value.value.toFixed(1)} A` : 'not told';
  if (motor.kind !== 'number' || !unit.ok) return { what: 'current', state: 'ask', needs, gives };
  return { what: 'current', state: unit.value.value >= motor.value ? 'good' : 'bad', needs, gives };
}

function wired({ fresh, moves }: FitInput): readonly FitItem[] {
  const kinds = [
    ['inputs', 'input ', 'digital-input'],
    ['relays', 'relay ', 'relay'],
    ['outputs', 'output ', 'digital-output'],
    ['signals', 'signal ', 'analog-input'],
    ['safe-inputs', 'safe-input ', 'safe-input'],
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
  if (before?.filter && now?.filter && before.filter !== now.filter)
    fits.push({ what: 'filter', state: 'change', needs: before.filter, gives: now.filter });
  return fits;
}
