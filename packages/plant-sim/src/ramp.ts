// The ramp of a unit: how fast its frequency may change now, by the ramps that are chosen and the shape of their corners.

import type { Settings } from './settings.ts';

export type RampChoice = 'first' | 'second' | 'jog' | 'quick';

/** A rounded ramp by fifths rounds so much of its time at each end. */
const FIFTH = 0.2;

export class Ramp {
  /** Hz per second, signed. */
  private rate = 0;
  private readonly settings: Settings;

  constructor(settings: Settings) {
    this.settings = settings;
  }

  /** The frequency after so many seconds on the way to the target. Both are signed; reversing goes through standstill. */
  step(frequency: number, target: number, seconds: number, choice: RampChoice): number {
    const through = frequency * target < 0 ? 0 : target;
    const rises = Math.abs(through) > Math.abs(frequency);
    const way = through - frequency;
    if (way === 0) {
      this.rate = 0;
      return frequency;
    }
    const time = this.time(rises, choice, Math.abs(frequency));
    if (time <= 0) return through;
    const most = this.top / time;
    const rounding = this.rounding(rises, time);
    const wanted =
      rounding === 0
        ? most
        : Math.min(most, Math.abs(this.rate) + (most / rounding) * seconds, this.ending(way, most, rounding));
    const step = Math.min(Math.abs(way), wanted * seconds);
    this.rate = Math.sign(way) * wanted;
    return Math.abs(way) <= step ? through : frequency + Math.sign(way) * step;
  }

  /** What a limit has let through is where the corner goes on from. */
  held(): void {
    this.rate = 0;
  }

  /** Hz per second from which the rate still fades to nothing on the rest of the way. */
  private ending(way: number, most: number, rounding: number): number {
    if (this.settings.choice('ramp.shape') === 'rounded-start') return most;
    return Math.max(Math.sqrt((2 * Math.abs(way) * most) / rounding), most / 50);
  }

  private rounding(rises: boolean, time: number): number {
    const shape = this.settings.choice('ramp.shape') ?? 'straight';
    if (shape === 'straight') return 0;
    if (shape === 'rounded-by-fifths') return FIFTH * time;
    return this.settings.number(rises ? 'ramp.roundUp' : 'ramp.roundDown') ?? 0;
  }

  private time(rises: boolean, choice: RampChoice, frequency: number): number {
    const { settings } = this;
    const of = (meaning: string) => settings.number(meaning);
    const usual = of(rises ? 'ramp.up' : 'ramp.down') ?? 0;
    const second = of(rises ? 'ramp.up2' : 'ramp.down2') ?? usual;
    if (choice === 'quick') return of('ramp.quick') ?? usual;
    if (choice === 'jog') return of('ramp.jog') ?? usual;
    if (choice === 'second') return second;
    const above = settings.hertz('ramp.changeover') ?? 0;
    const changes = settings.choice('ramp.secondBy') === 'frequency' && above > 0 && frequency >= above;
    return changes ? second : usual;
  }

  /** The frequency that the model's ramp times count to. */
  private get top(): number {
    const { settings } = this;
    const base = settings.number('motor.baseFrequency') ?? 50;
    return settings.convention('ramp_counts_to') === 'maximum-frequency' ? settings.maximum : base;
  }
}
