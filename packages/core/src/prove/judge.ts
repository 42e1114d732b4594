// Judges a step by what a unit shows while somebody goes through its stages. It is told every reading and says where it stands:
// what it waits for, or that the step has passed or failed, and why. It knows no clock and no line; what it was not told counts
// for nothing, and after a gap it begins anew, because a drive remembers what nobody saw.

import { rampsIn, type Point } from '../signals/index.ts';
import { likelyOf } from './likely.ts';
import type { ProofInput, ProofStep, Stage } from './proof-step.ts';
import { isSeen } from './stages.ts';

/** One reading; nothing where no register tells it. */
export interface Observed {
  /** In ms. */
  readonly at: number;
  /** By number: true where the terminal is closed. */
  readonly inputs: Readonly<Record<string, boolean>>;
  /** Share of its signal at each analog input, by number. */
  readonly analogs: Readonly<Record<string, number>>;
  readonly runs: boolean | null;
  readonly faulty: boolean | null;
  /** As the engine names it; nothing where there is none, or where its number says nothing of that. */
  readonly fault: string | null;
  /** In Hz. */
  readonly hertz: number | null;
  /** Actual value and set-point of the control loop, in one unit, with the range of that unit. */
  readonly loop: { readonly actual: number; readonly wanted: number; readonly range: number } | null;
}

export interface Judgement {
  readonly state: 'waits' | 'passed' | 'failed';
  /** Stages that were seen. */
  readonly stage: number;
  /** What was seen, or what is waited for. */
  readonly text: string;
  readonly likely: readonly string[];
  /** What was measured, as `Up in 8.0 s for the whole way, set to 8.0 s`. */
  readonly figures: readonly string[];
}

/** What stands is looked at for so long before it counts, in ms. */
const HOLD_MS = 350;
const RAMP_HOLD_MS = 1000;
const LOOP_HOLD_MS = 4000;
/** Contacts that stand otherwise than they should for so long are no contacts on their way. */
const WRONG_MS = 1500;
/** A stage in which nothing has moved for so long. */
const IDLE_MS = 15_000;
/** Two readings that are further apart have a gap between them. */
const GAP_MS = 1500;
/** A speed counts as arrived within this, in Hz and as a share of it. */
const SPEED_HZ = 0.3;
const SPEED_SHARE = 0.015;
const SIGNAL_SHARE = 0.06;
/** The wish of a loop counts as met within this share of the range. */
const LOOP_SHARE = 0.02;
/** A measured ramp counts as set within this share, or so many seconds: readings are some tenths apart. */
const RAMP_SHARE = 0.05;
const RAMP_S = 0.3;
/** Torque that is taken away shows at once. */
const COAST_S = 1;
const BEFORE_S = 1;
const STANDS_HZ = 0.5;

export class Judge {
  /** Stages that were seen. */
  private stage = 0;
  private since = 0;
  private matched: number | undefined;
  private wrong: number | undefined;
  /** Since when the inputs of the next stage stand as they should, and it does not do what it should. */
  private late: number | undefined;
  private last: number | undefined;
  /** Since when it shows what it should. */
  private steady: number | undefined;
  /** It has been seen otherwise since this stage began: what it showed before is no answer to what is done now. */
  private fresh = true;
  private gone = false;
  private course: Point[] = [];
  private courses: { readonly stage: Stage; readonly points: readonly Point[] }[] = [];
  private ramping: Stage | undefined;
  private figures: string[] = [];
  private shortfalls: string[] = [];
  private ended: Judgement | undefined;

  constructor(
    private readonly step: ProofStep,
    private readonly inputs: readonly ProofInput[],
  ) {}

  /** Whether any stage has been seen: what is not worth keeping otherwise. */
  get began(): boolean {
    return this.stage > 0;
  }

  /** Nothing comes from the unit. `away`: it was asked and does not answer; else nobody could ask it. */
  silent(at: number, away: boolean): Judgement {
    if (this.ended) return this.ended;
    if (this.next?.silent === true) {
      // Only a unit that was asked and does not answer has lost its supply.
      if (away) this.reach(at);
      this.gone = away;
    } else if (!this.gone) this.begin();
    return this.now();
  }

  take(seen: Observed): Judgement {
    if (this.ended) return this.ended;
    const { at } = seen;
    const gap = this.last !== undefined && at - this.last > GAP_MS;
    this.last = at;
    if (gap && !this.gone && this.next?.silent !== true) this.begin();
    this.gone = false;
    if (this.next?.silent === true) return this.now(seen);
    if (seen.hertz !== null) this.course.push({ at: at / 1000, value: seen.hertz });
    // Of what was before a change only as much as shows where it began from.
    if (!this.ramping) this.course = this.course.filter((point) => at / 1000 - point.at <= BEFORE_S);
    this.follow(seen);
    return this.ended ?? this.now(seen);
  }

  private get next(): Stage | undefined {
    return this.step.stages[this.stage];
  }

  private get before(): Stage | undefined {
    return this.step.stages[this.stage - 1];
  }

  private begin(): void {
    this.stage = 0;
    this.matched = this.wrong = this.late = this.steady = this.ramping = undefined;
    this.fresh = true;
    this.course = [];
    this.courses = [];
  }

  private follow(seen: Observed): void {
    const { at } = seen;
    const next = this.next as Stage;
    const fits = matches(next, seen);
    const does = fits && doesOf(next, seen);
    if (fits && this.matched === undefined) {
      this.matched = at;
      if (next.ramp || next.stops !== null) this.ramping = next;
    }
    if (!fits) this.matched = this.late = undefined;
    const hold = holdOf(next, this.ramping !== undefined);
    if (!does) {
      this.fresh = true;
      if (fits && this.hasBegun(next, seen)) this.late ??= at;
      this.steady = undefined;
    } else {
      this.late = undefined;
      this.steady ??= at;
      if (at - this.steady >= hold && this.fresh) return this.reach(at, seen);
    }
    if (fits && this.late !== undefined && at - this.late > next.within * 1000)
      return this.failOn(seen, next);
    this.lookForWrong(seen, fits);
  }

  /** Whether what the stage asks for has been done, as far as that can be seen: a key shows itself by what it brings about. */
  private hasBegun(next: Stage, seen: Observed): boolean {
    const { before } = this;
    // Nobody has to be in time for the beginning.
    if (!before) return false;
    if (before.silent || differing(before.inputs, next.inputs, seen.inputs).length > 0) return true;
    const turned = before.runs !== next.runs && seen.runs === next.runs;
    return turned || (before.faulty !== next.faulty && seen.faulty === next.faulty);
  }

  private lookForWrong(seen: Observed, fits: boolean): void {
    const { before } = this;
    if (!before || before.silent || fits || standsAs(before, seen)) {
      this.wrong = undefined;
      return;
    }
    this.wrong ??= seen.at;
    if (seen.at - this.wrong < WRONG_MS) return;
    const next = this.next as Stage;
    const wanted = differing(before.inputs, next.inputs, seen.inputs);
    const moved = differing(before.inputs, seen.inputs, seen.inputs);
    if (moved.every((each) => wanted.includes(each)) && moved.length < wanted.length && wanted.length > 1)
      return this.fail('Not all terminals moved that should have.', likelyOf(this.inputs, wanted, moved));
    this.fail(
      `Other terminals moved than should have after “${next.deed}”: ${said(this.inputs, moved)} instead of ${said(this.inputs, wanted)}.`,
      likelyOf(this.inputs, wanted, moved),
    );
  }

  private reach(at: number, seen?: Observed): void {
    const reached = this.next as Stage;
    if (reached.speed?.kind === 'loop' && reached.settles && this.matched !== undefined) {
      const took = (at - LOOP_HOLD_MS - this.matched) / 1000;
      this.figures.push(
        `Within ${LOOP_SHARE * 100} % of its set-point after ${Math.max(0, took).toFixed(0)} s`,
      );
    }
    this.stage += 1;
    this.fresh =
      !seen || !this.next || tellsItself(this.next) || !matches(this.next, seen) || !doesOf(this.next, seen);
    this.since = at;
    this.matched = this.wrong = this.late = this.steady = undefined;
    // What a shaft did before its supply went is no part of a ramp.
    if (reached.silent) {
      this.ramping = undefined;
      this.course = [];
    }
    if (this.ramping && (reached.settles || this.stage === this.step.stages.length)) {
      this.courses.push({ stage: this.ramping, points: this.course });
      this.ramping = undefined;
      this.course = [];
    }
    if (this.stage < this.step.stages.length) return;
    for (const { stage, points } of this.courses) this.measure(stage, points);
    this.ended =
      this.shortfalls.length > 0
        ? this.judged('failed', 'Its ramps are not what is set.', this.shortfalls)
        : this.judged('passed', this.step.stages.at(-1)?.see.join('. ') ?? '', []);
  }

  private measure({ ramp, stops }: Stage, points: readonly Point[]): void {
    if (stops === 'coast' || stops === 'torque-off') {
      const fast = fallOf(points);
      if (fast === undefined) return;
      this.figures.push(`Torque gone within ${fast.toFixed(1)} s`);
      if (fast > COAST_S) this.shortfalls.push('It was slowed down by a ramp, and should coast.');
    }
    // Where other things happen beside, what is measured is no ramp of its own.
    if (!ramp || this.step.part !== 'ramps') return;
    const measured = rampsIn(points, ramp.setting).findLast(({ way }) => way === ramp.way);
    const set = ramp.setting[ramp.way];
    if (!measured || set === null) return;
    const name = ramp.way === 'up' ? 'Up' : 'Down';
    const { measured: took, predicted } = measured;
    const wanted = predicted ?? set;
    this.figures.push(
      `${name} in ${took.toFixed(1)} s for the whole way to ${ramp.setting.top.toFixed(1)} Hz, set to ${set.toFixed(1)} s`,
    );
    if (Math.abs(took - wanted) <= Math.max(RAMP_S, wanted * RAMP_SHARE)) return;
    this.shortfalls.push(
      took > wanted
        ? `${name} took ${took.toFixed(1)} s instead of ${wanted.toFixed(1)} s: likely a limit of current or of the bus voltage stretches it; the live view and a trace show which.`
        : `${name} took ${took.toFixed(1)} s instead of ${wanted.toFixed(1)} s: likely another ramp holds than the one that is kept. Compare the unit with the set.`,
    );
  }

  private failOn(seen: Observed, next: Stage): void {
    const faulty = seen.faulty === true && !next.faulty;
    const likely = faulty
      ? 'It has a fault: the live view names it, with what to check.'
      : next.runs && seen.runs === false
        ? 'Its inputs ask for it and it does not run. Likely hand is chosen, safe torque off is open, or it waits for its run contact to open once.'
        : `Likely the unit holds another value than the set: ${this.step.codes.join(', ')}. Compare them.`;
    this.fail(
      `Its inputs are as they should be after “${next.deed}”. It should: ${next.see.join('; ')}. It ${doing(seen)}.`,
      [likely],
    );
  }

  private fail(text: string, likely: readonly string[]): void {
    this.ended = this.judged('failed', text, likely);
  }

  private judged(state: 'passed' | 'failed', text: string, likely: readonly string[]): Judgement {
    return { state, stage: this.stage, text, likely, figures: this.figures };
  }

  private now(seen?: Observed): Judgement {
    const { next, before, stage } = this;
    const idle =
      before !== undefined && (this.last ?? 0) - this.since > IDLE_MS && this.matched === undefined;
    const wanted = idle && next && seen ? differing(before.inputs, next.inputs, seen.inputs) : [];
    if (!this.fresh && this.steady !== undefined)
      return {
        ...{ state: 'waits', stage, figures: this.figures, text: next?.deed ?? '' },
        likely: [NO_ANSWER],
      };
    return {
      ...{ state: 'waits', stage, figures: this.figures },
      text: next ? waitText(next, seen, stage, this.inputs) : '',
      likely:
        wanted.length === 0
          ? []
          : [
              `Nothing has moved for ${IDLE_MS / 1000} s.${next?.brief === true ? ' A short press falls between two readings: hold it for a second.' : ''}`,
              ...likelyOf(this.inputs, wanted, []),
            ],
    };
  }
}

function holdOf({ speed, settles, brief }: Stage, ramping: boolean): number {
  if (brief) return 0;
  if (!settles) return HOLD_MS;
  return speed?.kind === 'loop' ? LOOP_HOLD_MS : ramping ? RAMP_HOLD_MS : HOLD_MS;
}

/** Where a signal stands is read itself: whoever finds it there has nothing to do. */
const tellsItself = ({ speed }: Stage): boolean => speed?.kind === 'signal' && speed.at !== null;

const NO_ANSWER =
  'It showed this before, too: whether it is the answer to what was done, no register tells. Say what you have seen.';

const waitText = (
  next: Stage,
  seen: Observed | undefined,
  stage: number,
  inputs: readonly ProofInput[],
): string => {
  if (!seen) return next.deed;
  const untold = Object.keys(next.inputs).filter((each) => !(each in seen.inputs));
  if (untold.length > 0)
    return `${next.deed}. The unit does not tell ${said(inputs, untold)} now: type what you see.`;
  if (stage > 0) return next.deed;
  const odd = differing(next.inputs, seen.inputs, seen.inputs);
  if (odd.length > 0)
    return `${next.deed}. ${said(inputs, odd)} ${odd.length === 1 ? 'does' : 'do'} not stand as at rest.`;
  if (seen.runs === true && !next.runs) return `${next.deed}. It still runs.`;
  if (seen.faulty === true && !next.faulty) return `${next.deed}. It has a fault: reset it.`;
  return next.deed;
};

/** Whether the inputs, and the signal that the stage asks for, stand as they should. */
function matches(stage: Stage, seen: Observed): boolean {
  if (!standsAs(stage, seen)) return false;
  const { speed } = stage;
  if (speed?.kind !== 'signal' || speed.at === null) return true;
  const share = seen.analogs[speed.input];
  return share !== undefined && Math.abs(share - speed.at) <= SIGNAL_SHARE;
}

/** An input that the unit does not tell now stands nowhere. */
const standsAs = ({ inputs }: Stage, seen: Observed): boolean =>
  Object.entries(inputs).every(([number, on]) => seen.inputs[number] === on);

/** Numbers of the inputs that differ, as far as they are told. */
const differing = (
  a: Readonly<Record<string, boolean>>,
  b: Readonly<Record<string, boolean>>,
  told: Readonly<Record<string, boolean>>,
): readonly string[] => Object.keys(told).filter((each) => each in a && each in b && a[each] !== b[each]);

const said = (inputs: readonly ProofInput[], numbers: readonly string[]): string =>
  numbers.length === 0
    ? 'none'
    : `terminal ${numbers.map((each) => inputs.find(({ number }) => number === each)?.terminal ?? each).join(' and ')}`;

function doesOf(stage: Stage, seen: Observed): boolean {
  // A drive that slows down still runs: whether it has come to rest counts where that is waited for.
  const rests = !stage.runs && stage.stops !== null && !stage.settles;
  if (seen.runs !== null && seen.runs !== stage.runs && !rests) return false;
  if (seen.faulty !== null && seen.faulty !== stage.faulty) return false;
  if (stage.fault !== null && seen.fault !== null && seen.fault !== stage.fault) return false;
  if (!stage.runs) return !stage.settles || seen.hertz === null || seen.hertz <= STANDS_HZ;
  return !stage.settles || speedFits(stage, seen);
}

function speedFits({ speed }: Stage, { hertz, analogs, loop }: Observed): boolean {
  if (speed === null) return true;
  if (speed.kind === 'loop')
    return loop !== null && Math.abs(loop.actual - loop.wanted) <= loop.range * LOOP_SHARE;
  if (hertz === null) return false;
  const wanted = speed.kind === 'fixed' ? speed.hertz : hertzAt(speed.points, analogs[speed.input]);
  return wanted !== undefined && Math.abs(hertz - wanted) <= Math.max(SPEED_HZ, wanted * SPEED_SHARE);
}

function hertzAt(
  points: readonly { readonly share: number; readonly hertz: number }[],
  share: number | undefined,
): number | undefined {
  if (share === undefined) return undefined;
  const after = points.findIndex((each) => each.share >= share);
  const [a, b] = [points[after - 1], points[after]];
  if (!b) return points.at(-1)?.hertz;
  if (!a || b.share === a.share) return b.hertz;
  return a.hertz + ((share - a.share) / (b.share - a.share)) * (b.hertz - a.hertz);
}

/** Seconds in which a frequency has fallen from nine tenths to nothing; nothing where it has not been seen to fall. */
function fallOf(points: readonly Point[]): number | undefined {
  const most = Math.max(...points.map(({ value }) => value));
  const end = points.findIndex(({ value }) => value <= STANDS_HZ);
  if (!(most > STANDS_HZ * 4) || end < 1) return undefined;
  const begin = points.slice(0, end).findLastIndex(({ value }) => value >= most * 0.9);
  return (points[end]?.at ?? 0) - (points[Math.max(0, begin)]?.at ?? 0);
}

const doing = ({ runs, faulty, hertz }: Observed): string =>
  [
    runs === null ? 'does not tell whether it runs' : runs ? 'runs' : 'stands',
    hertz === null ? '' : `at ${hertz.toFixed(1)} Hz`,
    faulty === true ? 'with a fault' : '',
  ]
    .filter((each) => each !== '')
    .join(' ');

/** What the registers of a unit tell. */
export interface Told {
  /** Numbers of inputs and of analog inputs. */
  readonly inputs: ReadonlySet<string>;
  readonly analogs: ReadonlySet<string>;
  readonly status: boolean;
  readonly hertz: boolean;
  readonly loop: boolean;
}

/** Whether what a unit tells is enough to judge this step; else a person types what he saw. */
export const canJudge = ({ stages }: ProofStep, told: Told): boolean =>
  stages.length > 0 &&
  stages.every(
    (stage, at) =>
      Object.keys(stage.inputs).every((each) => told.inputs.has(each)) &&
      (told.status || (!stage.runs && !stage.faulty)) &&
      (at === 0 || isSeen(stages[at - 1] as Stage, stage)) &&
      (!stage.settles || speedTold(stage.speed, told)),
  );

function speedTold(speed: Stage['speed'], { hertz, loop, analogs }: Told): boolean {
  if (speed === null) return true;
  if (speed.kind === 'loop') return loop;
  return hertz && (speed.kind === 'fixed' || analogs.has(speed.input));
}
