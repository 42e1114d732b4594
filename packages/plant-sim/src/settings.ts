// What a unit's firmware makes of its parameters: choices, switches in packed words, and speeds in hertz, counted as the
// maker counts. Code of its own: it shares none with what the product computes.

import type { Parameter } from '@drive-keep/core/dictionary';
import type { Memory } from './memory.ts';

/** Pole pairs are found from the plate with this much room for slip. */
const SLIP_ROOM = 0.03;

export class Settings {
  private readonly memory: Memory;

  constructor(memory: Memory) {
    this.memory = memory;
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
    for (const { code, form } of this.memory.dictionary.parameters) {
      const raw = this.memory.get(code);
      if (form.kind === 'bits')
        for (const { bit, says = [] } of form.bits)
          for (const each of says) {
            if (each.meaning !== meaning) continue;
            if ((raw >>> bit) % 2 === 1) return each.is;
            otherwise = each.else ?? otherwise;
          }
      if (form.kind === 'option')
        for (const { raw: own, says = [] } of form.options)
          for (const each of says) if (each.meaning === meaning && own === raw) return each.is;
    }
    return otherwise;
  }

  private always(meaning: string): string | undefined {
    const fixed = this.memory.dictionary.fixed.find((each) => each.meaning === meaning);
    return fixed?.kind === 'choice' ? fixed.is : undefined;
  }

  /** In its own unit; nothing where the model has no such parameter. */
  number(meaning: string): number | undefined {
    return this.memory.value(meaning);
  }

  has(meaning: string): boolean {
    return this.parameter(meaning) !== undefined;
  }

  /** A word that names its value, such as 0.0 for off. */
  isNamed(meaning: string): boolean {
    const parameter = this.parameter(meaning);
    return parameter?.named.some(({ raw }) => raw === this.memory.get(parameter.code)) ?? false;
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
    return this.memory.dictionary.parameters.find((each) => each.meaning === meaning);
  }
}
