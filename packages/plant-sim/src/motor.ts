// Motor and load behind a unit: the frequency follows the ramps, the rest follows from it. Simple on purpose, but in
// the right order of size, so that what a screen shows is what a drive like this would show.

import type { Memory } from './memory.ts';
import { ratedCurrent } from './shown-value.ts';

/** Everything in the units of its name; frequency in Hz, current in A. */
export interface MotorReadings {
  readonly frequency: number;
  readonly setpoint: number;
  readonly current: number;
  readonly voltage: number;
  readonly busVoltage: number;
  readonly power: number;
  readonly torque: number;
  readonly speed: number;
  readonly unitTemperature: number;
  readonly motorLoad: number;
}

/** Peak of the rectified mains: √2 times the line voltage. */
const RECTIFIER = Math.SQRT2;
const LOAD = 0.62;
const AMBIENT = 31;

export class Motor {
  private frequency = 0;
  private at: number;
  private readonly memory: Memory;
  private readonly mains: number;

  constructor(memory: Memory, mains: number, now: number) {
    this.memory = memory;
    this.mains = mains;
    this.at = now;
  }

  /** Moves on to `now` (ms); the target is the set-point while running, else standstill. */
  advance(now: number, running: boolean): void {
    const seconds = Math.max(0, now - this.at) / 1000;
    this.at = now;
    const base = this.memory.value('motor.baseFrequency') ?? 50;
    const target = running ? this.setpoint() : 0;
    const ramp = this.memory.value(target > this.frequency ? 'ramp.up' : 'ramp.down') ?? 0;
    const step = ramp === 0 ? Infinity : (seconds * this.rampTop(base)) / ramp;
    const way = target - this.frequency;
    this.frequency = Math.abs(way) <= step ? target : this.frequency + Math.sign(way) * step;
  }

  readings(): MotorReadings {
    const base = this.memory.value('motor.baseFrequency') ?? 50;
    const rated = ratedCurrent(this.memory);
    const turning = this.frequency > 0;
    const torque = turning ? LOAD * 100 : 0;
    const share = Math.min(1, this.frequency / base);
    const voltage = (this.memory.value('motor.ratedVoltage') ?? 400) * share;
    const current = turning ? rated * Math.hypot(0.45, LOAD * 0.89) : 0;
    return {
      frequency: this.frequency,
      setpoint: this.setpoint(),
      current,
      voltage,
      busVoltage: this.mains * RECTIFIER,
      power: Math.sqrt(3) * voltage * current * 0.75,
      torque,
      speed: (120 * this.frequency) / (this.memory.value('motor.poles') ?? 4),
      unitTemperature: AMBIENT + (turning ? 17 : 3),
      motorLoad: turning ? LOAD * LOAD * 100 : 0,
    };
  }

  get standing(): boolean {
    return this.frequency === 0;
  }

  /** The frequency that the model's ramp times count to. */
  private rampTop(base: number): number {
    const maximum = this.memory.dictionary.conventions.ramp_counts_to === 'maximum-frequency';
    return maximum ? (this.memory.value('frequency.maximum') ?? base) : base;
  }

  private setpoint(): number {
    const maximum = this.hertz('frequency.maximum') ?? 50;
    const minimum = this.hertz('frequency.minimum') ?? 0;
    const preset = this.hertz('preset.1') ?? this.hertz('preset.contact.1') ?? 0;
    return Math.min(maximum, Math.max(minimum, preset));
  }

  /** A speed in Hz, whether the model keeps it in Hz, in percent of base frequency or in rpm. */
  private hertz(meaning: string): number | undefined {
    const base = this.memory.value('motor.baseFrequency') ?? 50;
    const value = this.memory.value(meaning);
    if (value === undefined) return undefined;
    switch (this.memory.unitOf(meaning)) {
      case '%':
        return (value * base) / 100;
      case 'rpm':
        // The slip is small beside what matters here.
        return (value / (this.memory.value('motor.ratedSpeed') ?? 1500)) * base;
      default:
        return value;
    }
  }
}
