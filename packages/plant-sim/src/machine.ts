// A unit in time: its command logic, its power part with motor and load, its control loop and the process behind it, moved on in
// steps up to the moment at which somebody looks.

import type { FaultKind } from '@drive-keep/core/dictionary';
import { DriveTrain, type DriveCommand } from './drive-train.ts';
import { Identification } from './identification.ts';
import { Loop } from './loop.ts';
import { Process, type LoadPlan } from './load.ts';
import type { Memory } from './memory.ts';
import type { Settings } from './settings.ts';
import type { WiredUnit } from './wired-unit.ts';

const STEP_MS = 10;
/** At its speed, without a loop: nothing changes quickly. */
const STEADY_MS = 100;
const IDLE_MS = 1000;
/** A transmitter sends so often. */
const SENDS_SECONDS = 0.05;
/** What happened longer ago than this has settled: nobody looked. */
const MOST_MS = 120_000;

/** What commands the unit beside its terminals: somebody elsewhere, who asks for a speed in Hz. */
export interface Elsewhere {
  readonly runs: boolean;
  readonly target: number;
}

export class Machine {
  readonly train: DriveTrain;
  readonly loop: Loop;
  readonly identification: Identification;
  private readonly process: Process | undefined;
  private readonly settings: Settings;
  private readonly wired: WiredUnit | undefined;
  private readonly elsewhere: () => Elsewhere;
  private readonly onTrip: (kind: FaultKind) => void;
  private at: number;
  private ran = false;
  /** The motor was measured by this run command: it turns by none but the next. */
  private measured = false;
  private trippedFor = 0;
  private sinceSent = 0;
  private taken = 0;
  private second = false;

  constructor(
    { memory, settings, wired }: { memory: Memory; settings: Settings; wired: WiredUnit | undefined },
    load: LoadPlan,
    mains: number,
    now: number,
    elsewhere: () => Elsewhere,
    onTrip: (kind: FaultKind) => void,
  ) {
    this.settings = settings;
    this.wired = wired;
    this.elsewhere = elsewhere;
    this.onTrip = onTrip;
    this.train = new DriveTrain(settings, load, mains);
    this.loop = new Loop(settings);
    this.identification = new Identification(memory, settings);
    this.process = load.process && new Process(load.process);
    this.at = now;
  }

  /** Up to `now`, in ms. */
  advance(now: number): void {
    if (now - this.at > MOST_MS) this.at = now - MOST_MS;
    while (now - this.at >= STEP_MS) {
      const step = this.idle ? IDLE_MS : this.steady ? STEADY_MS : STEP_MS;
      const ms = Math.min(step, now - this.at);
      this.at += ms;
      this.step(ms / 1000);
    }
  }

  /** Commanded to turn the motor, by its terminals or from elsewhere. */
  get commanded(): boolean {
    return this.elsewhere().runs || this.wired?.report.runs === true;
  }

  get running(): boolean {
    return (this.commanded && !this.measured) || this.identification.goesOn || !this.train.standing;
  }

  /** The share of its signal that the loop's input takes in. */
  get actual(): number {
    if (!this.process) this.look();
    return this.taken;
  }

  /** Of the loop, in percent of the transmitter's range. */
  get error(): number {
    return this.loop.error(this.actual, this.second);
  }

  private get feedback(): string {
    return /\d/.exec(this.settings.choice('loop.feedback') ?? '')?.[0] ?? '1';
  }

  private get idle(): boolean {
    return !this.commanded && this.train.standing && !this.train.turning && this.process === undefined;
  }

  private get steady(): boolean {
    const { runs, setpoint, moves = null } = this.wired?.report ?? {};
    const target = runs ? setpoint : this.elsewhere().target;
    return moves === null && this.process === undefined && Math.abs(this.train.output) === target;
  }

  private step(seconds: number): void {
    this.measure(seconds);
    const command = this.command(seconds);
    const trip = this.train.step(seconds, command);
    if (trip) this.trip(trip);
    this.identify(seconds);
    this.restart(seconds);
  }

  private trip(kind: FaultKind): void {
    this.wired?.fail(kind);
    this.onTrip(kind);
  }

  /** What the transmitter of the process sends stands at its device on the floor. */
  private measure(seconds: number): void {
    if (!this.process) return;
    const share = this.process.step(seconds, Math.abs(this.train.speed));
    this.sinceSent += seconds;
    if (this.sinceSent < SENDS_SECONDS) return;
    this.sinceSent = 0;
    this.wired?.sends(this.process.plan.transmitter, share);
    this.look();
  }

  /** What the loop sees at its terminals, as often as a transmitter sends. */
  private look(): void {
    this.taken = this.wired?.analogShare(this.feedback) ?? 0;
    this.second = this.wired?.secondSetpoint ?? false;
  }

  private command(seconds: number): DriveCommand {
    const begins = this.commanded && !this.ran;
    const report = this.wired?.report;
    const away = this.elsewhere();
    const ended = this.ran && !this.commanded;
    this.ran = this.commanded;
    if (begins) this.identification.begin();
    if (ended) this.identification.breakOff();
    this.measured = this.commanded && (this.measured || this.identification.goesOn);
    if (this.identification.goesOn)
      return {
        runs: true,
        target: this.identification.turns ? 0.8 * this.settings.base : 0,
        ramp: 'first',
        stop: 'coast',
      };
    if (!report?.runs || this.measured) {
      this.loop.rest();
      const stop =
        report && !away.runs ? report.stop : this.settings.choice('stop.mode') === 'coast' ? 'coast' : 'ramp';
      return { ...away, runs: away.runs && !this.measured, ramp: report?.ramp ?? 'first', stop };
    }
    const { ramp, stop, reverse } = report;
    const wanted = this.moved(seconds) ?? report.setpoint ?? 0;
    return { runs: !this.loop.asleep, target: reverse ? -wanted : wanted, ramp, stop };
  }

  /** The set-point in Hz where a loop or somebody's finger on a button moves it. */
  private moved(seconds: number): number | undefined {
    const { wired, settings, loop } = this;
    const moves = wired?.report.moves ?? null;
    if (moves !== 'loop') loop.rest();
    const now = Math.abs(this.train.output);
    switch (moves) {
      case 'loop':
        return loop.step(seconds, this.actual, this.second) ?? 0;
      case 'raise':
        return settings.maximum;
      case 'lower':
        return settings.hertz('frequency.minimum') ?? 0;
      case 'hold':
        wired?.raisedTo(now);
        return now;
      default:
        return undefined;
    }
  }

  private identify(seconds: number): void {
    if (!this.identification.goesOn) return;
    const load = this.train.readings().torque / 100;
    if (!this.identification.step(seconds, this.identification.turns ? load : 0)) this.trip('other');
  }

  /** After a fault the unit tries again when its pause is over, where its settings let it. */
  private restart(seconds: number): void {
    if ((this.wired?.report.fault ?? null) === null) {
      this.trippedFor = 0;
      return;
    }
    this.trippedFor += seconds;
    if (this.trippedFor < (this.settings.number('restart.wait') ?? 5)) return;
    this.trippedFor = 0;
    this.wired?.retry();
  }
}
