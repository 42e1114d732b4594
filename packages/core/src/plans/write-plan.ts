// The writes that bring a unit from what it holds to what it should hold, in an order that works. Pure: nothing is
// assumed about the unit beyond `current`, and what the plan predicts is checked against the unit when it is done.

import {
  findParameter,
  placeOf,
  refusalOf,
  type Code,
  type Dictionary,
  type Facts,
  type ValueRefusal,
} from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import type { Reading } from '../values/index.ts';
import { applyWrite, structuralCodes, type Readings } from './effects.ts';

export type WritePhase = 'structure' | 'settings' | 'measured';

export type WriteReason =
  /** Somebody asked for this value. */
  | { readonly kind: 'asked' }
  /** An earlier step puts this parameter back to default, though it should keep its value. */
  | { readonly kind: 'put-back-by'; readonly by: Code };

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
  | { readonly code: 'read-only' }
  | { readonly code: 'no-register' }
  | { readonly code: 'nothing-to-write' }
  | { readonly code: 'circle' }
  | ValueRefusal;

export interface Unreachable {
  readonly code: Code;
  readonly cause: UnreachableCause;
}

export interface WritePlan {
  readonly steps: readonly WriteStep[];
  readonly unreachable: readonly Unreachable[];
  /** Lines asked for that the unit already holds. */
  readonly alreadyThere: readonly Code[];
  readonly predicted: ParameterSet;
}

/** A circle of effects that has not settled after this many rounds never will: each round fixes one more structure. */
const MOST_PASSES = 4;

/**
 * Plans the writes for `wanted` (raw values by code; nothing where the wanted set has no value for the code).
 * Parameters that nobody asked for keep their present values, even where a step puts them back on the way.
 */
export function planWrites(
  dictionary: Dictionary,
  facts: Facts,
  current: ParameterSet,
  wanted: ReadonlyMap<Code, Reading | undefined>,
): WritePlan {
  const unreachable: Unreachable[] = [];
  const asked = new Map<Code, number>();
  for (const [code, reading] of wanted) {
    const cause = causeAgainst(dictionary, facts, code, reading);
    if (cause) unreachable.push({ code, cause });
    else asked.set(code, reading as number);
  }
  const alreadyThere = [...asked]
    .filter(([code, raw]) => current.readings.get(code) === raw)
    .map(([code]) => code);
  const walk = new PlanWalk(dictionary, facts, current.readings, asked);
  const stuck = walk.run();
  for (const code of stuck) unreachable.push({ code, cause: { code: 'circle' } });
  const predicted = { dictionary: current.dictionary, readings: walk.state };
  return { steps: walk.steps, unreachable, alreadyThere, predicted };
}

function causeAgainst(
  dictionary: Dictionary,
  facts: Facts,
  code: Code,
  reading: Reading | undefined,
): UnreachableCause | undefined {
  const parameter = findParameter(dictionary, code);
  if (!parameter) return { code: 'unknown-code' };
  if (typeof reading !== 'number') return { code: 'nothing-to-write' };
  if (parameter.access === 'read') return { code: 'read-only' };
  if (!parameter.register) return { code: 'no-register' };
  return refusalOf(parameter, reading, facts);
}

/** Follows the unit's state from step to step, as the effects say, until all that is wanted holds. */
class PlanWalk {
  state: Readings;
  readonly steps: WriteStep[] = [];
  private readonly wanted: Readings;
  private readonly putBackBy = new Map<Code, Code>();
  private readonly structural: readonly Code[];
  private readonly dictionary: Dictionary;
  private readonly facts: Facts;
  private readonly asked: ReadonlyMap<Code, number>;

  constructor(dictionary: Dictionary, facts: Facts, current: Readings, asked: ReadonlyMap<Code, number>) {
    this.dictionary = dictionary;
    this.facts = facts;
    this.state = current;
    this.asked = asked;
    this.wanted = new Map([...current, ...asked]);
    this.structural = structuralCodes(dictionary);
  }

  /** Codes that cannot be brought to their value because steps put each other back. */
  run(): readonly Code[] {
    for (let pass = 0; pass < MOST_PASSES && this.open().length > 0; pass += 1) {
      for (const code of this.structural) if (this.isOpen(code)) this.write(code, 'structure');
      for (const code of this.open()) if (this.isOpen(code)) this.write(code, this.phaseOf(code));
    }
    return this.open();
  }

  private isOpen(code: Code): boolean {
    const raw = this.wanted.get(code);
    return typeof raw === 'number' && this.state.get(code) !== raw;
  }

  /** In menu order, with measured values last: what the drive measured goes in when its conditions hold. */
  private open(): Code[] {
    const late = (code: Code) => (this.phaseOf(code) === 'measured' ? 1 : 0);
    const place = (code: Code) => placeOf(this.dictionary, code);
    const codes = [...this.wanted.keys()].filter((code) => this.isOpen(code));
    return codes.sort((a, b) => late(a) - late(b) || place(a) - place(b));
  }

  private phaseOf(code: Code): WritePhase {
    if (this.structural.includes(code)) return 'structure';
    return findParameter(this.dictionary, code)?.keeping === 'measured' ? 'measured' : 'settings';
  }

  private write(code: Code, phase: WritePhase): void {
    const parameter = findParameter(this.dictionary, code);
    const to = this.wanted.get(code);
    if (!parameter || typeof to !== 'number') return;
    const by = this.putBackBy.get(code);
    const reason: WriteReason = by && !this.asked.has(code) ? { kind: 'put-back-by', by } : { kind: 'asked' };
    const from = this.state.get(code);
    const stopped = parameter.access === 'write-stopped';
    this.steps.push({ code, from, to, phase, reason, stopped, restart: parameter.restart });
    const after = applyWrite(this.dictionary, this.facts, this.state, code, to);
    for (const [other, reading] of after) {
      if (other !== code && reading !== this.state.get(other)) this.putBackBy.set(other, code);
    }
    this.state = after;
  }
}
