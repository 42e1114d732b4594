// The command logic of a unit, as its manual has it: what its terminals, keys, signals and supply make the motor do. One scan
// looks at everything once, in the order in which the manual ranks it.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { Manual } from './manual.ts';
import type { Settings } from './settings.ts';
import type { RampChoice } from './ramp.ts';
import { SpeedLogic, type SignalPlace } from './speed-logic.ts';

export interface Terminals {
  isClosed(terminal: string): boolean;
  isSafe(terminal: string): boolean;
  signalAt(terminal: string): { readonly kind: string; readonly value: number } | undefined;
}

export type Trip = string;

export interface Report {
  readonly powered: boolean;
  readonly runs: boolean;
  readonly reverse: boolean;
  readonly locked: boolean;
  readonly fault: Trip | null;
  readonly permitted: boolean;
  /** In Hz; nothing where it is not the set's to say. */
  readonly setpoint: number | undefined;
  /** Something is connected that the unit does not understand. */
  readonly misread: boolean;
  /** What moves the set-point where it is not a number that stands. */
  readonly moves: 'loop' | 'raise' | 'lower' | 'hold' | null;
  readonly ramp: RampChoice;
  readonly stop: 'ramp' | 'coast';
}

interface Input {
  readonly terminal: string;
  readonly job: string;
  readonly inverted: boolean;
}

const OFF: Report = {
  ...{ powered: false, runs: false, reverse: false, locked: false, fault: null, permitted: true },
  ...{ setpoint: 0, misread: false, moves: null, ramp: 'first', stop: 'coast' },
};

export class Firmware {
  private readonly manual: Manual;
  private readonly settings: Settings;
  private readonly digitals: readonly SignalPlace[];
  private readonly analogs: readonly SignalPlace[];
  private readonly safe: readonly string[];
  private powered = false;
  private trip: Trip | null = null;
  private hand = false;
  private keyedOn = false;
  /** Which way a button has started it. */
  private latched: 'no' | 'forward' | 'reverse' = 'no';
  /** A standing command counts. */
  private armed = true;
  private jogs = false;
  private turning: 'no' | 'forward' | 'reverse' = 'no';
  private pressed = new Set<string>();
  private stoppedBy: 'nothing' | 'sto' | 'coast' | 'quick-stop' = 'nothing';
  private triesLeft = true;
  private readonly speeds: SpeedLogic;
  report: Report = OFF;

  constructor(dictionary: Dictionary, settings: Settings) {
    this.settings = settings;
    this.manual = new Manual(dictionary, settings);
    const terminals = dictionary.terminals?.strips.flatMap((strip) => strip.terminals) ?? [];
    const numberOf = (code: string | null) =>
      /\d+/.exec(dictionary.parameters.find((each) => each.code === code)?.meaning ?? '')?.[0] ?? '';
    const numbered = (wanted: string): readonly SignalPlace[] =>
      terminals
        .filter(({ kind, setBy }) => kind === wanted && setBy !== null)
        .map(({ id, setBy }) => ({ terminal: id, number: numberOf(setBy) }));
    this.digitals = numbered('digital-input');
    this.analogs = numbered('analog-input');
    this.speeds = new SpeedLogic(this.manual, settings, this.analogs, () =>
      this.inputs.some(({ job }) => job === 'count'),
    );
    this.safe = terminals.filter(({ kind }) => kind === 'safe-input').map(({ id }) => id);
  }

  /** What each input is for now: a parameter may have been written since the last look. */
  private get inputs(): readonly Input[] {
    const { settings } = this;
    const warm = settings.choice('protect.sensor') === 'contact';
    return this.digitals.map(({ terminal, number }) => {
      if (warm && this.manual.rule('sensor.takes') === `input-${number}`)
        return { terminal, job: 'motor.warm', inverted: true };
      if (settings.choice(`input.${number}.owner`) === 'program')
        return { terminal, job: 'program', inverted: false };
      const job = settings.choice(`input.${number}.function`) ?? 'none';
      return { terminal, job, inverted: settings.choice(`input.${number}.sense`) === 'open' };
    });
  }

  switchSupply(on: boolean, terminals: Terminals): void {
    if (on === this.powered) return;
    this.powered = on;
    this.latched = 'no';
    this.keyedOn = false;
    this.jogs = false;
    this.turning = 'no';
    this.pressed = new Set();
    this.stoppedBy = 'nothing';
    this.speeds.remembered = new Map();
    this.triesLeft = true;
    if (!on) {
      if (this.manual.rule('fault.power-cycle') === 'clears') this.trip = null;
      if (this.manual.rule('raise.keep-supply') !== 'yes') this.speeds.raisedFresh = true;
      this.armed = true;
      this.report = OFF;
      return;
    }
    const place = this.manual.rule('power.hand');
    if (place === 'hand') this.hand = true;
    if (place === 'automatic') this.hand = false;
    // Buttons that are held when the supply comes have not been pressed.
    for (const job of this.jobsOn(terminals)) this.pressed.add(job);
    this.pressed.delete('fault-reset');
    this.armed = !(this.stands(this.pressed) && this.manual.rule('restart.power') === 'wait');
    this.scan(terminals);
  }

  fail(trip: Trip, terminals: Terminals): void {
    if (!this.powered) return;
    this.tripOn(trip);
    this.scan(terminals);
  }

  private tripOn(trip: Trip): void {
    this.trip ??= trip;
    this.latched = 'no';
    this.keyedOn = false;
  }

  press(key: 'run' | 'stop' | 'reset' | 'hand' | 'automatic', terminals: Terminals): void {
    if (!this.powered) return;
    const on = this.jobsOn(terminals);
    if (key === 'reset') this.resetTrip(on, terminals);
    if (key === 'run') this.keyedOn = this.commander(on) === 'source.keypad' && this.trip === null;
    if (key === 'stop') {
      this.keyedOn = false;
      if (this.commander(on) !== 'source.keypad' && this.manual.rule('stop-key') === 'always') {
        this.latched = 'no';
        if (this.manual.rule('restart.stop-key') === 'wait') this.armed = false;
      }
    }
    if (key === 'hand' || key === 'automatic') this.turnPlace(key === 'hand');
    this.scan(terminals);
  }

  private turnPlace(hand: boolean): void {
    const source = this.manual.rule('hand.source');
    const byInput = source === 'second' && this.inputs.some(({ job }) => job === 'place.second');
    if (source === undefined || byInput) return;
    if (this.hand !== hand) this.keyedOn = false;
    this.hand = hand;
  }

  /** Everything has had its time. */
  settle(terminals: Terminals): void {
    if (!this.powered) return;
    if (!this.report.runs) this.turning = 'no';
    if (this.trip === null) this.triesLeft = true;
    else this.tryAgain(terminals);
    this.scan(terminals);
    const on = this.jobsOn(terminals);
    if (this.report.runs && this.raises(on)) {
      this.speeds.raised = on.has('raise')
        ? this.settings.maximum
        : (this.settings.hertz('frequency.minimum') ?? 0);
      this.scan(terminals);
    }
  }

  private raises(on: ReadonlySet<string>): boolean {
    return this.speedSource(on) === 'source.raise-lower' && on.has('raise') !== on.has('lower');
  }

  private tryAgain(terminals: Terminals): void {
    if (this.manual.rule('restart.auto') === 'none' || !this.causeIsGone(this.jobsOn(terminals), terminals))
      return;
    const dip =
      this.trip === 'undervoltage' && this.settings.choice('protect.undervoltage') === 'coast-restart';
    const tries = this.settings.number('restart.count') ?? 0;
    const classes = this.manual.names('restart.on');
    const may = classes.includes('chosen')
      ? this.settings.choice(`restart.fault.${this.trip}`) === 'on'
      : classes.includes(this.trip ?? '');
    if (dip) this.trip = null;
    else if (may && tries > 0 && this.triesLeft) {
      this.trip = null;
      if (tries <= 1) this.triesLeft = false;
    }
  }

  private jobsOn(terminals: Terminals): Set<string> {
    const on = new Set<string>();
    for (const { terminal, job, inverted } of this.inputs)
      if (terminals.isClosed(terminal) !== inverted) on.add(job);
    return on;
  }

  private stands(on: ReadonlySet<string>): boolean {
    const source = this.commander(on) ?? '';
    if (!source.startsWith('source.terminals')) return false;
    if (this.manual.names('priority').includes('enable')) return on.has('enable');
    const wiring = this.settings.choice('command.wiring');
    if (wiring === 'three-wire') return false;
    return on.has('run.forward') || (wiring !== 'direction' && on.has('run.reverse'));
  }

  private second(on: ReadonlySet<string>): boolean {
    return on.has('place.second') || (this.hand && this.manual.rule('hand.source') === 'second');
  }

  private commander(on: ReadonlySet<string>): string | undefined {
    if (this.hand && this.manual.rule('hand.source') === 'keypad') return 'source.keypad';
    return this.settings.choice(this.second(on) ? 'command.source2' : 'command.source');
  }

  private speedSource(on: ReadonlySet<string>): string {
    if (this.hand && this.manual.rule('hand.source') === 'keypad') return 'source.keypad';
    const chosen = this.settings.choice(this.second(on) ? 'speed.source2' : 'speed.source');
    if (chosen !== undefined) return chosen;
    return this.settings.choice('analog.1.use') === 'speed' ? 'source.analog.1' : 'source.network';
  }

  private resetTrip(on: ReadonlySet<string>, terminals: Terminals): void {
    if (this.trip === null || !this.causeIsGone(on, terminals)) return;
    this.trip = null;
    this.triesLeft = true;
    if (this.manual.rule('restart.fault-reset') === 'wait') this.armed = false;
  }

  private causeIsGone(on: ReadonlySet<string>, terminals: Terminals): boolean {
    if (this.trip === 'external') return !on.has('external-fault');
    if (this.trip === 'motor-warm') return !on.has('motor.warm');
    if (this.trip === 'dry') return !on.has('pump.dry');
    if (this.trip === 'sto') return this.safe.every((each) => terminals.isSafe(each));
    if (this.trip === 'signalLost') return !this.losesByFault(on, terminals);
    return true;
  }

  scan(terminals: Terminals): void {
    if (!this.powered) return;
    this.speeds.misread = false;
    const on = this.jobsOn(terminals);
    if (on.has('fault-reset') && !this.pressed.has('fault-reset')) this.resetTrip(on, terminals);
    this.watch(on, terminals);
    const open = this.safe.some((each) => !terminals.isSafe(each));
    const stop = open ? 'sto' : on.has('coast') ? 'coast' : on.has('quick-stop') ? 'quick-stop' : 'nothing';
    if (this.stoppedBy !== 'nothing' && stop === 'nothing' && this.stands(on)) {
      if (this.manual.rule(`restart.${this.stoppedBy}`) === 'wait') this.armed = false;
    }
    const wasStopped = this.stoppedBy !== 'nothing';
    this.stoppedBy = stop;
    if (stop !== 'nothing') {
      this.latched = 'no';
      this.keyedOn = false;
    }
    if (!this.stands(on)) this.armed = true;
    const way = this.wanted(on, wasStopped);
    this.decide(on, terminals, way, open);
    this.pressed = on;
  }

  /** Trips that inputs bring about. */
  private watch(on: ReadonlySet<string>, terminals: Terminals): void {
    if (on.has('external-fault')) this.tripOn('external');
    const action = this.settings.choice('protect.sensorAction') ?? 'fault';
    if (on.has('motor.warm') && this.settings.choice('protect.sensor') === 'contact' && action === 'fault')
      this.tripOn('motor-warm');
    if (on.has('pump.dry') && this.settings.choice('pump.dryAction') === 'fault') this.tripOn('dry');
    if (this.manual.rule('sto.seen') === 'fault' && this.safe.some((each) => !terminals.isSafe(each)))
      this.tripOn('sto');
    if (this.losesByFault(on, terminals)) this.tripOn('signalLost');
  }

  private losesByFault(on: ReadonlySet<string>, terminals: Terminals): boolean {
    return this.analogs.some(
      ({ number, terminal }) =>
        this.settings.choice(`analog.${number}.loss`) === 'fault' &&
        this.uses(number, on) &&
        this.speeds.isLost(number, terminals.signalAt(terminal)?.value ?? 0),
    );
  }

  private uses(number: string, on: ReadonlySet<string>): boolean {
    const loop = this.settings.choice('loop.mode') ?? 'off';
    if (loop !== 'off' && this.settings.choice('loop.feedback') === `analog-${number}`) return true;
    if (this.settings.choice('trim.source') === `analog-${number}`) return true;
    return this.speedSource(on) === `source.analog.${number}`;
  }

  /** Which way it is told to run, by whoever commands. */
  private wanted(
    on: ReadonlySet<string>,
    wasStopped: boolean,
  ): { way: 'no' | 'forward' | 'reverse'; jogs: boolean } {
    const source = this.commander(on) ?? '';
    const ours = source.startsWith('source.terminals');
    const way = ours
      ? this.fromContacts(on, wasStopped)
      : source === 'source.keypad' && this.keyedOn
        ? 'forward'
        : 'no';
    return this.jogged(on, way, ours) ?? { way, jogs: false };
  }

  private fromContacts(on: ReadonlySet<string>, wasStopped: boolean): 'no' | 'forward' | 'reverse' {
    if (this.manual.names('priority').includes('enable')) {
      if (!on.has('enable') || !this.armed) return 'no';
      return this.meetsLimit(on, 'forward') ? 'no' : 'forward';
    }
    const wiring = this.settings.choice('command.wiring');
    if (wiring === 'three-wire') return this.fromButtons(on, wasStopped);
    if (!this.armed && this.stands(on)) return 'no';
    if (wiring === 'direction') {
      if (!on.has('run.forward')) return 'no';
      return this.allowed(on.has('direction') ? 'reverse' : 'forward');
    }
    return this.fromTwoContacts(on);
  }

  private fromTwoContacts(on: ReadonlySet<string>): 'no' | 'forward' | 'reverse' {
    const may = this.settings.choice('direction.allowed') ?? 'both';
    const ignores = this.manual.rule('reverse.forbidden') === 'ignore';
    const seen = (way: 'forward' | 'reverse') =>
      on.has(`run.${way}`) && (may === 'both' || may === way || !ignores);
    const [ahead, back] = [seen('forward'), seen('reverse')];
    let way: 'no' | 'forward' | 'reverse' = ahead ? 'forward' : back ? 'reverse' : 'no';
    if (ahead && back) {
      const rule = this.manual.rule('run.both');
      if (rule === 'stop') return 'no';
      const [was, wasBack] = [this.pressed.has('run.forward'), this.pressed.has('run.reverse')];
      const backFirst = (wasBack && !was) || (was && wasBack && this.turning === 'reverse');
      way = rule === 'first' && backFirst ? 'reverse' : 'forward';
    }
    return way !== 'no' && may !== 'both' && may !== way ? 'no' : way;
  }

  private fromButtons(on: ReadonlySet<string>, wasStopped: boolean): 'no' | 'forward' | 'reverse' {
    if (on.has('stop') !== (this.manual.rule('stop.input') === 'needs-on')) {
      this.latched = 'no';
      return 'no';
    }
    const fresh = (job: string) => on.has(job) && !this.pressed.has(job);
    if (!wasStopped && this.trip === null) {
      if (fresh('run.forward')) this.latched = 'forward';
      if (fresh('run.reverse')) this.latched = 'reverse';
    }
    if (this.latched === 'no' || this.trip !== null) return 'no';
    const turned = on.has('direction') && this.manual.rule('three-wire.direction') === 'acts';
    return this.allowed(turned ? 'reverse' : this.latched);
  }

  private allowed(way: 'forward' | 'reverse'): 'no' | 'forward' | 'reverse' {
    const may = this.settings.choice('direction.allowed') ?? 'both';
    if (may === 'both' || may === way) return way;
    if (this.manual.rule('reverse.forbidden') !== 'ignore') return 'no';
    return way === 'forward' ? 'reverse' : 'forward';
  }

  private meetsLimit(on: ReadonlySet<string>, way: 'forward' | 'reverse'): boolean {
    const [end, begin] = [on.has('limit.positive'), on.has('limit.negative')];
    return (end && begin) || (way === 'forward' ? end : begin);
  }

  private jogged(
    on: ReadonlySet<string>,
    way: 'no' | 'forward' | 'reverse',
    ours: boolean,
  ): { way: 'no' | 'forward' | 'reverse'; jogs: boolean } | undefined {
    const [ahead, back] = [on.has('jog'), on.has('jog.reverse')];
    if ((!ahead && !back) || this.hand) return undefined;
    if (!ours && this.manual.names('source.dead').includes('jog')) return undefined;
    switch (this.manual.rule('jog.starts')) {
      case 'itself-enabled': {
        if (way === 'no' && !on.has('enable')) return undefined;
        if ((this.settings.choice('axis.mode') ?? '').startsWith('cyclic')) return undefined;
        if (ahead && back) return { way: 'no', jogs: false };
        const to = ahead ? 'forward' : 'reverse';
        return { way: this.meetsLimit(on, to) ? 'no' : to, jogs: true };
      }
      case 'with-run':
        return way === 'no' ? undefined : { way, jogs: true };
      default: {
        const moving = this.turning !== 'no' && !this.jogs;
        if (moving && this.manual.rule('jog.while-running') === 'ignore') return undefined;
        return { way: moving && way !== 'no' ? way : 'forward', jogs: true };
      }
    }
  }

  private decide(
    on: ReadonlySet<string>,
    terminals: Terminals,
    { way, jogs }: { way: 'no' | 'forward' | 'reverse'; jogs: boolean },
    open: boolean,
  ): void {
    const fire = on.has('fire') && this.manual.rule('fire') !== undefined;
    const permitted =
      (this.settings.choice('permit.mode') ?? 'off') === 'off' || on.has('permit') || way === 'no';
    const held =
      open || (!fire && (this.trip !== null || on.has('coast') || on.has('quick-stop') || !permitted));
    if (held || (way === 'no' && !fire)) {
      this.jogs = false;
      if (this.manual.rule('raise.keep-stop') === 'no') this.speeds.raisedFresh = true;
      const stands = { runs: false, reverse: false, setpoint: 0, misread: this.speeds.misread, moves: null };
      const rest = { ramp: this.rampFor(on, 'stops'), stop: this.stopFor(on, open) };
      this.report = { ...stands, ...rest, powered: true, locked: open, fault: this.trip, permitted };
      return;
    }
    this.jogs = jogs && !fire;
    const source = this.speedSource(on);
    this.speeds.raise(on, this.pressed, source);
    const asked = this.speeds.speed(on, terminals, source, fire ? 'fire' : this.jogs ? 'jog' : 'none');
    const ahead = fire || way === 'no' ? 'forward' : way;
    const { speed, turns } = this.signed(asked, ahead);
    this.turning = turns;
    const setpoint = speed === undefined ? undefined : this.speeds.within(speed, this.jogs);
    const fault = fire ? null : this.trip;
    const now = { runs: true, reverse: turns === 'reverse', setpoint, misread: this.speeds.misread };
    const how = {
      ramp: this.rampFor(on, 'runs'),
      stop: this.stopFor(on, false),
      moves: this.moves(on, source, setpoint),
    };
    this.report = { ...now, ...how, powered: true, locked: false, fault, permitted: true };
  }

  private moves(on: ReadonlySet<string>, source: string, setpoint: number | undefined): Report['moves'] {
    if (setpoint !== undefined && !this.raises(on)) return null;
    if (this.speeds.loops(on, source)) return 'loop';
    if (source !== 'source.raise-lower') return null;
    if (on.has('raise') === on.has('lower')) return 'hold';
    return on.has('raise') ? 'raise' : 'lower';
  }

  private rampFor(on: ReadonlySet<string>, what: 'runs' | 'stops'): RampChoice {
    if (what === 'stops' && on.has('quick-stop')) return 'quick';
    if (what === 'stops' && this.trip === 'external') return 'quick';
    if (this.jogs) return 'jog';
    return on.has('ramps.second') ? 'second' : 'first';
  }

  private stopFor(on: ReadonlySet<string>, open: boolean): 'ramp' | 'coast' {
    if (open || on.has('coast')) return 'coast';
    if (this.trip === 'external')
      return (this.manual.rule('external.stop') ?? 'coast') === 'coast' ? 'coast' : 'ramp';
    if (this.trip !== null) return 'coast';
    if (on.has('quick-stop')) return 'ramp';
    return (this.settings.choice('stop.mode') ?? 'ramp').startsWith('coast') ? 'coast' : 'ramp';
  }

  /** Where the shaft has come to while somebody raises or lowers; it stays there. */
  raisedTo(hertz: number, terminals: Terminals): void {
    this.speeds.raised = hertz;
    this.scan(terminals);
  }

  /** The pause before an automatic restart is over. */
  retry(terminals: Terminals): void {
    if (!this.powered || this.trip === null) return;
    this.tryAgain(terminals);
    this.scan(terminals);
  }

  /** Which inputs are on as the unit sees them, by number. */
  inputsOn(terminals: Terminals): ReadonlySet<string> {
    return new Set(
      this.digitals.filter(({ terminal }) => terminals.isClosed(terminal)).map(({ number }) => number),
    );
  }

  /** Whether an input that is on asks for this. */
  asks = (job: string, terminals: Terminals): boolean => this.jobsOn(terminals).has(job);

  /** What an analog input takes in, as a share of its range. */
  analogShare(number: string, terminals: Terminals): number {
    return this.speeds.shareSeen(number, terminals);
  }

  private signed(
    speed: number | undefined,
    way: 'forward' | 'reverse',
  ): { speed: number | undefined; turns: 'forward' | 'reverse' } {
    if (speed === undefined || speed >= 0) return { speed, turns: way };
    const other = way === 'forward' ? 'reverse' : 'forward';
    const may = this.settings.choice('direction.allowed') ?? 'both';
    if (this.manual.rule('setpoint.negative') === 'reverses' && (may === 'both' || may === other))
      return { speed: -speed, turns: other };
    return { speed: 0, turns: way };
  }
}
