// The memory of a unit: working values, which a power cycle loses, and permanent ones. Ranges, access rules and side
// effects are enforced here from the model's manual (the dictionary), with this firmware's own code.

import { EXCEPTION } from './frame.ts';
import type { Dictionary, Facts, Parameter } from '@drive-keep/core/dictionary';
import { defaultOf, factsOf, limitsOf } from '@drive-keep/core/dictionary';

export class Memory {
  readonly dictionary: Dictionary;
  private readonly facts: Facts;
  private working = new Map<string, number>();
  private permanent = new Map<string, number>();

  constructor(
    dictionary: Dictionary,
    rating: string,
    region: string,
    values: Readonly<Record<string, number>>,
  ) {
    this.dictionary = dictionary;
    const facts = factsOf(dictionary, { rating, region });
    if (!facts) throw new Error(`${dictionary.id} has no rating ${rating} in region ${region}`);
    this.facts = facts;
    for (const parameter of dictionary.parameters) {
      const raw = this.defaultFor(parameter);
      if (raw !== undefined) this.permanent.set(parameter.code, raw);
    }
    for (const [code, raw] of Object.entries(values)) this.permanent.set(code, raw);
    this.recall();
  }

  get(code: string): number {
    return this.working.get(code) ?? 0;
  }

  /** Value in engineering units of the parameter with this meaning; nothing if the model has none. */
  value(meaning: string): number | undefined {
    const parameter = this.dictionary.parameters.find((each) => each.meaning === meaning);
    if (!parameter) return undefined;
    const raw = this.get(parameter.code);
    const { form } = parameter;
    return form.kind === 'number' ? (raw * form.resolution.step) / 10 ** form.resolution.places : raw;
  }

  /** Meaning of the chosen option of the parameter with this meaning. */
  option(meaning: string): string | undefined {
    const parameter = this.dictionary.parameters.find((each) => each.meaning === meaning);
    if (parameter?.form.kind !== 'option') return undefined;
    const raw = this.get(parameter.code);
    return parameter.form.options.find((option) => option.raw === raw)?.meaning;
  }

  /** A write over the line. Answers with the exception that the manual gives, or nothing when it was taken. */
  write(parameter: Parameter, raw: number, running: boolean): number | undefined {
    const refusals = this.dictionary.line?.refusals;
    if (parameter.access === 'read') return refusals?.readOnly ?? EXCEPTION.address;
    if (this.locked() && parameter.meaning !== 'unit.lock' && parameter.meaning !== 'network.writeLock') {
      return refusals?.locked ?? EXCEPTION.failure;
    }
    if (parameter.access === 'write-stopped' && running) return refusals?.running ?? EXCEPTION.failure;
    if (!this.accepts(parameter, raw)) return EXCEPTION.value;
    const changed = this.working.get(parameter.code) !== raw;
    this.working.set(parameter.code, raw);
    if (changed) this.sideEffects(parameter);
    return undefined;
  }

  /** Sets a value behind everybody's back: no rules, both memories. */
  force(code: string, raw: number): void {
    this.working.set(code, raw);
    this.permanent.set(code, raw);
  }

  /** Only the working memory, as an unsaved change at the keypad leaves it. */
  forceWorking(code: string, raw: number): void {
    this.working.set(code, raw);
  }

  save(): void {
    this.permanent = new Map(this.working);
  }

  /** What a power cycle does. */
  recall(): void {
    this.working = new Map(this.permanent);
  }

  snapshot(): Record<string, number> {
    return Object.fromEntries(this.permanent);
  }

  private locked(): boolean {
    return (this.value('unit.lock') ?? 0) !== 0 || (this.value('network.writeLock') ?? 0) === 1;
  }

  private accepts(parameter: Parameter, raw: number): boolean {
    const { form } = parameter;
    if (form.kind === 'option') return form.options.some((option) => option.raw === raw);
    if (form.kind === 'bits')
      return raw >= 0 && form.bits.reduce((left, { bit }) => left & ~(1 << bit), raw) === 0;
    const { least, greatest } = limitsOf(parameter, this.facts);
    return raw >= least && raw <= greatest;
  }

  private sideEffects(changed: Parameter): void {
    for (const effect of this.dictionary.effects) {
      if (effect.when !== changed.code) continue;
      for (const parameter of this.dictionary.parameters) {
        const back = effect.toDefault.includes(parameter.code) ? this.defaultFor(parameter) : undefined;
        if (back !== undefined) this.working.set(parameter.code, back);
      }
    }
  }

  private defaultFor(parameter: Parameter): number | undefined {
    return defaultOf(parameter, this.facts);
  }
}
