// What a unit's firmware makes of its parameters: choices, switches in packed words, and speeds in hertz, counted as the
// maker counts. Code of its own: it shares none with what the product computes.

import type { ConventionName, Parameter } from '@drive-keep/core/dictionary';
import type { Memory } from './memory.ts';
import { ratedCurrent } from './shown-value.ts';

/** Pole pairs are found from the plate with this much room for slip. */
const SLIP_ROOM = 0.03;

interface Saying {
  readonly code: string;
  readonly holds: (raw: number) => boolean;
  readonly is: string;
  readonly otherwise: string | undefined;
}

export class Settings {
  private readonly memory: Memory;

  private readonly sayings: ReadonlyMap<string, readonly Saying[]>;

  constructor(memory: Memory) {
    this.memory = memory;
    this.sayings = Settings.sayingsOf(memory.dictionary.parameters);
  }

  /** The option of its own parameter, what bits and options elsewhere say of it, or what the model always does. */
  choice(meaning: string): string | undefined {
    const own = this.parameter(meaning);
    if (own?.form.kind === 'option') {
      const raw = this.memory.get(own.code);
      const option = own.form.options.find((each) => each.raw === raw);
      if (!option?.instead) return option?.meaning;
      const { when, meaning: instead } = option.instead;
      return this.choice(when.meaning) === when.is ? instead : option.meaning;
    }
    return this.said(meaning) ?? this.always(meaning);
  }

  private said(meaning: string): string | undefined {
    let otherwise: string | undefined;
    for (const { code, holds, is, otherwise: other } of this.sayings.get(meaning) ?? []) {
      if (holds(this.memory.get(code))) return is;
      otherwise = other ?? otherwise;
    }
    return otherwise;
  }

  /** What bits and options of other parameters say, by what they say it of. */
  private static sayingsOf(parameters: readonly Parameter[]): ReadonlyMap<string, readonly Saying[]> {
    const found = new Map<string, Saying[]>();
    const add = (meaning: string, saying: Saying) =>
      found.set(meaning, [...(found.get(meaning) ?? []), saying]);
    for (const { code, form } of parameters) {
      if (form.kind === 'bits')
        for (const { bit, says = [] } of form.bits)
          for (const { meaning, is, else: otherwise } of says)
            add(meaning, { code, is, otherwise, holds: (raw) => (raw >>> bit) % 2 === 1 });
      if (form.kind === 'option')
        for (const { raw: own, says = [] } of form.options)
          for (const { meaning, is } of says)
            add(meaning, { code, is, otherwise: undefined, holds: (raw) => raw === own });
    }
    return found;
  }

  private always(meaning: string): string | undefined {
    const fixed = this.memory.dictionary.fixed.find((each) => each.meaning === meaning);
    return fixed?.kind === 'choice' ? fixed.is : undefined;
  }

  /** In its own unit; nothing where the model has no such parameter. */
  number(meaning: string): number | undefined {
    return this.memory.value(meaning);
  }

  /** What a percentage of this parameter is a percentage of. */
  countsTo(meaning: string): string | null {
    return this.parameter(meaning)?.of ?? null;
  }

  /** How the maker counts something. */
  convention(name: ConventionName): string | undefined {
    return this.memory.dictionary.conventions[name];
  }

  /** A current in A, whatever the model counts it in; nothing where it has no such parameter. */
  amperes(meaning: string): number | undefined {
    const value = this.memory.value(meaning);
    const unit = this.memory.unitOf(meaning);
    if (value === undefined || unit === 'A') return value;
    if (unit === 'mA') return value / 1000;
    const of = this.parameter(meaning)?.of;
    const whole = of === 'unit.current' ? this.unitCurrent : ratedCurrent(this.memory);
    return (value / (unit === '‰' ? 1000 : 100)) * whole;
  }

  /** What the plate of the unit says for its duty, in A. */
  get unitCurrent(): number {
    const duty = (this.choice('unit.duty') ?? '').startsWith('normal') ? 'normal' : 'heavy';
    const fact = this.memory.fact(duty) ?? this.memory.fact('rated_current');
    return fact ?? ratedCurrent(this.memory);
  }

  has(meaning: string): boolean {
    return this.parameter(meaning) !== undefined;
  }

  /** A word that names its value, such as 0.0 for off. */
  isNamed(meaning: string): boolean {
    const parameter = this.parameter(meaning);
    return parameter?.named.some(({ raw }) => raw === this.memory.get(parameter.code)) ?? false;
  }

  /** Base frequency in Hz. */
  get base(): number {
    return this.memory.value('motor.baseFrequency') ?? this.fromPoles ?? 50;
  }

  private get fromPoles(): number | undefined {
    const [pairs, speed] = [this.memory.value('motor.polePairs'), this.memory.value('motor.ratedSpeed')];
    return pairs === undefined || speed === undefined ? undefined : (pairs * speed) / 60;
  }

  /** What the shaft falls behind at rated torque, in Hz; a plate that says otherwise than can be counts as 3 %. */
  get ratedSlip(): number {
    const speed = this.memory.value('motor.ratedSpeed');
    const slip = speed === undefined ? NaN : this.base - (speed * this.polePairs) / 60;
    return slip >= 0 && slip < this.base / 5 ? slip : this.base * SLIP_ROOM;
  }

  /** What is left of it after slip compensation. */
  get slip(): number {
    const made = this.memory.value('motor.slipCompensation') ?? 0;
    const left =
      this.memory.unitOf('motor.slipCompensation') === 'Hz'
        ? this.ratedSlip - made
        : this.ratedSlip * (1 - made / 100);
    return Math.max(0, left);
  }

  /** Of the motor, in A. */
  get ratedCurrent(): number {
    return ratedCurrent(this.memory);
  }

  get polePairs(): number {
    const pairs = this.memory.value('motor.polePairs');
    if (pairs !== undefined) return pairs;
    const poles = this.memory.value('motor.poles');
    if (poles !== undefined) return poles / 2;
    const [base, speed] = [
      this.memory.value('motor.baseFrequency') ?? 50,
      this.memory.value('motor.ratedSpeed') ?? 1500,
    ];
    return Math.max(1, Math.floor((60 * base) / speed + SLIP_ROOM));
  }

  /** A speed in Hz, in whatever the model counts it. */
  hertz(meaning: string): number | undefined {
    const value = this.memory.value(meaning);
    return value === undefined ? undefined : this.inHertz(value, this.memory.unitOf(meaning) ?? '');
  }

  private inHertz(value: number, unit: string): number {
    if (unit === 'rpm') return (value * this.polePairs) / 60;
    if (unit === '%') return (value / 100) * (this.memory.value('motor.baseFrequency') ?? 50);
    return value;
  }

  get maximum(): number {
    return this.hertz('frequency.maximum') ?? Infinity;
  }

  /** What an analog input asks for at a share of its signal, which may lie beyond its ends. */
  analog(number: string, share: number): number | undefined {
    const of = (part: string) => this.memory.value(`analog.${number}.${part}`);
    const [gain, bias] = [of('gain'), of('bias')];
    if (gain !== undefined && bias !== undefined)
      return this.maximum * Math.min(1, Math.max(0, (gain * share + bias) / 100));
    const [low, high] = [of('low'), of('high')];
    if (low !== undefined && high !== undefined)
      return this.percent(`analog.${number}.low`, low + (high - low) * share);
    const [at, from] = [of('pointLow.signal'), of('pointLow.speed')];
    const [end, to] = [of('pointHigh.signal'), of('pointHigh.speed')];
    if (at !== undefined && from !== undefined && end !== undefined && to !== undefined) {
      if (at === end) return undefined;
      const within = Math.min(1, Math.max(0, (share * 100 - at) / (end - at)));
      return this.inHertz(from + (to - from) * within, 'rpm');
    }
    const full = of('full');
    if (full === undefined) return undefined;
    const volts = share * 20 - 10 - (of('offset') ?? 0) / 1000;
    return this.inHertz((full * volts) / 10, 'rpm');
  }

  /** A percentage by what its parameter counts to. */
  private percent(meaning: string, percent: number): number {
    const of = this.parameter(meaning)?.of;
    const whole =
      of === 'frequency.maximum' ? this.maximum : (this.memory.value('motor.baseFrequency') ?? 50);
    return (percent / 100) * whole;
  }

  trim(share: number): number {
    const weight = this.memory.value('trim.weight') ?? 0;
    return share * this.percent('trim.weight', weight);
  }

  /** Bands that are passed and not held, lower edge first. */
  get skips(): readonly (readonly [number, number])[] {
    return ['1', '2', '3'].flatMap((band) => {
      const [from, to] = [this.hertz(`skip.${band}.from`), this.hertz(`skip.${band}.to`)];
      if (from !== undefined && to !== undefined) return from < to ? [[from, to] as const] : [];
      const middle = this.hertz(`skip.${band}.middle`);
      const width = this.hertz('skip.width');
      if (middle === undefined || width === undefined || width === 0 || this.isNamed(`skip.${band}.middle`))
        return [];
      return [[middle - width / 2, middle + width / 2] as const];
    });
  }

  private parameter(meaning: string): Parameter | undefined {
    return this.memory.byMeaning.get(meaning);
  }
}
