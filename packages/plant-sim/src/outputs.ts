// What the relays and outputs of a unit tell, from what it does now.

import type { Settings } from './settings.ts';

export interface Doing {
  readonly powered: boolean;
  readonly runs: boolean;
  readonly reverse: boolean;
  readonly fault: boolean;
  readonly locked: boolean;
  readonly standing: boolean;
  /** In Hz. */
  readonly frequency: number;
  readonly target: number;
  readonly limited: boolean;
  readonly asleep: boolean;
  /** Of the loop, in percent; nothing while none works. */
  readonly error: number | undefined;
}

const AT_SPEED_HZ = 0.3;

export class Outputs {
  private above = false;
  private readonly settings: Settings;

  constructor(settings: Settings) {
    this.settings = settings;
  }

  isOn(number: string, now: Doing): boolean {
    if (!now.powered) return false;
    const does = this.settings.choice(`output.${number}.function`) ?? 'off';
    const inverted = this.settings.choice(`output.${number}.sense`) === 'open';
    return this.isSo(does, now) !== inverted;
  }

  private isSo(does: string, now: Doing): boolean {
    switch (does) {
      case 'ready':
        return !now.fault && !now.locked;
      case 'running':
      case 'enabled':
      case 'damper-open':
      case 'brake-open':
        return now.runs;
      case 'fault':
        return now.fault;
      case 'reverse':
        return now.runs && now.reverse;
      case 'standstill':
        return now.standing;
      case 'at-speed':
        return now.runs && Math.abs(now.frequency - now.target) <= AT_SPEED_HZ;
      case 'above-level':
        return this.isAbove(now.frequency);
      case 'current-limit':
        return now.limited;
      case 'asleep':
        return now.asleep;
      case 'loop-in-band':
        return now.error !== undefined && Math.abs(now.error) <= (this.settings.number('loop.band') ?? 0);
      default:
        return false;
    }
  }

  private isAbove(frequency: number): boolean {
    const level = this.settings.hertz('output.level') ?? Infinity;
    const back = this.settings.hertz('output.levelHysteresis') ?? 0;
    this.above = this.above ? frequency > level - back : frequency > level;
    return this.above;
  }
}
