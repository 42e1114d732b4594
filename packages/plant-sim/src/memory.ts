// The memory of a unit: working values, which a power cycle loses, and permanent ones; by some manuals every write goes
// into both at once. Ranges, access rules and side effects are enforced here from the model's manual (the dictionary),
// with this firmware's own code.

import { EXCEPTION } from './frame.ts';
import type { Dictionary, Facts, Parameter } from '@drive-keep/core/dictionary';
import { defaultOf, factsOf, limitsOf } from '@drive-keep/core/dictionary';

export class Memory {
  readonly dictionary: Dictionary;
  /** Facts of the rating and region on the plate. */
  private readonly plate: Facts;
  /** By what they are, for those that have a meaning. */
  readonly byMeaning: ReadonlyMap<string, Parameter>;
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
    this.plate = facts;
    this.byMeaning = new Map(
      dictionary.parameters.flatMap((each) => (each.meaning === null ? [] : [[each.meaning, each] as const])),
    );
    for (const parameter of dictionary.parameters) {
      const raw = defaultOf(parameter, facts);
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
    const parameter = this.byMeaning.get(meaning);
    if (!parameter) return undefined;
    const raw = this.get(parameter.code);
    const { form } = parameter;
    return form.kind === 'number' ? (raw * form.resolution.step) / 10 ** form.resolution.places : raw;
  }

  /** What this unit holds of it as it was delivered. */
  delivered(parameter: Parameter): number {
    return defaultOf(parameter, this.facts()) ?? 0;
  }

  /** A number on the plate of the unit; nothing where the plate has none of that name. */
  fact(name: string): number | undefined {
    const text = this.plate[name];
    return text === undefined ? undefined : Number(text);
  }

  /** Unit in which the parameter with this meaning counts. */
  unitOf(meaning: string): string | undefined {
    const form = this.byMeaning.get(meaning)?.form;
    return form?.kind === 'number' ? form.unit : undefined;
  }

  /** Meaning of the chosen option of the parameter with this meaning. */
  option(meaning: string): string | undefined {
    const parameter = this.byMeaning.get(meaning);
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
    if (this.occupied(parameter.code)) return refusals?.locked ?? EXCEPTION.failure;
    if (!this.accepts(parameter, raw)) return EXCEPTION.value;
    const changed = this.working.get(parameter.code) !== raw;
    this.working.set(parameter.code, raw);
    if (changed) this.sideEffects(parameter);
    if (this.keepsAtOnce) this.save();
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

  get keepsAtOnce(): boolean {
    return this.dictionary.line?.save === null;
  }

  save(): void {
    this.permanent = new Map(this.working);
  }

  /** What a power cycle does. */
  recall(): void {
    this.working = new Map(this.permanent);
  }

  /** What a power cycle would take. */
  unsaved(): Record<string, number> {
    return Object.fromEntries([...this.working].filter(([code, raw]) => this.permanent.get(code) !== raw));
  }

  snapshot(): Record<string, number> {
    return Object.fromEntries(this.permanent);
  }

  /**
   * What a write to the reset trigger does, by the procedure in the manual: everything that it covers goes back to the
   * defaults of the region that is set. Answers with how long the unit is busy; nothing where the value is no trigger.
   */
  resetBy(trigger: Parameter, raw: number): number | undefined {
    const procedure = this.dictionary.procedures.find(({ purpose }) => purpose === 'reset');
    const step = procedure?.steps.find(({ set, busyMs }) => busyMs > 0 && set?.code === trigger.code);
    this.working.set(trigger.code, 0);
    if (!procedure || Number(step?.set?.to) !== raw) return undefined;
    const scope = procedure.scopes.find(({ raw: own }) => own === this.valueOf('unit.resetScope'));
    const number = String(this.valueOf('unit.region') ?? '');
    const region = this.dictionary.regions.find(({ facts }) => facts['region_number'] === number);
    for (const parameter of this.dictionary.parameters) {
      const menu = parameter.menu[0] ?? '';
      if (parameter.access === 'read' || procedure.keeps.includes(parameter.code)) continue;
      if (scope && (scope.leaves.includes(menu) || (scope.only.length > 0 && !scope.only.includes(menu))))
        continue;
      const back = defaultOf(parameter, { ...this.facts(), ...region?.facts });
      if (back !== undefined) this.working.set(parameter.code, back);
    }
    if (this.keepsAtOnce) this.save();
    return step?.busyMs;
  }

  private valueOf(meaning: string): number | undefined {
    const parameter = this.byMeaning.get(meaning);
    return parameter && this.working.get(parameter.code);
  }

  private locked(): boolean {
    return (this.value('unit.lock') ?? 0) !== 0 || (this.value('network.writeLock') ?? 0) === 1;
  }

  /** Another function of the unit holds this parameter for itself. */
  private occupied(code: string): boolean {
    return this.dictionary.effects.some(
      (effect) =>
        effect.kind === 'blocks' &&
        (effect.codes as readonly string[]).includes(code) &&
        (effect.is ?? []).includes(this.get(effect.when)),
    );
  }

  private accepts(parameter: Parameter, raw: number): boolean {
    const { form } = parameter;
    if (form.kind === 'option') return form.options.some((option) => option.raw === raw);
    if (form.kind === 'bits')
      return raw >= 0 && form.bits.reduce((left, { bit }) => left & ~(1 << bit), raw) === 0;
    return this.clamped(parameter, raw) === raw;
  }

  /** Into the range that holds at this moment: the manual's, for the region and duty chosen, within other settings. */
  private clamped(parameter: Parameter, raw: number): number {
    const { minimum, maximum } = limitsOf(parameter, this.facts());
    let value = Math.min(Math.max(raw, minimum), maximum);
    for (const effect of this.dictionary.effects) {
      if (effect.kind !== 'narrows' || !effect.codes.includes(parameter.code)) continue;
      const by = this.get(effect.when);
      value = effect.bound === 'maximum' ? Math.min(value, by) : Math.max(value, by);
    }
    return value;
  }

  /** What the plate says, but for what has been chosen by a parameter. */
  private facts(): Facts {
    const facts: Record<string, string> = { ...this.plate };
    for (const effect of this.dictionary.effects) {
      if (effect.kind !== 'chooses') continue;
      for (const { raw, region, facts: own } of effect.options) {
        if (raw !== this.get(effect.when)) continue;
        Object.assign(facts, this.dictionary.regions.find(({ id }) => id === region)?.facts);
        for (const [name, text] of Object.entries(own))
          facts[name] = text.startsWith('@') ? (this.plate[text.slice(1)] ?? '') : text;
      }
    }
    return facts;
  }

  /** What the manual says of this change; then every number is within the range that holds now. */
  private sideEffects(changed: Parameter): void {
    const raw = this.get(changed.code);
    const effects = this.dictionary.effects.filter(
      ({ when, is }) => when === changed.code && (!is || is.includes(raw)),
    );
    for (const effect of effects) {
      if (effect.kind === 'sets') for (const fixed of effect.values) this.working.set(fixed.code, fixed.raw);
      if (effect.kind === 'puts-back') this.putBack(effect.codes);
    }
    if (effects.length === 0) return;
    for (const parameter of this.dictionary.parameters) {
      const held = this.working.get(parameter.code);
      if (parameter.form.kind !== 'number' || parameter.default === null || held === undefined) continue;
      this.working.set(parameter.code, this.clamped(parameter, held));
    }
  }

  private putBack(codes: readonly string[]): void {
    for (const parameter of this.dictionary.parameters) {
      const back = codes.includes(parameter.code) ? defaultOf(parameter, this.facts()) : undefined;
      if (back !== undefined) this.working.set(parameter.code, back);
    }
  }
}
