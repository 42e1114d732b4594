// Each conductor of the old drive to its place on the successor, by what its terminal does and not by its number. Where several
// places would do, or none does, that is said and asked; nothing is left hanging without a word.

import { terminalsOf, type Dictionary, type Terminal, type TerminalChart } from '../dictionary/index.ts';
import { showEnd, type WireEnd, type Wiring } from '../wiring/index.ts';

/** What a terminal is for, whatever its number: `input 3`, `signal 1`, `output 2 closes`, `24 V`, `zero`. */
export type Place = string;

export interface Move {
  /** Row of the wire in the wiring. */
  readonly wire: number;
  readonly number: string;
  readonly colour: string;
  /** The other end: a device, as `S1:13`, or a terminal. */
  readonly at: string;
  readonly from: string;
  readonly to: string | null;
  readonly place: Place;
  /**
   * Under which name a choice of its terminal is said: an input moves with all its wires and settings, `R1`; of what feeds
   * several devices each wire goes where it is wanted, `24 S1:13`.
   */
  readonly line: string;
  /** Terminals of the successor of the same kind. */
  readonly could: readonly string[];
  readonly doubt: MoveDoubt | null;
}

export type MoveDoubt =
  /** The successor has nothing that does this. */
  | { readonly code: 'no-place' }
  /** More than one terminal would do. */
  | { readonly code: 'which'; readonly of: readonly string[] }
  /** The potential that the contacts need is the other one now. */
  | { readonly code: 'other-side' }
  /** One supply fed contacts and a potentiometer; the successor has one for each. */
  | { readonly code: 'own-supply' };

export interface LinkMove {
  readonly between: readonly [string, string];
  /**
   * Of the works of the successor: fitted there, or to be fitted. Of the old unit: made anew between these terminals of the
   * successor, goes with the old unit, or hangs in its plug and has to come out. `take-out`: fitted by the works of the
   * successor for contacts that are joined to the other side.
   */
  readonly does: 'stays-fitted' | 'fit' | 'take-out' | 'made-anew' | 'goes-with-old' | 'out-of-plug';
  /** Terminals of the old unit, where it is one of its links. */
  readonly was: readonly [string, string] | null;
  readonly why: string;
}

/** Terminals of the successor that somebody has chosen: for all wires of an old terminal, or for one (`line` of a move). */
export type ChosenTerminals = ReadonlyMap<string, string>;

export interface WireMoves {
  readonly moves: readonly Move[];
  readonly links: readonly LinkMove[];
  /** Inputs and outputs of the old unit by those of the successor that take over: `input.3` becomes `input.5`. */
  readonly renamed: ReadonlyMap<string, string>;
  readonly wiring: Wiring;
  /** What the contacts are joined to. */
  readonly logic: { readonly old: Logic | undefined; readonly fresh: Logic | undefined };
}

type Logic = 'sourcing' | 'sinking';

const NO_CHART: TerminalChart = { strips: [], links: [], switches: [], arrangements: [] };

export interface MoveInput {
  readonly old: Dictionary;
  readonly wiring: Wiring;
  /** What an input of the old unit does. */
  readonly does: (number: number) => string;
  readonly fresh: Dictionary;
  /** Which function an input of the successor can be given. */
  readonly takes: (number: number, does: string) => boolean;
  readonly chosen: ChosenTerminals;
}

export function moveWires({ old, wiring, does, fresh, takes, chosen }: MoveInput): WireMoves {
  const from = new Side(old);
  const to = new Side(fresh);
  const logic = { old: from.logicOf(wiring.arrangement, wiring), fresh: undefined as Logic | undefined };
  const arrangement = to.arrangementFor(logic.old);
  logic.fresh = arrangement?.logic;
  const renamed = renamedInputs(wiring, from, to, does, takes, chosen);
  const moves: Move[] = [];
  const ends = new Map<string, WireEnd>();
  for (const [wire, { number, colour, from: a, to: b }] of wiring.wires.entries())
    for (const [end, other, side] of [
      [a, b, 'from'],
      [b, a, 'to'],
    ] as const) {
      if (end.kind !== 'terminal') continue;
      const key = `${wire} ${side}`;
      const terminal = from.terminals.get(end.terminal);
      const own = terminal ? from.placeOf(terminal) : '';
      const place = own === CONTACT_SUPPLY && isPotentiometer(wiring, other) ? POT_SUPPLY : own;
      const found = to.find(place, renamed, logic);
      const doubt: MoveDoubt | null = place === own ? found.doubt : { code: 'own-supply' };
      const could = terminal ? to.alike(terminal) : [];
      const at = showEnd(other);
      const isInput = own.startsWith('input ');
      const line = isInput ? end.terminal : `${end.terminal} ${at}`;
      const choice = chosen.get(line) ?? chosen.get(end.terminal);
      const wanted = could.find((id) => id === choice);
      // Where an input goes, its settings go, too: the renaming has seen the choice, and may have refused it.
      const id = isInput ? found.terminal : (wanted ?? found.terminal);
      if (id !== null) ends.set(key, { kind: 'terminal', terminal: id });
      moves.push({
        ...{ wire, number, colour, at, from: end.terminal, to: id, place, line, could },
        doubt: id === wanted ? null : doubt,
      });
    }
  const moved = wiring.wires.map((each, wire) => ({
    ...each,
    from: each.from.kind === 'terminal' ? ends.get(`${wire} from`) : each.from,
    to: each.to.kind === 'terminal' ? ends.get(`${wire} to`) : each.to,
  }));
  const links = linkMoves(old, fresh, wiring, logic.fresh, (id) => {
    const terminal = from.terminals.get(id);
    return terminal ? to.find(from.placeOf(terminal), renamed, logic).terminal : null;
  });
  return {
    ...{ moves, renamed, logic, links },
    wiring: {
      devices: wiring.devices,
      // A conductor without a place hangs in the air.
      wires: moved.flatMap((each) =>
        each.from && each.to ? [{ ...each, from: each.from, to: each.to }] : [],
      ),
      links: links.flatMap(({ between, does }) =>
        does === 'stays-fitted' || does === 'fit' || does === 'made-anew'
          ? [{ between, place: 'drive' as const }]
          : [],
      ),
      switches: to.switchesFor(arrangement?.name),
      arrangement:
        arrangement && !arrangement.factory && !to.isSwitched(arrangement.name) ? arrangement.name : '',
    },
  };
}

class Side {
  readonly terminals: ReadonlyMap<string, Terminal>;
  private readonly chart: TerminalChart;
  private readonly dictionary: Dictionary;

  constructor(dictionary: Dictionary) {
    this.dictionary = dictionary;
    this.chart = dictionary.terminals ?? NO_CHART;
    this.terminals = new Map(terminalsOf(this.chart).map((terminal) => [terminal.id, terminal]));
  }

  /** Links that the works have fitted, those of safe torque off, and those that join the common of the inputs to a side. */
  worksLinks(logic: Logic | undefined): readonly Omit<LinkMove, 'was'>[] {
    const side = logic === 'sinking' ? CONTACT_SUPPLY : 'zero';
    return this.chart.links.flatMap(({ between, factory, why }): Omit<LinkMove, 'was'>[] => {
      const places = between.flatMap((id) => {
        const terminal = this.terminals.get(id);
        return terminal ? [this.placeOf(terminal)] : [];
      });
      const joins = places.includes('common of the inputs');
      const safe = between.some((id) => this.terminals.get(id)?.kind === 'safe-input');
      const wanted = joins ? places.includes(side) : factory || safe;
      if (wanted) return [{ between, why, does: factory ? 'stays-fitted' : 'fit' }];
      return joins && factory ? [{ between, why, does: 'take-out' }] : [];
    });
  }

  isSwitched = (arrangement: string): boolean =>
    this.chart.switches.some(({ places }) => places.some(({ makes }) => makes?.includes(arrangement)));

  /** Board switches that make an arrangement, where they are not delivered so. */
  switchesFor(arrangement: string | undefined): Wiring['switches'] {
    return Object.fromEntries(
      this.chart.switches.flatMap(({ id, places, factory }) => {
        const place = places.find(({ makes }) => arrangement !== undefined && makes?.includes(arrangement));
        return place && place.name !== factory ? [[id, place.name]] : [];
      }),
    );
  }

  /** Terminals of the same kind as one of the other unit. */
  alike = ({ kind, contact }: Terminal): readonly string[] =>
    [...this.terminals.values()]
      .filter((each) => each.kind === kind && each.contact?.side === contact?.side)
      .map(({ id }) => id);

  numberOf({ setBy }: Terminal): string | undefined {
    const meaning = this.dictionary.parameters.find(({ code }) => code === setBy)?.meaning;
    return meaning ? /\d+/.exec(meaning)?.[0] : undefined;
  }

  logicOf(name: string, { switches }: Wiring): Logic | undefined {
    const made = this.chart.switches.flatMap(
      ({ id, places }) => places.find((place) => place.name === switches[id])?.makes ?? [],
    );
    const wanted = name === '' ? made[0] : name;
    return this.chart.arrangements.find((each) =>
      wanted === undefined ? each.factory : each.name === wanted,
    )?.logic;
  }

  /** The arrangement with the same logic, that of the works first. */
  arrangementFor(logic: Logic | undefined) {
    const { arrangements } = this.chart;
    const factory = arrangements.find((each) => each.factory);
    return factory?.logic === logic
      ? factory
      : (arrangements.find((each) => each.logic === logic) ?? factory);
  }

  placeOf(terminal: Terminal): Place {
    const number = this.numberOf(terminal);
    switch (terminal.kind) {
      case 'digital-input':
        return `input ${number ?? terminal.id}`;
      case 'analog-input':
        return `signal ${number ?? terminal.id}`;
      case 'relay':
        return `relay ${number ?? terminal.contact?.relay ?? terminal.id} ${terminal.contact?.side ?? ''}`.trim();
      case 'digital-output':
        return `output ${number ?? terminal.id}`;
      case 'supply':
        if (terminal.volts === null) return `supply ${this.ordinal(terminal)}`;
        return terminal.volts > CONTACT_VOLTS ? CONTACT_SUPPLY : POT_SUPPLY;
      case 'common':
        return terminal.signal === '0 V' ? 'zero' : 'common of the inputs';
      default:
        return `${terminal.kind} ${this.ordinal(terminal)}`;
    }
  }

  /** Which one of its kind it is, from 1. */
  private ordinal(terminal: Terminal): number {
    return [...this.terminals.values()].filter(({ kind }) => kind === terminal.kind).indexOf(terminal) + 1;
  }

  find(
    place: Place,
    renamed: ReadonlyMap<string, string>,
    logic: WireMoves['logic'],
  ): { readonly terminal: string | null; readonly doubt: MoveDoubt | null } {
    const [kind = '', number = '', side = ''] = place.split(' ');
    const input = renamed.get(`input.${number}`)?.split('.')[1];
    const wanted = kind === 'input' && input !== undefined ? `input ${input}` : place;
    const fits = [...this.terminals.values()].filter((terminal) => this.placeOf(terminal) === wanted);
    // The side that contacts are joined to follows the logic.
    const turns = logic.old !== undefined && logic.fresh !== undefined && logic.old !== logic.fresh;
    if (turns && (place === 'zero' || place === CONTACT_SUPPLY)) {
      const other = place === 'zero' ? CONTACT_SUPPLY : 'zero';
      const [first] = [...this.terminals.values()].filter((terminal) => this.placeOf(terminal) === other);
      return { terminal: first?.id ?? null, doubt: { code: 'other-side' } };
    }
    const [first, ...more] = kind === 'relay' && fits.length === 0 ? this.relaySide(side) : fits;
    if (!first) return { terminal: null, doubt: { code: 'no-place' } };
    // Zero terminals are joined inside: the first will do.
    const several = more.length > 0 && place !== 'zero';
    return {
      terminal: first.id,
      doubt: several ? { code: 'which', of: [first, ...more].map(({ id }) => id) } : null,
    };
  }

  private relaySide(side: string): readonly Terminal[] {
    return [...this.terminals.values()].filter(
      ({ kind, contact }) => kind === 'relay' && contact?.side === side,
    );
  }
}

const CONTACT_VOLTS = 10;
const CONTACT_SUPPLY = 'supply for contacts';
const POT_SUPPLY = 'supply for a potentiometer';

const isPotentiometer = ({ devices }: Wiring, end: WireEnd): boolean =>
  end.kind === 'device' && devices.some(({ kind, name }) => kind === 'potentiometer' && name === end.device);

/** Of an input without wires for which the successor has none left. */
const NO_INPUT = 'input.none';

/** Inputs with wires keep their number where the successor can give it their function; the others go to the next free one. */
function renamedInputs(
  { wires, links }: Wiring,
  from: Side,
  to: Side,
  does: MoveInput['does'],
  takes: MoveInput['takes'],
  chosen: ChosenTerminals,
): ReadonlyMap<string, string> {
  const ends = [
    ...wires.flatMap(({ from: a, to: b }) =>
      [a, b].flatMap((end) => (end.kind === 'terminal' ? [end.terminal] : [])),
    ),
    ...links.flatMap(({ between }) => between),
  ];
  const used = new Set(
    ends.flatMap((id) => {
      const terminal = from.terminals.get(id);
      return terminal?.kind === 'digital-input' ? [Number(from.numberOf(terminal))] : [];
    }),
  );
  const free = [...to.terminals.values()].flatMap((terminal) =>
    terminal.kind === 'digital-input' ? [Number(to.numberOf(terminal))] : [],
  );
  const renamed = new Map<string, string>();
  const give = (number: number, place: number | undefined) => {
    if (place === undefined) return;
    free.splice(free.indexOf(place), 1);
    renamed.set(`input.${number}`, `input.${place}`);
  };
  // What somebody has chosen comes first, and the settings of the input follow it.
  for (const [id, place] of chosen) {
    const [old, fresh] = [from.terminals.get(id), to.terminals.get(place)];
    if (old?.kind !== 'digital-input' || fresh?.kind !== 'digital-input') continue;
    const [number, wanted] = [Number(from.numberOf(old)), Number(to.numberOf(fresh))];
    if (used.has(number) && free.includes(wanted)) give(number, wanted);
  }
  const numbers = [...used].filter((number) => !renamed.has(`input.${number}`)).sort((a, b) => a - b);
  for (const number of numbers)
    if (free.includes(number) && takes(number, does(number))) give(number, number);
  for (const number of numbers)
    if (!renamed.has(`input.${number}`))
      give(number, free.find((place) => takes(place, does(number))) ?? free[0]);
  // Inputs without wires make room for them: two inputs never become one.
  for (const terminal of from.terminals.values()) {
    const number = terminal.kind === 'digital-input' ? Number(from.numberOf(terminal)) : NaN;
    if (Number.isNaN(number) || renamed.has(`input.${number}`)) continue;
    if (free.length === 0) renamed.set(`input.${number}`, NO_INPUT);
    else give(number, free.includes(number) ? number : free[0]);
  }
  return renamed;
}

function linkMoves(
  old: Dictionary,
  fresh: Dictionary,
  { links }: Wiring,
  logic: Logic | undefined,
  find: (terminal: string) => string | null,
): readonly LinkMove[] {
  const why = ({ terminals }: Dictionary, [a, b]: readonly [string, string]) =>
    terminals?.links.find(({ between }) => between.includes(a) && between.includes(b))?.why ?? '';
  const from = new Side(old);
  const isInput = (id: string) => from.terminals.get(id)?.kind === 'digital-input';
  const own = links.map(({ between, place }): LinkMove => {
    const [a, b] = between.map(find);
    const text = why(old, between);
    // A link that closes an input for good has to be there again; others belong to how the old unit is built.
    if (between.some(isInput) && a && b)
      return { between: [a, b], does: 'made-anew', was: between, why: text };
    return { between, does: place === 'plug' ? 'out-of-plug' : 'goes-with-old', was: between, why: text };
  });
  const works = new Side(fresh).worksLinks(logic).map((each): LinkMove => ({ ...each, was: null }));
  return [...own, ...works];
}
