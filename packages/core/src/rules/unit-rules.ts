// What a write does to a unit, by the statements of its dictionary: what is refused, what changes along with it, and
// which facts and ranges hold for what a unit holds. Effects follow writes only; what they change has no further effects.

import {
  defaultOf,
  factNamed,
  findMeaning,
  findParameter,
  isTiedTo,
  limitsOf,
  refusalOf,
  type Code,
  type Dictionary,
  type Effect,
  type Facts,
  type Limits,
  type Parameter,
  type ValueRefusal,
} from '../dictionary/index.ts';
import { isRated } from './structure.ts';
import { fail, ok, type Reading, type Result, meaningOf } from '../values/index.ts';

export type Readings = ReadonlyMap<Code, Reading>;

/** Meanings of what locks a unit against all writes but to itself, where it is not 0. */
const LOCKS = ['unit.lock', 'network.writeLock'] as const;

export type WriteRefusal =
  | { readonly code: 'read-only' }
  | { readonly code: 'locked'; readonly by: Code }
  | { readonly code: 'blocked'; readonly by: Code }
  | ValueRefusal;

/** A model whose effects are looked up often; `facts` are those of the unit's rating and region. */
export class UnitRules {
  readonly dictionary: Dictionary;
  private readonly facts: Facts;
  private readonly locks: readonly Code[];
  private readonly byWhen: ReadonlyMap<Code, readonly Effect[]>;
  private readonly blockersOf: ReadonlyMap<Code, readonly Effect[]>;
  private readonly narrowersOf: ReadonlyMap<Code, readonly (Effect & { kind: 'narrows' })[]>;
  private readonly choices: readonly (Effect & { kind: 'chooses' })[];
  /** Numbers whose range depends on what the unit is or holds. */
  private readonly ranged: readonly Code[];
  /** The last answer of `factsIn`: hardly any write changes it. */
  private chosen: { readonly key: string; readonly facts: Facts };

  constructor(dictionary: Dictionary, facts: Facts) {
    this.dictionary = dictionary;
    this.facts = facts;
    this.chosen = { key: 'none yet', facts };
    const { effects, parameters } = dictionary;
    this.locks = LOCKS.flatMap((meaning) => findMeaning(dictionary, meaningOf(meaning))?.code ?? []);
    this.byWhen = grouped(effects, ({ when }) => [when]);
    const blocking = effects.filter((each) => each.kind === 'blocks');
    this.blockersOf = grouped(blocking, ({ codes }) => codes);
    const narrowing = effects.filter((each) => each.kind === 'narrows');
    this.narrowersOf = grouped(narrowing, ({ codes }) => codes);
    this.choices = effects.filter((each) => each.kind === 'chooses');
    const ranged = parameters.filter((each) => isRated(each) || this.narrowersOf.has(each.code));
    this.ranged = ranged.filter(({ form }) => form.kind === 'number').map(({ code }) => code);
  }

  isLock = (code: Code): boolean => this.locks.includes(code);

  /** Locks that are on. */
  locksOn = (readings: Readings): readonly Code[] =>
    this.locks.filter((code) => Number(readings.get(code) ?? 0) !== 0);

  effectsOf = (code: Code): readonly Effect[] => this.byWhen.get(code) ?? [];

  /** The facts of a unit that holds these readings: choices such as region and duty stand above its plate. */
  factsIn(readings: Readings): Facts {
    const key = this.choices.map(({ when }) => JSON.stringify(readings.get(when))).join();
    if (key !== this.chosen.key) this.chosen = { key, facts: this.chosenFacts(readings) };
    return this.chosen.facts;
  }

  private chosenFacts(readings: Readings): Facts {
    return this.choices.reduce<Facts>((facts, { when, options }) => {
      const chosen = options.find(({ raw }) => raw === readings.get(when));
      if (!chosen) return facts;
      const region = this.dictionary.regions.find(({ id }) => id === chosen.region)?.facts ?? {};
      const own: Record<string, string> = {};
      for (const [name, text] of Object.entries(chosen.facts)) own[name] = this.resolved(text);
      return { ...facts, ...region, ...own };
    }, this.facts);
  }

  private resolved = (text: string): string =>
    text.startsWith('@') ? (factNamed(this.facts, text.slice(1)) ?? '') : text;

  /** Minimum and maximum raw value of a parameter in a unit that holds these readings. */
  limitsIn(readings: Readings, parameter: Parameter, facts = this.factsIn(readings)): Limits {
    const limits = { ...limitsOf(parameter, facts) };
    for (const { when, bound } of this.narrowersOf.get(parameter.code) ?? []) {
      const by = readings.get(when);
      if (typeof by !== 'number') continue;
      if (bound === 'maximum') limits.maximum = Math.min(limits.maximum, by);
      else limits.minimum = Math.max(limits.minimum, by);
    }
    return limits;
  }

  /** The parameter that keeps this one from being written; nothing where none does. */
  blockerOf(readings: Readings, code: Code): Effect | undefined {
    return this.blockersOf.get(code)?.find((effect) => isTiedTo(effect, readings.get(effect.when)));
  }

  refusal(readings: Readings, parameter: Parameter, raw: number): WriteRefusal | undefined {
    if (parameter.access === 'read') return { code: 'read-only' };
    const [lock] = this.locksOn(readings);
    if (lock !== undefined && !this.isLock(parameter.code)) return { code: 'locked', by: lock };
    const blocker = this.blockerOf(readings, parameter.code);
    if (blocker) return { code: 'blocked', by: blocker.when };
    const refused = refusalOf(parameter, raw, this.factsIn(readings));
    if (refused || parameter.form.kind !== 'number') return refused;
    const { minimum, maximum } = this.limitsIn(readings, parameter);
    if (raw < minimum) return { code: 'below-minimum', raw, limit: minimum };
    if (raw > maximum) return { code: 'above-maximum', raw, limit: maximum };
    return undefined;
  }

  /** What the unit holds after one write, or why it refuses it. The same value again has no effect on others. */
  write(readings: Readings, code: Code, raw: number): Result<Readings, WriteRefusal> {
    const parameter = findParameter(this.dictionary, code);
    const refused = parameter ? this.refusal(readings, parameter, raw) : ({ code: 'read-only' } as const);
    if (refused) return fail(refused);
    if (readings.get(code) === raw) return ok(readings);
    const after = new Map(readings);
    this.take(after, code, raw);
    return ok(after);
  }

  /** Changes `readings` by a write that the unit is known to take; answers with what else has changed. */
  take(readings: Map<Code, Reading>, code: Code, raw: number): readonly Code[] {
    const effects = this.effectsOf(code).filter((effect) => isTiedTo(effect, raw));
    const before = effects.length > 0 ? new Map(readings) : readings;
    readings.set(code, raw);
    if (effects.length === 0) return [];
    const facts = this.factsIn(readings);
    for (const effect of effects) this.change(readings, effect, facts);
    for (const other of this.ranged) this.bringInto(readings, other, facts);
    return [...readings].flatMap(([other, reading]) =>
      other !== code && reading !== before.get(other) ? [other] : [],
    );
  }

  private change(after: Map<Code, Reading>, effect: Effect, facts: Facts): void {
    if (effect.kind === 'sets') for (const { code, raw } of effect.values) after.set(code, raw);
    if (effect.kind !== 'puts-back') return;
    for (const code of effect.codes) {
      const parameter = findParameter(this.dictionary, code);
      const back = parameter && defaultOf(parameter, facts);
      if (back !== undefined) after.set(code, back);
    }
  }

  /** A number follows its range where that has narrowed. */
  private bringInto(after: Map<Code, Reading>, code: Code, facts: Facts): void {
    const parameter = findParameter(this.dictionary, code);
    const raw = after.get(code);
    if (!parameter || typeof raw !== 'number') return;
    const { minimum, maximum } = this.limitsIn(after, parameter, facts);
    after.set(code, Math.max(minimum, Math.min(maximum, raw)));
  }
}

function grouped<E extends Effect>(
  effects: readonly E[],
  keys: (effect: E) => readonly Code[],
): ReadonlyMap<Code, readonly E[]> {
  const groups = new Map<Code, E[]>();
  for (const effect of effects)
    for (const key of keys(effect)) groups.set(key, [...(groups.get(key) ?? []), effect]);
  return groups;
}
