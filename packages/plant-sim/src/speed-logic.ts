// Where a unit takes its speed from, and how it weighs and limits it.

import type { Terminals } from './firmware.ts';
import type { Manual } from './manual.ts';
import type { Settings } from './settings.ts';

/** What the inputs that are on are for. */
export type Jobs = ReadonlySet<string>;

export interface SignalPlace {
  readonly terminal: string;
  readonly number: string;
}

const ENDS: Readonly<Record<string, readonly [number, number]>> = {
  '0-10-v': [0, 10],
  '2-10-v': [2, 10],
  '0-20-ma': [0, 20],
  '4-20-ma': [4, 20],
  'bipolar-10-v': [-10, 10],
};

export class SpeedLogic {
  /** Something is connected that the unit does not understand. */
  misread = false;
  /** Last speeds of signals, for the time when they are lost. */
  remembered = new Map<string, number>();
  /** Raised speed in Hz; nothing while it is on its way. */
  raised: number | undefined = 0;
  raisedFresh = true;
  private readonly manual: Manual;
  private readonly settings: Settings;
  private readonly analogs: readonly SignalPlace[];
  private readonly counting: () => boolean;

  constructor(manual: Manual, settings: Settings, analogs: readonly SignalPlace[], counting: () => boolean) {
    this.manual = manual;
    this.settings = settings;
    this.analogs = analogs;
    this.counting = counting;
  }

  raise(on: Jobs, pressed: Jobs, source: string): void {
    if (source !== 'source.raise-lower') return;
    const minimum = this.settings.hertz('frequency.minimum') ?? 0;
    if (this.raisedFresh) this.raised = minimum;
    this.raisedFresh = false;
    if (on.has('raise') === on.has('lower')) return;
    const end = on.has('raise') ? this.settings.maximum : minimum;
    if (this.raised !== end || on.has('raise') !== pressed.has('raise'))
      this.raised = this.raised === end ? end : undefined;
  }

  speed(on: Jobs, terminals: Terminals, source: string, over: 'fire' | 'jog' | 'none'): number | undefined {
    const loop = this.loopRuns(on, source);
    const yields = this.manual.names('loop.yields-to');
    if (over === 'fire' && (!loop || yields.includes('fire'))) return this.settings.hertz('fire.speed');
    if (over === 'jog' && (!loop || yields.includes('jog'))) return this.settings.hertz('jog.speed');
    if (loop) return undefined;
    const { value, kind } = this.fromSource(on, terminals, this.past(on, source));
    return value === undefined ? undefined : this.weigh(value, kind, terminals);
  }

  /** Whether a control loop gives the speed now. */
  loops = (on: Jobs, source: string): boolean => this.loopRuns(on, source);

  /** What is measured at an input, from 0 to 1, of whatever kind the sender is. */
  shareSeen(number: string, terminals: Terminals): number {
    const at = this.analogs.find((each) => each.number === number);
    const [low, high] = ENDS[this.settings.choice(`analog.${number}.signal`) ?? ''] ?? [0, 0];
    if (!at || low === high) return 0;
    return Math.min(1.1, Math.max(0, ((terminals.signalAt(at.terminal)?.value ?? 0) - low) / (high - low)));
  }

  private loopRuns(on: Jobs, source: string): boolean {
    if ((this.settings.choice('loop.mode') ?? 'off') === 'off' || on.has('loop.off')) return false;
    if (this.manual.rule('loop.engages') === 'mode-and-source' && source !== 'source.loop') return false;
    const presets = [...on].some((job) => job.startsWith('preset.'));
    return !(presets && this.manual.names('loop.yields-to').includes('presets'));
  }

  /** The source in the place of a loop that an input has put off. */
  private past(on: Jobs, source: string): string {
    const off = on.has('loop.off') && (this.settings.choice('loop.mode') ?? 'off') !== 'off';
    if (!off || !(this.manual.rule('loop.engages') === 'mode' || source === 'source.loop')) return source;
    return this.manual.rule('loop.off-source') === 'second'
      ? (this.settings.choice('speed.source2') ?? source)
      : source;
  }

  private fromSource(
    on: Jobs,
    terminals: Terminals,
    source: string,
  ): { value: number | undefined; kind: string } {
    const chosen = this.presetChosen(on);
    const presets = source === 'source.presets';
    if (chosen !== undefined && (presets || this.manual.rule('preset.acts') === 'any-on'))
      return { value: this.preset(chosen), kind: 'presets' };
    if (presets) {
      if (this.manual.rule('preset.none') === 'minimum')
        return { value: this.settings.hertz('frequency.minimum'), kind: 'presets' };
      return { value: this.preset(1), kind: 'presets' };
    }
    if (source === 'source.keypad') return { value: this.settings.hertz('speed.keypad'), kind: 'keypad' };
    if (source === 'source.raise-lower') return { value: this.raised, kind: 'raise-lower' };
    if (source === 'source.loop') return { value: 0, kind: 'none' };
    const number = /analog\.(\d)/.exec(source)?.[1];
    if (number === undefined) return { value: undefined, kind: 'network' };
    return { value: this.fromSignal(number, terminals), kind: 'analog' };
  }

  private presetChosen(on: Jobs): number | undefined {
    const each = this.manual.rule('preset.select') === 'each';
    let found: number | undefined;
    for (const job of on) {
      const one = /^preset\.(\d)$/.exec(job)?.[1];
      const bit = /^preset\.bit\.([0-2])$/.exec(job)?.[1];
      if (each && one !== undefined) found = Math.max(found ?? 0, Number(one));
      if (!each && bit !== undefined) found = (found ?? 1) + (1 << Number(bit));
    }
    return found;
  }

  private preset(number: number): number | undefined {
    return this.settings.hertz(`preset.${number}`) ?? this.settings.hertz(`preset.contact.${number}`);
  }

  /** The share of a signal, or nothing where the sender and the input are of different kinds. */
  private share(number: string, terminals: Terminals): number | undefined {
    const at = this.analogs.find((each) => each.number === number);
    const kind = this.settings.choice(`analog.${number}.signal`) ?? '';
    const [low, high] = ENDS[kind] ?? [0, 0];
    const sent = at && terminals.signalAt(at.terminal);
    if (low === high || (sent && sent.kind.endsWith('ma') !== kind.endsWith('ma'))) {
      this.misread = true;
      return undefined;
    }
    return Math.min(1, Math.max(0, ((sent?.value ?? 0) - low) / (high - low)));
  }

  private fromSignal(number: string, terminals: Terminals): number | undefined {
    if (this.counts(number)) return undefined;
    const at = this.analogs.find((each) => each.number === number);
    const loss = this.settings.choice(`analog.${number}.loss`) ?? 'ignore';
    if (at && loss !== 'ignore' && this.isLost(number, terminals.signalAt(at.terminal)?.value ?? 0)) {
      if (loss === 'preset-1') return this.preset(1);
      return this.remembered.get(number) ?? this.settings.hertz('frequency.minimum') ?? 0;
    }
    const share = this.share(number, terminals);
    if (share === undefined) return undefined;
    const value = this.settings.analog(number, share);
    if (value === undefined) this.misread = true;
    else this.remembered.set(number, value);
    return value;
  }

  private counts(number: string): boolean {
    return this.counting() && this.manual.rule('count.feeds') === `analog-${number}`;
  }

  private weigh(value: number, kind: string, terminals: Terminals): number | undefined {
    let speed = value;
    if (this.manual.names('factor.on').includes(kind))
      speed *= (this.settings.number('speed.factor') ?? 100) / 100;
    const from = /\d/.exec(this.settings.choice('trim.source') ?? '')?.[0];
    if (from === undefined || !this.manual.names('trim.on').includes(kind)) return speed;
    const share = this.share(from, terminals);
    return share === undefined ? undefined : speed + this.settings.trim(share);
  }

  within(speed: number, jogging: boolean): number {
    const minimum = this.settings.hertz('frequency.minimum') ?? 0;
    if (speed < minimum && (!jogging || this.manual.rule('minimum.lifts') === 'all')) return minimum;
    if (speed > this.settings.maximum) return this.settings.maximum;
    const band = this.settings.skips.find(([from, to]) => speed > from && speed <= to);
    return band ? Math.max(0, band[0]) : speed;
  }
  isLost(number: string, value: number): boolean {
    const kind = this.settings.choice(`analog.${number}.signal`);
    if (kind !== '4-20-ma' && kind !== '2-10-v') return false;
    const below = this.manual.rule('loss.below');
    if (below === '2-ma') return value < 2;
    if (below === '3-ma') return value < 3;
    return value < (kind === '2-10-v' ? 1 : 2);
  }
}
