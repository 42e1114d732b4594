// What hangs on the shaft, and the process behind it. Torques are shares of the motor's rated torque, speeds of its rated
// speed; the inertia is told as the time in which rated torque brings everything to rated speed.

export const LOAD_KINDS = ['fan', 'pump', 'belt', 'agitator', 'hoist'] as const;
export type LoadKind = (typeof LOAD_KINDS)[number];

export interface ProcessPlan {
  /** Field device that sends what is measured. */
  readonly transmitter: string;
  /** Share of its signal at standstill, and at rated speed. */
  readonly rest: number;
  readonly full: number;
  /** Whether it goes with the square of the speed, as a pressure does. */
  readonly square: boolean;
  readonly lagSeconds: number;
  readonly deadSeconds: number;
  /** Standard deviation, in shares of the signal. */
  readonly noise: number;
}

export interface LoadPlan {
  readonly kind: LoadKind;
  /** At rated speed. */
  readonly torque: number;
  readonly inertiaSeconds: number;
  readonly process?: ProcessPlan;
}

export const USUAL_LOAD: LoadPlan = { kind: 'belt', torque: 0.62, inertiaSeconds: 0.25 };

/** Above the torque of a belt that moves, until it does. */
const BREAKAWAY = 1.25;
const BREAKAWAY_BELOW = 0.02;
/** A pump pushes against its head alone below this speed. */
const HEAD_FROM = 0.4;
const FRICTION = 0.05;

/** Torque against the turning at a speed; with a hoist the weight pulls the same way whichever way it turns. */
export function loadTorque({ kind, torque }: LoadPlan, speed: number): number {
  const [size, way] = [Math.abs(speed), Math.sign(speed)];
  switch (kind) {
    case 'fan':
      return way * (FRICTION + (torque - FRICTION) * size ** 2);
    case 'pump': {
      const flow = Math.max(0, size - HEAD_FROM) / (1 - HEAD_FROM);
      return way * (FRICTION + (torque - FRICTION) * Math.min(1, size ** 2 * (0.5 + 0.5 * flow)));
    }
    case 'agitator':
      return way * torque * (0.35 + 0.65 * size);
    case 'hoist':
      return torque + way * FRICTION;
    case 'belt':
      return way * torque * (size < BREAKAWAY_BELOW ? BREAKAWAY : 1);
  }
}

/** First order behind a dead time, with noise from a seeded sequence, so that a run can be had again. */
export class Process {
  readonly plan: ProcessPlan;
  private level: number;
  private readonly pipe: number[] = [];
  private seed = 12_345;

  constructor(plan: ProcessPlan) {
    this.plan = plan;
    this.level = plan.rest;
  }

  /** One step of so many seconds at a speed; the share of its signal that the transmitter sends, from 0 to 1. */
  step(seconds: number, speed: number): number {
    const { rest, full, square, lagSeconds, deadSeconds, noise } = this.plan;
    this.pipe.push(rest + (full - rest) * (square ? speed * Math.abs(speed) : speed));
    const delayed = this.pipe.length * seconds > deadSeconds ? (this.pipe.shift() ?? rest) : rest;
    this.level += (delayed - this.level) * (1 - Math.exp(-seconds / Math.max(lagSeconds, seconds)));
    return Math.min(1, Math.max(0, this.level + noise * this.gauss()));
  }

  private gauss(): number {
    return Math.sqrt(-2 * Math.log(1 - this.random())) * Math.cos(2 * Math.PI * this.random());
  }

  private random(): number {
    this.seed = (this.seed * 1_103_515_245 + 12_345) % 2 ** 31;
    return this.seed / 2 ** 31;
  }
}
