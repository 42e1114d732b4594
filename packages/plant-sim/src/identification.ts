// Identification of the motor: asked for by a parameter, begun by a run command at the machine. It takes its time, finds what
// the motor really has, and changes nothing but the measured values until somebody selects them.

import type { Memory } from './memory.ts';
import type { Settings } from './settings.ts';

const STANDING_SECONDS = 8;
const TURNING_SECONDS = 25;
/** What this very motor has, in shares of what the unit holds as delivered: a motor never matches the table quite. */
const TRUE_SHARES: Readonly<Record<string, number>> = {
  'motor.statorResistance': 1.083,
  'motor.rotorResistance': 0.941,
  'motor.leakage': 1.047,
  'motor.mainInductance': 0.912,
  'motor.noLoadCurrent': 1.064,
};
/** Found standing; the others want a turning shaft. */
const STANDING = ['motor.statorResistance', 'motor.rotorResistance', 'motor.leakage'];
/** Turning under load would find something else than the motor. */
const MOST_LOAD = 0.2;

export class Identification {
  private left = 0;
  private kind: 'standing' | 'turning' | null = null;
  private readonly settings: Settings;
  private readonly memory: Memory;

  constructor(memory: Memory, settings: Settings) {
    this.memory = memory;
    this.settings = settings;
  }

  get goesOn(): boolean {
    return this.kind !== null;
  }

  get turns(): boolean {
    return this.kind === 'turning';
  }

  /** A run command has come; it begins where it was asked for. */
  begin(): void {
    const asked = this.settings.choice('identify.start');
    if (asked !== 'standing' && asked !== 'turning') return;
    this.kind = asked;
    this.left = asked === 'turning' ? TURNING_SECONDS : STANDING_SECONDS;
  }

  /** `load` is the torque at the shaft. False where it has to break off: the unit tells that as a fault. */
  step(seconds: number, load: number): boolean {
    if (this.kind === 'turning' && Math.abs(load) > MOST_LOAD) {
      this.kind = null;
      return false;
    }
    this.left -= seconds;
    if (this.left <= 0) this.finish();
    return true;
  }

  /** The run command went before it was done: nothing is taken over. */
  breakOff(): void {
    this.kind = null;
  }

  private finish(): void {
    for (const [meaning, share] of Object.entries(TRUE_SHARES)) {
      const parameter = this.memory.byMeaning.get(meaning);
      if (!parameter || (this.kind === 'standing' && !STANDING.includes(meaning))) continue;
      this.memory.forceWorking(parameter.code, Math.round(this.memory.delivered(parameter) * share));
    }
    const start = this.memory.byMeaning.get('identify.start');
    const off =
      start?.form.kind === 'option' ? start.form.options.find(({ meaning }) => meaning === 'off') : undefined;
    if (start && off) this.memory.forceWorking(start.code, off.raw);
    this.kind = null;
  }
}
