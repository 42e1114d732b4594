// The writes that bring a unit from what it holds to what it should hold, in an order that works. Pure: nothing is
// assumed about the unit beyond `current`, and what the plan predicts is checked against the unit when it is done.
//
// Laws: carrying out `steps` on `current` gives `predicted`; `predicted` holds what was asked for, but for the lines in
// `unreachable`, and what was there before for all the rest; carrying out `undo` on `predicted` gives `current`.

import {
  defaultOf,
  findParameter,
  isTiedTo,
  placeOf,
  type Code,
  type Dictionary,
  type Facts,
  type Parameter,
} from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import type { Reading } from '../values/index.ts';
import { isOfLine } from './cut-off.ts';
import { structuralCodes, UnitRules, type Readings, type WriteRefusal } from '../rules/index.ts';

/** In the order of their carrying out. */
export const WRITE_PHASES = ['unlock', 'structure', 'settings', 'measured', 'line', 'lock'] as const;
export type WritePhase = (typeof WRITE_PHASES)[number];

export type WriteReason =
  /** Somebody asked for this value. */
  | { readonly kind: 'asked' }
  /** An earlier step changes this parameter, though it should keep its value. */
  | { readonly kind: 'put-back-by'; readonly by: Code }
  /** The unit is locked. */
  | { readonly kind: 'unlocks' }
  /** While this one holds its value, the other cannot be written. It gets its value again afterwards. */
  | { readonly kind: 'makes-way'; readonly for: Code };

export interface WriteStep {
  readonly code: Code;
  readonly from: Reading | undefined;
  readonly to: number;
  readonly phase: WritePhase;
  readonly reason: WriteReason;
  readonly stopped: boolean;
  readonly restart: boolean;
}

export type UnreachableCause =
  | { readonly code: 'unknown-code' }
  | { readonly code: 'no-register' }
  | { readonly code: 'nothing-to-write' }
  /** A write of it starts a procedure; it is no setting. */
  | { readonly code: 'trigger' }
  /** The unit is reached by it. */
  | { readonly code: 'own-address' }
  | { readonly code: 'circle' }
  | WriteRefusal;

export interface Unreachable {
  readonly code: Code;
  readonly cause: UnreachableCause;
}

/** A step whose value does nothing for the time being, and the parameter that decides it. */
export interface Idle {
  readonly code: Code;
  readonly by: Code;
}

export interface WritePlan {
  readonly steps: readonly WriteStep[];
  /** Lines asked for that the unit will not hold, and lines that cannot keep their values. */
  readonly unreachable: readonly Unreachable[];
  /** Lines asked for that the unit already holds. */
  readonly alreadyThere: readonly Code[];
  readonly idle: readonly Idle[];
  readonly predicted: ParameterSet;
  readonly undo: { readonly steps: readonly WriteStep[]; readonly unreachable: readonly Unreachable[] };
}

/** At the keypad everything can be set that has a place in a menu; over the line what has a register. */
export type WriteWay = 'line' | 'keypad';

/** Effects that still put each other back when a parameter was written so often run in a circle. */
const MOST_WRITES = 4;

/**
 * Plans the writes for `wanted` (raw values by code; nothing where the wanted set has no value for the code). `facts` are
 * those of the unit's rating and region. Parameters that nobody asked for keep their present values, even where a step
 * changes them on the way.
 */
export function planWrites(
  dictionary: Dictionary,
  facts: Facts,
  current: ParameterSet,
  wanted: ReadonlyMap<Code, Reading | undefined>,
  by: WriteWay = 'line',
): WritePlan {
  const never: Unreachable[] = [];
  const asked = new Map<Code, number>();
  for (const [code, reading] of wanted) {
    const cause = causeAgainst(dictionary, current, code, reading, by);
    if (cause) never.push({ code, cause });
    else asked.set(code, reading as number);
  }
  const alreadyThere = [...asked].filter(([code, raw]) => current.readings.get(code) === raw);
  const rules = new UnitRules(dictionary, facts);
  const walk = new PlanWalk(rules, current.readings, asked, by).run();
  const back = new PlanWalk(rules, walk.state, numbersOf(current.readings), by).run();
  const place = new Map([...wanted.keys()].map((code, at) => [code, at]));
  const unreachable = [...never, ...walk.unreachable()].sort(
    (a, b) => (place.get(a.code) ?? place.size) - (place.get(b.code) ?? place.size),
  );
  return {
    steps: walk.steps,
    unreachable,
    alreadyThere: alreadyThere.map(([code]) => code),
    idle: idleIn(dictionary, walk),
    predicted: { dictionary: current.dictionary, readings: walk.state },
    undo: { steps: back.steps, unreachable: back.unreachable() },
  };
}

const numbersOf = (readings: Readings): Map<Code, number> =>
  new Map([...readings].filter((entry): entry is [Code, number] => typeof entry[1] === 'number'));

/** Why a line is not even tried. */
function causeAgainst(
  dictionary: Dictionary,
  current: ParameterSet,
  code: Code,
  reading: Reading | undefined,
  by: WriteWay,
): UnreachableCause | undefined {
  const parameter = findParameter(dictionary, code);
  if (!parameter) return { code: 'unknown-code' };
  if (typeof reading !== 'number') return { code: 'nothing-to-write' };
  if (parameter.access === 'read') return { code: 'read-only' };
  if (reading === current.readings.get(code)) return undefined;
  if (parameter.meaning === 'unit.resetTrigger') return { code: 'trigger' };
  if (by === 'keypad') return undefined;
  if (parameter.meaning === 'network.address') return { code: 'own-address' };
  return parameter.register ? undefined : { code: 'no-register' };
}

function idleIn({ effects }: Dictionary, { steps, state }: PlanWalk): Idle[] {
  const idling = effects.filter((each) => each.kind === 'idles' && isTiedTo(each, state.get(each.when)));
  const written = [...new Set(steps.map(({ code }) => code))];
  return written.flatMap((code) => {
    const by = idling.find((each) => each.kind === 'idles' && each.codes.includes(code));
    return by ? [{ code, by: by.when }] : [];
  });
}

/** Follows the unit's state from step to step, as the effects say, until all that is wanted holds. */
class PlanWalk {
  /** What the unit holds after the steps so far. */
  readonly state: Map<Code, Reading>;
  readonly steps: WriteStep[] = [];
  private readonly rules: UnitRules;
  private readonly wanted: ReadonlyMap<Code, number>;
  private readonly asked: ReadonlyMap<Code, number>;
  private readonly by: WriteWay;
  private readonly structural: ReadonlySet<Code>;
  private readonly changedBy = new Map<Code, Code>();
  private readonly writes = new Map<Code, number>();

  constructor(rules: UnitRules, current: Readings, asked: ReadonlyMap<Code, number>, by: WriteWay) {
    this.by = by;
    this.rules = rules;
    this.state = new Map(current);
    this.asked = asked;
    this.wanted = new Map([...numbersOf(current), ...asked]);
    this.structural = new Set(structuralCodes(rules.dictionary));
  }

  run(): this {
    const order = this.order();
    const locks = [...this.wanted.keys()].filter(this.rules.isLock);
    if (order.some((code) => this.isOpen(code))) {
      for (const lock of this.rules.locksOn(this.state)) this.write(lock, 0, { kind: 'unlocks' }, 'unlock');
    }
    do this.settle(order);
    while (this.makeWay(order));
    for (const code of locks) {
      const raw = this.wanted.get(code) ?? 0;
      if (!this.isOpen(code) || this.rules.refusal(this.state, this.parameter(code), raw)) continue;
      this.writeWanted(code, raw === 0 ? 'unlock' : 'lock');
    }
    return this;
  }

  /** What is not as wanted at the end, with the reason. */
  unreachable(): Unreachable[] {
    return [...this.wanted].flatMap(([code, raw]) => {
      if (!this.isOpen(code)) return [];
      const parameter = this.parameter(code);
      const refused = this.canReach(parameter)
        ? this.rules.refusal(this.state, parameter, raw)
        : ({ code: 'no-register' } as const);
      return [{ code, cause: refused ?? { code: 'circle' } }];
    });
  }

  /** Structure first, in the order of its effects; then in menu order, with measured values after them, as what the drive
   * measured goes in when its conditions hold; what may cut the unit off comes last. */
  private order(): readonly Code[] {
    const structure = [...this.structural];
    const rank = (code: Code): number => WRITE_PHASES.indexOf(this.phaseOf(code));
    const place = (code: Code): number =>
      this.structural.has(code) ? structure.indexOf(code) : placeOf(this.rules.dictionary, code);
    return [...this.wanted.keys()]
      .filter((code) => !this.rules.isLock(code) && findParameter(this.rules.dictionary, code))
      .map((code) => ({ code, rank: rank(code), place: place(code) }))
      .sort((a, b) => a.rank - b.rank || a.place - b.place)
      .map(({ code }) => code);
  }

  /** Writes whatever is open and taken, until nothing of the kind is left. */
  private settle(order: readonly Code[]): void {
    for (let again = true; again;) {
      again = false;
      for (const code of order) {
        if (!this.isOpen(code)) continue;
        for (const first of this.blockedBy(code)) if (!this.tryWanted(first)) this.makeWayFor(first);
        const taken = this.tryWanted(code);
        again ||= taken && this.rules.effectsOf(code).length > 0;
      }
    }
  }

  /** Open parameters that could not be written any more once `code` holds what is wanted of it. */
  private blockedBy(code: Code): readonly Code[] {
    const raw = this.wanted.get(code);
    return this.rules
      .effectsOf(code)
      .flatMap((effect) => (effect.kind === 'blocks' && isTiedTo(effect, raw) ? effect.codes : []))
      .filter((other) => this.isOpen(other));
  }

  private makeWay(order: readonly Code[]): boolean {
    return order.some((code) => this.isOpen(code) && this.makeWayFor(code));
  }

  /** Changes for a while what keeps this parameter from being written; false where nothing can be done. */
  private makeWayFor(code: Code): boolean {
    const blocker = this.rules.blockerOf(this.state, code);
    if (!blocker || this.isSpent(blocker.when)) return false;
    const free = this.freeValueOf(blocker.when, (raw) => !isTiedTo(blocker, raw));
    if (free === undefined) return false;
    this.write(blocker.when, free, { kind: 'makes-way', for: code }, this.phaseOf(blocker.when));
    return this.tryWanted(code);
  }

  private freeValueOf(code: Code, isFree: (raw: number) => boolean): number | undefined {
    const parameter = this.parameter(code);
    const options = parameter.form.kind === 'option' ? parameter.form.options.map(({ raw }) => raw) : [0];
    const first = defaultOf(parameter, this.rules.factsIn(this.state));
    return [...(first === undefined ? [] : [first]), ...options].find(
      (raw) => isFree(raw) && !this.rules.refusal(this.state, parameter, raw),
    );
  }

  private isOpen(code: Code): boolean {
    const raw = this.wanted.get(code);
    return raw !== undefined && this.state.get(code) !== raw;
  }

  private isSpent = (code: Code): boolean => (this.writes.get(code) ?? 0) >= MOST_WRITES;

  private phaseOf(code: Code): WritePhase {
    if (this.structural.has(code)) return 'structure';
    const parameter = this.parameter(code);
    if (isOfLine(parameter)) return 'line';
    return parameter.keeping === 'measured' ? 'measured' : 'settings';
  }

  private canReach = ({ register }: Parameter): boolean => this.by === 'keypad' || register !== null;

  private parameter(code: Code): Parameter {
    const parameter = findParameter(this.rules.dictionary, code);
    if (!parameter) throw new Error(`no parameter ${code}`);
    return parameter;
  }

  private tryWanted(code: Code): boolean {
    const raw = this.wanted.get(code);
    const parameter = this.parameter(code);
    if (raw === undefined || !this.canReach(parameter) || this.isSpent(code)) return false;
    if (this.rules.refusal(this.state, parameter, raw)) return false;
    this.writeWanted(code, this.phaseOf(code));
    return true;
  }

  private writeWanted(code: Code, phase: WritePhase): void {
    const by = this.changedBy.get(code);
    const keeps = by !== undefined && (!this.asked.has(code) || (this.writes.get(code) ?? 0) > 0);
    this.write(
      code,
      this.wanted.get(code) ?? 0,
      keeps ? { kind: 'put-back-by', by } : { kind: 'asked' },
      phase,
    );
  }

  /** A write that the unit is known to take. */
  private write(code: Code, to: number, reason: WriteReason, phase: WritePhase): void {
    const { access, restart } = this.parameter(code);
    this.steps.push({
      ...{ code, from: this.state.get(code), to, phase, reason },
      ...{ stopped: access === 'write-stopped', restart },
    });
    this.writes.set(code, (this.writes.get(code) ?? 0) + 1);
    for (const other of this.rules.take(this.state, code, to)) this.changedBy.set(other, code);
  }
}
