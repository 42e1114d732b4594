// Power part, motor and load of a unit, in steps of time: the frequency follows its ramp as far as current and bus voltage let
// it, the shaft follows with its slip, and what the unit watches in all this trips it. Simple on purpose, but of the right size
// and cause, so that what a screen shows is what a drive like this would show.

import type { LoadPlan } from './load.ts';
import { loadTorque } from './load.ts';
import { Ramp, type RampChoice } from './ramp.ts';
import type { Settings } from './settings.ts';
import { Watches, type Trip } from './watches.ts';

/** Everything in the units of its name; frequency in Hz, current in A, power in W. */
export interface DriveReadings {
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

export interface DriveCommand {
  readonly runs: boolean;
  /** In Hz; below 0 in reverse. */
  readonly target: number;
  readonly ramp: RampChoice;
  /** How it comes to rest when it does not run. */
  readonly stop: 'ramp' | 'coast';
}

/** What hands have done to motor and mains. */
export interface Surroundings {
  readonly uncoupled: boolean;
  /** Something is stuck in the machine. */
  readonly stuck: boolean;
  readonly mainsPhaseLost: boolean;
  readonly motorPhaseLost: boolean;
  readonly earthed: boolean;
  readonly dip: boolean;
}
export const UNDISTURBED: Surroundings = {
  ...{ uncoupled: false, stuck: false, mainsPhaseLost: false, motorPhaseLost: false },
  ...{ earthed: false, dip: false },
};

/** Peak of the rectified mains: √2 times the line voltage. */
const RECTIFIER = Math.SQRT2;
const AMBIENT = 31;
/** Shares of the rated current that magnetise, and that make rated torque. */
const MAGNETISING = 0.45;
const ACTIVE = 0.89;
/** Times the current of the unit: what its transistors bear. */
const PEAK = 2.2;
/** What the motor's own losses take of the energy that comes back, in shares of rated power. */
const LOSSES = 0.04;
/** J at rated bus voltage for each W of rated power. */
const BUS_ENERGY = 0.036;
const HOLD_FROM = 1.28;
const CHOPPER_FROM = 1.32;
const TRIPS_AT = 1.4;
/** Without a load and its coupling the rotor alone is left. */
const ROTOR_SECONDS = 0.06;
const UNIT_SECONDS = 120;
/** A shaft that nothing holds counts as at rest below this share of rated speed. */
const AT_REST = 0.002;

export class DriveTrain {
  surroundings = UNDISTURBED;
  private frequency = 0;
  /** Of the shaft, in shares of rated speed. */
  private shaft = 0;
  private torque = 0;
  private bus: number;
  private warmth = 3;
  private target = 0;
  private energised = false;
  private readonly ramp: Ramp;
  private readonly watches: Watches;
  private readonly settings: Settings;
  private readonly load: LoadPlan;
  private readonly mains: number;

  /** `mains` is the line voltage in V. */
  constructor(settings: Settings, load: LoadPlan, mains: number) {
    this.settings = settings;
    this.load = load;
    this.mains = mains;
    this.bus = mains * RECTIFIER;
    this.ramp = new Ramp(settings);
    this.watches = new Watches(settings);
  }

  /** One step of so many seconds; what it trips on, if it does. */
  step(seconds: number, command: DriveCommand): Trip | undefined {
    this.target = command.runs ? command.target : 0;
    const rampsDown = command.stop === 'ramp' && this.frequency !== 0 && this.energised;
    this.energised = command.runs || rampsDown;
    const trip = this.energised ? this.drive(seconds, command) : this.coast(seconds);
    this.warm(seconds);
    return trip;
  }

  /** Nothing is given to the motor any more, and nothing turns it. */
  get standing(): boolean {
    return this.frequency === 0;
  }

  get turning(): boolean {
    return Math.abs(this.shaft) > AT_REST;
  }

  /** Shares of rated speed, signed. */
  get speed(): number {
    return this.shaft;
  }

  get output(): number {
    return this.frequency;
  }

  get current(): number {
    if (!this.energised || this.settings.base === 0) return 0;
    const one = this.surroundings.motorPhaseLost ? 1.5 : 1;
    return this.settings.ratedCurrent * one * Math.hypot(MAGNETISING, ACTIVE * this.torque);
  }

  get atLimit(): boolean {
    return this.watches.limited;
  }

  /** The supply is gone: everything lets go, the thermal models start anew. */
  letGo(): void {
    this.frequency = 0;
    this.energised = false;
    this.watches.forget();
  }

  readings(): DriveReadings {
    const share = Math.min(1, Math.abs(this.frequency) / this.settings.base);
    const voltage = this.energised ? (this.settings.number('motor.ratedVoltage') ?? this.mains) * share : 0;
    return {
      frequency: Math.abs(this.frequency),
      setpoint: Math.abs(this.target),
      current: this.current,
      voltage,
      busVoltage: this.bus,
      power: Math.max(0, this.torque * Math.abs(this.shaft)) * this.ratedPower,
      torque: this.energised ? this.torque * 100 : 0,
      speed: this.energised ? Math.abs(this.shaft) * this.ratedSpeed : 0,
      unitTemperature: AMBIENT + this.warmth,
      motorLoad: this.watches.motorLoad,
    };
  }

  private drive(seconds: number, { target, ramp, runs }: DriveCommand): Trip | undefined {
    const { settings } = this;
    if (this.frequency === 0 && this.turning) this.frequency = this.shaft * settings.base;
    const before = this.frequency;
    const resting = this.resistance();
    const ramped = this.ramp.step(before, runs ? target : 0, seconds, ramp);
    const after = this.lengthened(before, ramped, seconds, resting);
    const asked = this.torqueFor(before, after, seconds, resting);
    const trip = this.watches.overcurrent(this.currentAt(asked), settings.unitCurrent * PEAK);
    if (trip) return this.fail(trip);
    this.torque = this.limited(asked);
    this.frequency = this.torque === asked ? after : this.slowed(before, after, seconds, resting);
    this.shaft = this.shaftAt(this.frequency);
    this.feed(seconds);
    return this.watched(seconds);
  }

  /** The load against the shaft, in shares of rated torque. */
  private resistance(): number {
    const { uncoupled, stuck } = this.surroundings;
    if (uncoupled) return 0;
    const plain = loadTorque(this.load, this.shaft);
    return stuck ? plain + Math.sign(this.frequency || 1) * 3 : plain;
  }

  private get inertia(): number {
    return this.surroundings.uncoupled ? ROTOR_SECONDS : this.load.inertiaSeconds + ROTOR_SECONDS;
  }

  private torqueFor(before: number, after: number, seconds: number, resting: number): number {
    return resting + (this.inertia * (after - before)) / this.settings.base / seconds;
  }

  /** Where the ramp down may be lengthened: only so fast that the bus takes what comes back. */
  private lengthened(before: number, after: number, seconds: number, resting: number): number {
    const slows = Math.abs(after) < Math.abs(before);
    if (!slows || this.settings.choice('limit.busVoltage') !== 'lengthen') return after;
    const room = BUS_ENERGY * (HOLD_FROM ** 2 - (this.bus / this.nominal) ** 2);
    const most = (Math.max(0, room) / seconds + LOSSES) / Math.max(Math.abs(this.shaft), AT_REST);
    const way = Math.sign(before);
    if (this.torqueFor(before, after, seconds, resting) * way >= -most) return after;
    this.ramp.held();
    const change = ((-most * way - resting) / this.inertia) * seconds * this.settings.base;
    return change * way >= 0 ? before : before + change;
  }

  /** Torque within the current limit of the way it works now. */
  private limited(asked: number): number {
    const { settings } = this;
    const generates = asked * this.frequency < 0;
    const amperes =
      (generates ? settings.amperes('limit.currentGenerating') : undefined) ??
      settings.amperes('limit.current') ??
      settings.amperes('limit.currentOwn') ??
      Infinity;
    const share = amperes / settings.ratedCurrent;
    const most = Math.sqrt(Math.max(0, share ** 2 - MAGNETISING ** 2)) / ACTIVE;
    this.watches.limited = Math.abs(asked) > most;
    return this.watches.limited ? Math.sign(asked) * most : asked;
  }

  /** The ramp waits: the frequency changes as the torque that is left lets it. */
  private slowed(before: number, after: number, seconds: number, resting: number): number {
    this.ramp.held();
    const change = ((this.torque - resting) / this.inertia) * seconds * this.settings.base;
    const next = before + change;
    if (before === 0) return Math.sign(change) === Math.sign(after) ? next : 0;
    // A load that is stronger than the limit brings the shaft to a stop, and a machine does not turn backwards by itself.
    return Math.sign(next) === Math.sign(before) ? next : 0;
  }

  /** Of rated speed; the slip goes with the torque. */
  private shaftAt(frequency: number): number {
    if (this.surroundings.stuck) return 0;
    const { base, slip, ratedSlip } = this.settings;
    return (frequency - slip * this.torque) / (base - ratedSlip);
  }

  /** What comes back fills the bus; what flows out keeps it where the mains puts it. */
  private feed(seconds: number): void {
    const nominal = this.nominal * (this.surroundings.dip ? 0.6 : 1);
    const back = (-this.torque * this.shaft - LOSSES) * this.ratedPower;
    if (back > 0) {
      const burnt = this.hasChopper && this.bus > this.nominal * CHOPPER_FROM ? this.ratedPower * 1.5 : 0;
      const energy = BUS_ENERGY * this.ratedPower * (this.bus / this.nominal) ** 2 + (back - burnt) * seconds;
      this.bus = this.nominal * Math.sqrt(Math.max(0.5, energy / (BUS_ENERGY * this.ratedPower)));
    } else this.bus += (nominal - this.bus) * Math.min(1, seconds * 5);
  }

  private get hasChopper(): boolean {
    return ['fitted', 'inside'].includes(this.settings.choice('brake.resistor') ?? 'none');
  }

  private watched(seconds: number): Trip | undefined {
    const { surroundings, settings } = this;
    const trip =
      this.watches.bus(this.bus / this.nominal, TRIPS_AT, surroundings.dip) ??
      this.watches.step(seconds, {
        current: this.current,
        torque: Math.abs(this.torque),
        speed: Math.abs(this.shaft),
        frequency: Math.abs(this.frequency),
        unitShare: this.current / settings.unitCurrent,
        ...surroundings,
      });
    return trip && this.fail(trip);
  }

  private fail(trip: Trip): Trip {
    this.frequency = 0;
    this.energised = false;
    this.torque = 0;
    return trip;
  }

  /** Nothing drives it: the load brings it to rest. */
  private coast(seconds: number): undefined {
    this.frequency = 0;
    this.torque = 0;
    this.watches.rest(seconds);
    this.bus += (this.nominal - this.bus) * Math.min(1, seconds * 2);
    const before = this.shaft;
    const brakes = this.load.kind === 'hoist' ? before * 20 : this.resistance() + Math.sign(before) * 0.02;
    const next = before - (brakes / this.inertia) * seconds;
    this.shaft = next * before <= 0 || this.surroundings.stuck ? 0 : next;
  }

  private warm(seconds: number): void {
    const share = this.energised ? this.current / this.settings.unitCurrent : 0;
    this.warmth +=
      ((this.energised ? 4 : 3) + 14 * share ** 2 - this.warmth) * Math.min(1, seconds / UNIT_SECONDS);
  }

  private currentAt = (torque: number): number =>
    this.settings.ratedCurrent * Math.hypot(MAGNETISING, ACTIVE * torque);

  private get nominal(): number {
    return this.mains * RECTIFIER;
  }

  private get ratedSpeed(): number {
    return (60 * (this.settings.base - this.settings.ratedSlip)) / this.settings.polePairs;
  }

  /** In W, by current and voltage of the plate. */
  private get ratedPower(): number {
    return (
      Math.sqrt(3) *
      (this.settings.number('motor.ratedVoltage') ?? this.mains) *
      this.settings.ratedCurrent *
      0.7
    );
  }
}
