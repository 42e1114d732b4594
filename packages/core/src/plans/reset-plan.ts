// What a reset to defaults does to a unit and what goes back afterwards, by the model's own procedure. Pure: the plan is
// shown before anything is done, and the unit is held against `afterReset` and `predicted` when it is.

import {
  defaultOf,
  factNamed,
  factsOf,
  findMeaning,
  findParameter,
  isNoise,
  type Code,
  type Dictionary,
  type Facts,
  type Parameter,
  type Procedure,
  type ResetScope,
} from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { parseRaw, sameReading, type Reading, meaningOf } from '../values/index.ts';
import { UnitRules, type Readings } from '../rules/index.ts';
import { planWrites, type WritePlan } from './write-plan.ts';

export interface ResetChoice {
  /** Region whose defaults are wanted. */
  readonly region: string;
  /** Raw value of the parameter that chooses what is covered; nothing where the model has no such choice. */
  readonly scope: number | null;
}

/** One write of the procedure. */
export interface ResetStep {
  readonly code: Code;
  readonly from: Reading | undefined;
  readonly to: number;
  readonly text: string;
  /** How long the unit is busy afterwards, in ms; 0 for a plain write. After the trigger it holds its defaults. */
  readonly busyMs: number;
}

export interface ResetLoss {
  readonly code: Code;
  readonly from: Reading;
  readonly to: Reading | undefined;
}

export interface ResetPlan {
  readonly procedure: Procedure;
  readonly scopes: readonly ResetScope[];
  /** Writes over the line; none where the model is reset at its keypad alone. */
  readonly steps: readonly ResetStep[];
  readonly afterReset: ParameterSet;
  /** What the unit holds now and does not hold after the reset. */
  readonly losses: readonly ResetLoss[];
  /** What the reset leaves as it is. */
  readonly keeps: readonly Code[];
  /** What goes back afterwards. */
  readonly back: WritePlan;
}

/** Facts by which a procedure names what has been chosen. */
const SCOPE_FACT = 'reset_scope';

/** Nothing where the model states no reset, or does not have that rating or region. */
export function planReset(
  dictionary: Dictionary,
  rating: string,
  current: ParameterSet,
  choice: ResetChoice,
  putBack: ReadonlyMap<Code, Reading | undefined>,
): ResetPlan | undefined {
  const procedure = dictionary.procedures.find(({ purpose }) => purpose === 'reset');
  const facts = factsOf(dictionary, { rating, region: choice.region });
  if (!procedure || !facts) return undefined;
  const steps = stepsOf(dictionary, procedure, current, {
    ...facts,
    [SCOPE_FACT]: String(choice.scope ?? 0),
  });
  const set = new Map(current.readings);
  for (const step of steps) if (step.busyMs === 0) set.set(step.code, step.to);
  const covered = coverOf(procedure, choice.scope);
  const resets = (parameter: Parameter): boolean =>
    !isNoise(parameter) && parameter.access !== 'read' && covered(parameter);
  const readings = toDefaults(dictionary, facts, set, resets);
  const afterReset = { dictionary: current.dictionary, readings };
  return {
    procedure,
    scopes: procedure.scopes,
    steps,
    afterReset,
    losses: [...current.readings]
      .filter(([code, from]) => !sameReading(from, readings.get(code)))
      .map(([code, from]) => ({ code, from, to: readings.get(code) })),
    keeps: dictionary.parameters
      .filter((each) => !isNoise(each) && !resets(each) && steps.every(({ code }) => code !== each.code))
      .map(({ code }) => code),
    back: planWrites(dictionary, facts, afterReset, putBack),
  };
}

function stepsOf(
  dictionary: Dictionary,
  { steps }: Procedure,
  current: ParameterSet,
  facts: Facts,
): ResetStep[] {
  const holds = new Map(current.readings);
  const unlocks = new UnitRules(dictionary, facts).locksOn(current.readings).map((code) => {
    holds.set(code, 0);
    return { code, from: current.readings.get(code), to: 0, text: 'Take the lock off', busyMs: 0 };
  });
  const writes = steps.flatMap(({ text, set, busyMs }) => {
    const parameter = set && findParameter(dictionary, set.code);
    if (!set || !parameter) return [];
    const wanted = set.to.startsWith('@') ? (factNamed(facts, set.to.slice(1)) ?? '') : set.to;
    const raw = parameter.form.kind === 'option' ? Number(wanted) : rawOf(parameter, wanted);
    const from = holds.get(set.code);
    holds.set(set.code, raw);
    return [{ code: set.code, from, to: raw, text, busyMs }];
  });
  return writes.length === 0 ? [] : [...unlocks, ...writes];
}

function rawOf(parameter: Parameter, text: string): number {
  const raw = parseRaw(parameter.form, text);
  if (!raw.ok) throw new Error(`${parameter.code} cannot be ${text}`);
  return raw.value;
}

function coverOf({ keeps, scopes }: Procedure, chosen: number | null): (parameter: Parameter) => boolean {
  const scope = scopes.find(({ raw }) => raw === chosen);
  return ({ code, menu }) => {
    if (keeps.includes(code)) return false;
    const first = menu[0] ?? '';
    if (scope && scope.only.length > 0) return scope.only.includes(first);
    return !scope?.leaves.includes(first);
  };
}

/** Choices such as the duty go first: they decide what the other defaults are. */
function toDefaults(
  dictionary: Dictionary,
  plate: Facts,
  before: Readings,
  resets: (parameter: Parameter) => boolean,
): Readings {
  const rules = new UnitRules(dictionary, plate);
  const choices = new Set(
    dictionary.effects.filter(({ kind }) => kind === 'chooses').map(({ when }) => when),
  );
  const after = new Map(before);
  const put = (parameters: readonly Parameter[], facts: Facts) => {
    for (const parameter of parameters.filter(resets)) {
      const raw = defaultOf(parameter, facts);
      if (raw !== undefined) after.set(parameter.code, raw);
      // It will hold something, and nobody tells what.
      else if (parameter.untold.includes('default')) after.delete(parameter.code);
    }
  };
  put(
    dictionary.parameters.filter(({ code }) => choices.has(code)),
    plate,
  );
  put(
    dictionary.parameters.filter(({ code }) => !choices.has(code)),
    rules.factsIn(after),
  );
  return after;
}

export interface OtherRegion {
  readonly region: string;
  readonly name: string;
  /** Parameters that hold the defaults of that region and not those of the unit's own. */
  readonly codes: readonly Code[];
}

/** Fewer than this may be chance or choice. */
const FEWEST = 3;

/** A region other than the unit's own whose defaults the set holds: it was reset there. Nothing where there is none. */
export function otherRegionIn(
  dictionary: Dictionary,
  own: { readonly rating: string; readonly region: string },
  set: ParameterSet,
): OtherRegion | undefined {
  const here = factsOf(dictionary, own) ?? {};
  const holds = (parameter: Parameter, facts: Facts) =>
    defaultOf(parameter, facts) === set.readings.get(parameter.code);
  const chooser = findMeaning(dictionary, meaningOf('unit.region'))?.code;
  for (const { id, name } of dictionary.regions.filter((each) => each.id !== own.region)) {
    const there = factsOf(dictionary, { rating: own.rating, region: id }) ?? {};
    const telling = dictionary.parameters.filter(
      (each) =>
        each.code !== chooser &&
        defaultOf(each, here) !== undefined &&
        defaultOf(each, here) !== defaultOf(each, there),
    );
    const codes = telling.filter((each) => holds(each, there)).map(({ code }) => code);
    if (codes.length >= FEWEST && codes.length * 2 > telling.length) return { region: id, name, codes };
  }
  return undefined;
}
