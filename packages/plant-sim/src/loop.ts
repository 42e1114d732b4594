// The control loop of a unit: proportional and integral part in the form of its model, with limits, and sleep.

import type { Settings } from './settings.ts';

export class Loop {
  asleep = false;
  private integral = 0;
  private seconds = 0;
  private readonly settings: Settings;

  constructor(settings: Settings) {
    this.settings = settings;
  }

  /** Wanted less measured, in percent of the transmitter's range; `actual` is the share of its signal. */
  error(actual: number, second: boolean): number {
    return this.wanted(second) - actual * 100;
  }

  /** What the transmitter shows, in the unit of the loop where it has one, else in percent of its range. */
  shown(actual: number): number {
    const [low, high] = this.scale;
    return this.settings.has('loop.scaleLow') ? low + (high - low) * actual : actual * 100;
  }

  /** The set-point in Hz after so many seconds; nothing while it sleeps. */
  step(seconds: number, actual: number, second: boolean): number | undefined {
    const { settings } = this;
    const sense = settings.choice('loop.mode') === 'lowers' ? -1 : 1;
    const plain = this.error(actual, second) * sense;
    const error = Math.abs(plain) < (settings.number('loop.deadBand') ?? 0) ? 0 : plain;
    const [least, most] = this.range;
    const proportional = this.gain * error;
    const next = this.integral + this.integralRate * error * seconds;
    const output = proportional + next;
    // At a limit the integral part goes on only where it leads away from it.
    if ((output < most || error < 0) && (output > least || error > 0)) this.integral = next;
    const hertz = (Math.min(most, Math.max(least, proportional + this.integral)) / 100) * this.top;
    this.sleep(seconds, hertz, plain);
    return this.asleep ? undefined : hertz;
  }

  rest(): void {
    this.asleep = false;
    this.seconds = 0;
    if (this.settings.choice('loop.keep') !== 'as-before')
      this.integral = this.settings.number('loop.preset') ?? 0;
  }

  private sleep(seconds: number, hertz: number, error: number): void {
    const { settings } = this;
    const below = settings.hertz('loop.sleep') ?? 0;
    if (below === 0) return;
    const counts = this.asleep ? error > (settings.number('loop.wake') ?? 0) : hertz < below;
    this.seconds = counts ? this.seconds + seconds : 0;
    const delay = this.asleep ? settings.number('loop.wakeDelay') : settings.number('loop.sleepDelay');
    if (this.seconds <= (delay ?? 0)) return;
    this.asleep = !this.asleep;
    this.seconds = 0;
  }

  /** In percent of the transmitter's range. */
  private wanted(second: boolean): number {
    const of = (meaning: string) => this.settings.number(meaning);
    const unit = (second ? of('loop.setpointUnit2') : undefined) ?? of('loop.setpointUnit');
    if (unit === undefined) return (second ? of('loop.setpoint2') : undefined) ?? of('loop.setpoint') ?? 50;
    const [low, high] = this.scale;
    return low === high ? 0 : ((unit - low) / (high - low)) * 100;
  }

  private get scale(): readonly [number, number] {
    return [this.settings.number('loop.scaleLow') ?? 0, this.settings.number('loop.scaleHigh') ?? 100];
  }

  /** Percent of output for one percent of error. */
  private get gain(): number {
    const band = this.settings.number('loop.bandWidth');
    return band === undefined ? (this.settings.number('loop.gain') ?? 1) : 100 / band;
  }

  /** Percent of output a second for one percent of error. */
  private get integralRate(): number {
    const own = this.settings.number('loop.integralGain');
    if (own !== undefined) return own;
    const time = this.settings.number('loop.integralTime') ?? 0;
    return time === 0 ? 0 : this.gain / time;
  }

  private get range(): readonly [number, number] {
    const of = (meaning: string) => this.settings.number(meaning);
    return [of('loop.outputMinimum') ?? 0, of('loop.outputMaximum') ?? 100];
  }

  /** What a whole output asks for, in Hz: one maker counts to the maximum, another to base frequency. */
  private get top(): number {
    return this.settings.countsTo('loop.outputMaximum') === 'motor.baseFrequency' ||
      !Number.isFinite(this.settings.maximum)
      ? this.settings.base
      : this.settings.maximum;
  }
}
