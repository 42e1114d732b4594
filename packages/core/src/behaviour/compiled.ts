// The step of one machine without its reasons, learnt while it is used: what a turn asks of the circuit is noted, and another
// circuit that gives the same answers to the same questions comes to the same end, without a turn. A walk takes a million
// steps and a few thousand turns.

import type { Circuit, Signal } from './circuit.ts';
import { conesOf, questionsOf, type Asked, type Cone, type Question } from './cones.ts';
import type { Machine } from './machine.ts';
import type { Outcome } from './outcome.ts';
import type { Stands } from './stands.ts';
import { AT_REST, type Event, type State } from './state.ts';
import { applied, BETWEEN, MOST_ROUNDS, OSCILLATES, passesGap } from './step.ts';
import { Turn } from './turn.ts';

/** What an outcome tells without its reasons. */
export type Bare = Omit<Outcome, 'reasons' | 'ignored' | 'missing'>;

export const bareOf = ({ kind, direction, setPoint, ramps, stops, needs, outputs }: Outcome): Bare => ({
  ...{ kind, direction, setPoint, ramps, stops, needs, outputs },
});

/** A state of the drive and of its devices, each by its number. */
export interface At {
  readonly drive: number;
  readonly stand: number;
}

export interface CompiledStep extends At {
  readonly outcome: number;
}

/** An event made ready for one machine. */
export interface Action {
  readonly event: Event;
  /** What a turn sees of it; the same number where it sees the same. */
  readonly seen: number;
  /** Number of what it changes outside the drive; nothing where it does not. */
  readonly changes: number | null;
  readonly moves: { readonly index: number; readonly place: number; readonly gap: number | null } | null;
}

/** Asks one question: the bits of its answer lead on. */
interface Fork {
  readonly ends: false;
  readonly shift: number;
  readonly mask: number;
  readonly next: (Node | undefined)[];
}
interface End {
  readonly ends: true;
  /** Number of the outputs that are on. */
  readonly outputs: number;
  readonly drive: number;
  readonly outcome: number;
}
type Node = Fork | End;

/** Answers to one question by the devices that they depend on. */
interface Table {
  readonly asked: Question;
  readonly digits: readonly { readonly index: number; readonly weight: number }[];
  readonly count: number;
  /** By surroundings: the number of the answer, or `UNKNOWN`. */
  readonly rows: Int32Array[];
  /** Where the answer stands in the word of all answers. */
  readonly shift: number;
  readonly mask: number;
}

/** Above these the circuit is looked at as a whole. */
const MOST_ROWS = 2 ** 16;
const MOST_STANDS = 2 ** 22;
/** Answers of a signal take six bits, others one. */
const SIGNAL_BITS = 6;
const WORD_BITS = 31;
const UNKNOWN = -1;
/** Looked through for contacts that can change places. */
const MOST_TWIN_ROWS = 64;
const SENDERS = ['transmitter', 'potentiometer'];
/** Shares at which a sender is looked at, with room for other feeds. */
const SIGNAL_SHARES = 6;
/** Kinds of events that a turn can tell apart are fewer. */
const MOST_SEEN = 64;

/** Things by their text, numbered in the order of their coming. */
class Numbered<T> {
  readonly all: T[] = [];
  private readonly known = new Map<string, number>();

  of(thing: T): number {
    const key = JSON.stringify(thing);
    const number = this.known.get(key) ?? this.all.length;
    if (number === this.all.length) {
      this.known.set(key, number);
      this.all.push(thing);
    }
    return number;
  }
}

/** What a turn sees of an event that only changes contacts. */
const NOTHING_SEEN = 0;

export class Compiled {
  readonly machine: Machine;
  private readonly stands: Stands;
  /** One for each question, where each can be answered by its own. */
  private readonly tables: readonly Table[] | undefined;
  /** What of the drive answers depend on. */
  private readonly cone = new Set<string>();
  private readonly surroundings = new Numbered<unknown>();
  /** Words of all answers, each in its bits, in the order of their coming. */
  private readonly answers: number[] = [];
  private readonly numbers = new Map<number, number>();
  /** By surroundings and stand: the number of the word. */
  private readonly standing: Int32Array[] = [];
  private readonly drives = new Numbered<State>();
  private readonly outcomes = new Numbered<Bare>();
  private readonly seen = new Numbered<Event | null>();
  private readonly changes = new Numbered<Event>();
  private readonly signals = new Numbered<Signal | undefined>();
  private readonly outputs = new Numbered<readonly string[]>();
  /** Of each drive. */
  private readonly facts: {
    readonly turns: boolean;
    readonly outputs: number;
    readonly surroundings: number;
    /** First question by what is seen. */
    readonly ways: (Node | undefined)[];
    /** Ends by what is seen and the number of the answers. */
    readonly ends: (End | undefined)[][];
    /** By stand and what is seen, where the circuit is looked at as a whole. */
    readonly whole: Map<number, End>;
    /** By number of what an event changes outside. */
    readonly changed: number[];
  }[] = [];

  constructor(machine: Machine, stands: Stands) {
    this.machine = machine;
    this.stands = stands;
    this.seen.of(null);
    this.signals.of(undefined);
    this.tables = this.tablesOf();
  }

  private tablesOf(): readonly Table[] | undefined {
    const cones = conesOf(this.machine);
    if (!cones || this.stands.count > MOST_STANDS) return undefined;
    const senders = this.machine.wiring.devices.filter(({ kind }) => SENDERS.includes(kind)).length;
    if (senders * SIGNAL_SHARES >= 2 ** SIGNAL_BITS) return undefined;
    let shift = 0;
    const tables = questionsOf(this.machine).map((asked, at): Table => {
      const cone = cones[at] as Cone;
      for (const each of cone) this.cone.add(each);
      let count = 1;
      const digits = this.machine.wiring.devices.flatMap(({ name }) => {
        const index = cone.has(`device ${name}`) ? this.stands.indexOf(name) : undefined;
        if (index === undefined) return [];
        const digit = { index, weight: count };
        count *= this.stands.placesOf(index);
        return [digit];
      });
      const bits = asked[0] === 'signals' ? SIGNAL_BITS : 1;
      shift += bits;
      return { asked, digits, count, rows: [], shift: shift - bits, mask: 2 ** bits - 1 };
    });
    return shift <= WORD_BITS && tables.every(({ count }) => count <= MOST_ROWS) ? tables : undefined;
  }

  /** Each answer of the circuit is looked up; else the circuit is looked at as a whole, which takes a hundred times as long. */
  get isQuick(): boolean {
    return this.tables !== undefined;
  }

  outcomeOf = ({ outcome }: CompiledStep): Bare => this.outcomes.all[outcome] as Bare;
  driveOf = ({ drive }: At): State => this.drives.all[drive] as State;
  stateOf = (at: At): State => ({ ...this.driveOf(at), devices: this.stands.devices(at.stand) });

  /** The shaft is not at rest. */
  turns = ({ drive }: At): boolean => this.factsOf(drive).turns;

  begin = (): CompiledStep => this.settle(this.driveNumber(AT_REST), 0, NOTHING_SEEN);

  action(event: Event): Action {
    const seen = ['device', 'break', 'mend'].includes(event.kind) ? NOTHING_SEEN : this.seen.of(event);
    const outside = ['supply', 'break', 'mend'].includes(event.kind);
    const changes = outside ? this.changes.of(event) : null;
    if (event.kind !== 'device') return { event, seen, changes, moves: null };
    const index = this.stands.indexOf(event.name);
    if (index === undefined) throw new Error(`no such device: ${event.name}`);
    const device = this.machine.wiring.devices.find(({ name }) => name === event.name);
    const gap = device && passesGap(device, event.to, BETWEEN) ? this.stands.placeOf(index, BETWEEN) : null;
    return { event, seen, changes, moves: { index, place: this.stands.placeOf(index, event.to), gap } };
  }

  /** The same as `step`, by a property. */
  step({ drive, stand }: At, { event, seen, changes, moves }: Action): CompiledStep {
    if (moves) {
      const { index, place, gap } = moves;
      const passes = gap !== null && this.stands.placeIn(stand, index) !== place;
      const from = passes ? this.settle(drive, this.stands.moved(stand, index, gap), seen) : { drive, stand };
      return this.settle(from.drive, this.stands.moved(from.stand, index, place), seen);
    }
    if (changes === null) return this.settle(drive, stand, seen);
    const { changed } = this.factsOf(drive);
    let next = changed[changes];
    if (next === undefined) {
      next = this.driveNumber(applied(this.driveOf({ drive, stand }), event));
      changed[changes] = next;
    }
    const nothing = event.kind === 'supply' && next === drive;
    return this.settle(next, stand, nothing ? NOTHING_SEEN : seen);
  }

  private settle(from: number, stand: number, seen: number): CompiledStep {
    let drive = from;
    let { outputs } = this.factsOf(drive);
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const end = this.turn(drive, stand, round === 0 ? seen : NOTHING_SEEN);
      if (!end) break;
      if (end.outputs === outputs) return { drive: end.drive, stand, outcome: end.outcome };
      ({ drive, outputs } = end);
    }
    return { drive, stand, outcome: this.outcomes.of(bareOf(OSCILLATES)) };
  }

  /** Nothing where field relays never come to rest. */
  private turn(drive: number, stand: number, seen: number): End | undefined {
    if (!this.tables) return this.turnWhole(drive, stand, seen);
    const answers = this.answersAt(drive, stand);
    const { ends, ways } = this.factsOf(drive);
    const known = (ends[seen] ??= [])[answers];
    if (known) return known;
    const word = this.answers[answers] as number;
    let node = ways[seen];
    while (node && !node.ends) node = node.next[(word >>> node.shift) & node.mask];
    const end = node ?? this.learn(drive, word, seen);
    (ends[seen] as End[])[answers] = end;
    return end;
  }

  /** Whether two contacts can change places, with all conductors whole and with any of `broken`. */
  areTwins(one: number, other: number, broken: readonly string[]): boolean {
    if (!this.tables) return false;
    const drives = [[], ...broken.map((what) => [what])].map((each) =>
      this.driveNumber({ ...AT_REST, supply: true, broken: each }),
    );
    return this.tables.every(({ digits, count, shift, mask }) => {
      const [first, second] = [one, other].map((index) => digits.find((digit) => digit.index === index));
      if (!first && !second) return true;
      if (!first || !second || count > MOST_TWIN_ROWS) return false;
      const given = (drive: number, stand: number) =>
        ((this.answers[this.answersAt(drive, stand)] as number) >>> shift) & mask;
      return drives.every((drive) =>
        this.standsOf(digits).every(
          (stand) => given(drive, stand) === given(drive, this.swapped(stand, one, other)),
        ),
      );
    });
  }

  /** All ways in which these devices can stand while the others rest. */
  private standsOf(digits: Table['digits']): readonly number[] {
    return digits.reduce<readonly number[]>(
      (stands, { index }) =>
        stands.flatMap((stand) =>
          Array.from({ length: this.stands.placesOf(index) }, (_, place) =>
            this.stands.moved(stand, index, place),
          ),
        ),
      [0],
    );
  }

  private swapped(stand: number, one: number, other: number): number {
    const [first, second] = [this.stands.placeIn(stand, one), this.stands.placeIn(stand, other)];
    return this.stands.moved(this.stands.moved(stand, one, second), other, first);
  }

  /** Number of the word of all answers. */
  private answersAt(drive: number, stand: number): number {
    const { surroundings } = this.factsOf(drive);
    const at = (this.standing[surroundings] ??= new Int32Array(this.stands.count).fill(UNKNOWN));
    const known = at[stand] as number;
    if (known !== UNKNOWN) return known;
    let word = 0;
    for (const table of this.tables ?? []) word |= this.given(table, drive, stand) << table.shift;
    const number = this.numbers.get(word) ?? this.answers.length;
    if (number === this.answers.length) {
      this.numbers.set(word, number);
      this.answers.push(word);
    }
    at[stand] = number;
    return number;
  }

  /** Number of the answer to a question. */
  private given({ asked, digits, count, rows }: Table, drive: number, stand: number): number {
    let at = 0;
    for (const { index, weight } of digits) at += this.stands.placeIn(stand, index) * weight;
    const row = (rows[this.factsOf(drive).surroundings] ??= new Int32Array(count).fill(UNKNOWN));
    const known = row[at] as number;
    if (known !== UNKNOWN) return known;
    const circuit = this.machine.conductors.look(this.stateOf({ drive, stand })) as Circuit;
    const [of, terminal] = asked;
    const given =
      of === 'signals' ? this.signals.of(circuit.signals.get(terminal)) : Number(circuit[of].has(terminal));
    row[at] = given;
    return given;
  }

  private learn(drive: number, word: number, seen: number): End {
    const tables = this.tables ?? [];
    const asked = new Set<Table>();
    const answer = (of: Asked, id: string): number => {
      const table = tables.find((each) => each.asked[0] === of && each.asked[1] === id);
      if (!table) throw new Error(`${of} ${id} is no question`);
      asked.add(table);
      return (word >>> table.shift) & table.mask;
    };
    const end = this.ended(
      drive,
      {
        pulled: [],
        closed: { has: (id) => answer('closed', id) === 1 },
        safe: { has: (id) => answer('safe', id) === 1 },
        signals: { get: (id) => this.signals.all[answer('signals', id)] },
      },
      seen,
    );
    let [nodes, at]: [(Node | undefined)[], number] = [this.factsOf(drive).ways, seen];
    for (const { shift, mask } of asked) {
      const node = (nodes[at] ??= { ends: false, shift, mask, next: [] });
      if (node.ends || node.shift !== shift) throw new Error('a turn asks otherwise after the same answers');
      [nodes, at] = [node.next, (word >>> shift) & mask];
    }
    nodes[at] = end;
    return end;
  }

  /** Field relays take part, or anything may be joined: the circuit is looked at as a whole. */
  private turnWhole(drive: number, stand: number, seen: number): End | undefined {
    const { whole } = this.factsOf(drive);
    const key = stand * MOST_SEEN + seen;
    const known = whole.get(key);
    if (known) return known;
    const circuit = this.machine.conductors.look(this.stateOf({ drive, stand }));
    if (!circuit) return undefined;
    const end = this.ended(drive, circuit, seen);
    whole.set(key, end);
    return end;
  }

  private ended(drive: number, circuit: Circuit, seen: number): End {
    const state = { ...(this.drives.all[drive] as State), pulled: circuit.pulled };
    const stepped = new Turn(this.machine, state, circuit, this.seen.all[seen] ?? undefined, false).take();
    const outcome = this.outcomes.of(bareOf(stepped.outcome));
    const next = this.driveNumber(stepped.state);
    return { ends: true, drive: next, outputs: this.factsOf(next).outputs, outcome };
  }

  private factsOf(drive: number) {
    return this.facts[drive] as (typeof this.facts)[number];
  }

  private driveNumber(state: State): number {
    const drive = this.drives.of({ ...state, devices: {} });
    this.facts[drive] ??= {
      turns: state.motion !== 'rest',
      outputs: this.outputs.of(state.outputs),
      surroundings: this.surroundings.of([
        state.supply,
        state.outputs.filter((each) => this.cone.has(`output ${each}`)),
        state.broken.filter((each) => this.cone.has(each)),
      ]),
      ways: [],
      ends: [],
      whole: new Map(),
      changed: [],
    };
    return drive;
  }
}
