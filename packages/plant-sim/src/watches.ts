// What a unit watches while it drives: currents, thermal models, phases, bus voltage, too much or too little load. Each acts by
// its own setting, and after its own time.

import type { FaultKind } from '@drive-keep/core/dictionary';
import type { Settings } from './settings.ts';

export type Trip = FaultKind;

export interface Watched {
  /** In A. */
  readonly current: number;
  /** Shares of rated torque and rated speed, without sign. */
  readonly torque: number;
  readonly speed: number;
  /** In Hz. */
  readonly frequency: number;
  /** Of the current that the unit bears for ever. */
  readonly unitShare: number;
  readonly mainsPhaseLost: boolean;
  readonly motorPhaseLost: boolean;
  readonly earthed: boolean;
}

/** Trips after a minute at one and a half times the current that is borne for ever (1.5² · (1 − e^(−60/τ)) = 1). */
const MOTOR_SECONDS = 102;
const UNIT_SECONDS = 90;
const UNIT_BEARS = 1.15;
const PHASE_SECONDS = 1;
const MOTOR_PHASE_SECONDS = 0.5;
/** The ripple of two phases is seen above this share of the unit's current. */
const RIPPLE_FROM = 0.4;
const NEAR_STANDSTILL = 5;

export class Watches {
  /** The current limit acts now. */
  limited = false;
  /** Shares of what trips. */
  private motor = 0;
  private unit = 0;
  private readonly since = new Map<string, number>();
  private readonly settings: Settings;

  constructor(settings: Settings) {
    this.settings = settings;
  }

  /** In percent of what trips. */
  get motorLoad(): number {
    return this.motor * 100;
  }

  overcurrent(current: number, most: number): Trip | undefined {
    return current > most ? 'overcurrent' : undefined;
  }

  /** `share` is the bus voltage as a share of its usual one. */
  bus(share: number, tripsAt: number, dips: boolean): Trip | undefined {
    if (share > tripsAt) return 'overvoltage';
    const rides = ['ride-through', 'quick-stop'].includes(this.settings.choice('protect.undervoltage') ?? '');
    return dips && share < 0.7 && !rides ? 'undervoltage' : undefined;
  }

  step(seconds: number, at: Watched): Trip | undefined {
    const { settings } = this;
    if (at.earthed) return 'earth';
    this.heat(seconds, at);
    const acts = (meaning: string, otherwise = 'fault') =>
      (settings.choice(meaning) ?? otherwise) === 'fault';
    const trips: readonly (readonly [Trip, boolean])[] = [
      ['motorOverload', this.motor >= 1 && acts('protect.overloadAction')],
      ['unitHot', this.unit >= 1],
      [
        'inputPhase',
        this.lasts('mains', seconds, at.mainsPhaseLost && at.unitShare > RIPPLE_FROM, PHASE_SECONDS) &&
          acts('protect.inputPhase'),
      ],
      [
        'outputPhase',
        this.lasts('motor', seconds, at.motorPhaseLost, MOTOR_PHASE_SECONDS) &&
          acts('protect.outputPhase', 'off'),
      ],
      ['underload', this.underloaded(seconds, at) && acts('protect.underloadAction', 'off')],
      ['stall', this.stalled(seconds, at) && acts('protect.stallAction')],
      ['shaftOverload', this.blocked(seconds, at) && acts('protect.blockedAction', 'off')],
    ];
    return trips.find(([, is]) => is)?.[0];
  }

  rest(seconds: number): void {
    this.limited = false;
    this.since.clear();
    this.motor *= Math.exp(-seconds / MOTOR_SECONDS);
    this.unit *= Math.exp(-seconds / UNIT_SECONDS);
  }

  forget(): void {
    this.motor = 0;
    this.unit = 0;
    this.since.clear();
  }

  private heat(seconds: number, { current, unitShare }: Watched): void {
    const bears = this.settings.amperes('protect.overloadCurrent') ?? this.settings.ratedCurrent;
    const towards = (now: number, end: number, time: number) =>
      now + (end - now) * (1 - Math.exp(-seconds / time));
    this.motor = towards(this.motor, (current / bears) ** 2, MOTOR_SECONDS);
    this.unit = towards(this.unit, (unitShare / UNIT_BEARS) ** 2, UNIT_SECONDS);
  }

  /** The level is in percent of rated torque, or of a curve that goes with the square of the speed. */
  private underloaded(seconds: number, { torque, speed, frequency }: Watched): boolean {
    const { settings } = this;
    const flat = settings.number('protect.underload');
    const curve = settings.number('protect.underloadCurve');
    const level = flat ?? (curve === undefined ? undefined : curve * speed ** 2);
    const below = level !== undefined && frequency > NEAR_STANDSTILL && torque * 100 < level;
    return this.lasts('under', seconds, below, settings.number('protect.underloadTime') ?? 10);
  }

  private stalled(seconds: number, { current, speed, frequency }: Watched): boolean {
    const { settings } = this;
    const time = settings.number('protect.stallTime') ?? 0;
    if (time === 0) return false;
    const level = settings.amperes('protect.stallCurrent');
    const much = level === undefined ? this.limited : current >= level;
    return this.lasts('stall', seconds, much && (frequency < NEAR_STANDSTILL || speed < 0.1), time);
  }

  private blocked(seconds: number, { torque, speed }: Watched): boolean {
    const level = this.settings.number('protect.blocked');
    const above = level !== undefined && torque * 100 > level * Math.max(0.1, speed ** 2);
    return this.lasts('blocked', seconds, above, this.settings.number('protect.blockedTime') ?? 5);
  }

  private lasts(what: string, seconds: number, is: boolean, time: number): boolean {
    const lasted = is ? (this.since.get(what) ?? 0) + seconds : 0;
    this.since.set(what, lasted);
    return is && lasted >= time;
  }
}
