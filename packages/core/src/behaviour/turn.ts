// One look of the drive at its contacts: what is asked for, what of it counts by the rules of the model, and what comes of
// it. Whatever goes before runs first, in the order that the model states.

import type { Answer, RuleName } from '../dictionary/index.ts';
import { meaningOf } from '../values/index.ts';
import type { Circuit } from './circuit.ts';
import { commandOf, isStanding, type Command } from './command.ts';
import type { DigitalInput, Machine } from './machine.ts';
import type { Ignored, Missing, Need, Outcome, OutcomeKind, Reason, SetPoint, StopWay } from './outcome.ts';
import { outputsOf } from './outputs.ts';
import {
  askedSpeed,
  holdsSpeed,
  isLost,
  limited,
  loopRuns,
  weighted,
  type Asked,
  type Speeds,
} from './set-point.ts';
import { AT_REST, EDGES, type Direction, type Event, type Fault, type State } from './state.ts';
import type { Stepped } from './step.ts';

/** How a drive stands that does not run. */
interface Halt {
  readonly kind: Exclude<OutcomeKind, 'runs'>;
  readonly stops: StopWay;
  readonly needs?: readonly Need[];
}

export type Draft = { -readonly [K in keyof State]: State[K] };

export class Turn {
  readonly machine: Machine;
  readonly before: State;
  readonly draft: Draft;
  readonly circuit: Circuit;
  readonly event: Event | undefined;
  /** Without it nothing is looked at that only reasons want. */
  readonly explains: boolean;
  readonly reasons: Reason[] = [];
  readonly ignored: Ignored[] = [];
  readonly missing: Missing[] = [];

  constructor(machine: Machine, state: State, circuit: Circuit, event: Event | undefined, explains = true) {
    this.machine = machine;
    this.before = state;
    this.draft = { ...state };
    this.circuit = circuit;
    this.event = event;
    this.explains = explains;
  }

  take(): Stepped {
    if (!this.draft.supply) return this.off();
    this.readInputs();
    if (this.event?.kind === 'supply') this.startUp();
    this.operate();
    this.noteFaults();
    this.noteLosses();
    this.takeWaits(isStanding(this));
    this.notePlace();
    const command = commandOf(this);
    const halt = this.halts(command);
    return halt ? this.stand(halt) : this.run(command);
  }

  /** The input that is on and does this; where the model wants both of two, neither counts alone. */
  private inputThat(does: string): DigitalInput | undefined {
    const inputs = this.machine.byFunction.get(does);
    if (!inputs) return undefined;
    const both = inputs.length > 1 && this.machine.rules.answer('function.twice') === 'both';
    return both && inputs.some(this.isOff) ? undefined : inputs.find((each) => !this.isOff(each));
  }

  has = (does: string): boolean => this.inputThat(does) !== undefined;

  choice = (name: string): string | undefined => this.machine.set.choice(meaningOf(name));

  /** The answer to a rule that is needed now; its lack is told. */
  rule<R extends RuleName>(name: R): Answer<R> | undefined {
    const answer = this.machine.rules.answer(name);
    if (answer === undefined) this.missing.push({ kind: 'rule', rule: name });
    return answer;
  }

  ignore(does: string, why: Ignored['why']): void {
    const input = this.explains ? this.inputThat(does) : undefined;
    if (input) this.ignored.push({ does, terminal: input.terminal, why });
  }

  /** Puts the input into the chain of reasons. */
  because(does: string): void {
    const input = this.explains ? this.inputThat(does) : undefined;
    if (!input) return;
    const { terminal, code, opens } = input;
    const devices = this.machine.devicesAt.get(terminal) ?? [];
    this.reasons.push({ code: 'input', terminal, does, closed: !opens, devices, set: code });
  }

  private off(): Stepped {
    const { devices, broken, pulled, hand, raised } = this.draft;
    const keeps = this.machine.rules.answer('raise.keep-supply') === 'yes';
    const clears = this.machine.rules.answer('fault.power-cycle') !== 'keeps';
    const state: State = {
      ...AT_REST,
      ...{ devices, broken, pulled, hand },
      raised: keeps ? raised : 'start',
      fault: clears ? null : this.draft.fault,
    };
    const outputs = Object.fromEntries(this.machine.outputs.map(({ number }) => [number, false]));
    return { state, outcome: this.outcome({ kind: 'no-supply', stops: 'coast' }, state, outputs) };
  }

  private readInputs(): void {
    for (const input of this.machine.byFunction.get(undefined) ?? [])
      if (!this.isOff(input)) this.missing.push({ kind: 'value', what: `input.${input.number}.function` });
    this.draft.on = EDGES.filter(this.has);
  }

  private isOff = ({ terminal, opens }: DigitalInput): boolean => this.circuit.closed.has(terminal) === opens;

  /** What is decided once, when the supply comes. */
  private startUp(): void {
    const { draft } = this;
    const place = this.machine.rules.answer('power.hand');
    if (place === 'hand') draft.hand = true;
    if (place === 'automatic') draft.hand = false;
  }

  /** Keys, faults and time. */
  private operate(): void {
    const { event, draft } = this;
    if (event?.kind === 'fault') this.fail(event.of);
    if (event?.kind === 'key') this.press(event.key);
    if (event?.kind === 'settle') {
      // What was on its way to rest is there; a restart waits longer than that.
      if (!draft.runs) draft.motion = 'rest';
      draft.settled = true;
      this.restartByItself();
    }
    const edge = this.has('fault-reset') && !this.before.on.includes('fault-reset');
    if (edge || (this.has('fault-reset') && this.machine.rules.answer('fault.reset') === 'level'))
      this.reset();
  }

  private press(key: (Event & { kind: 'key' })['key']): void {
    const { draft } = this;
    // Where an input has hand, the key does nothing.
    const byInput =
      this.machine.rules.answer('hand.source') === 'second' &&
      this.machine.inputs.some(({ does }) => does === 'place.second');
    switch (key) {
      case 'hand':
      case 'automatic':
        if (this.machine.rules.answer('hand.source') === undefined || byInput) return;
        if (draft.hand !== (key === 'hand')) draft.keyed = false;
        draft.hand = key === 'hand';
        return;
      case 'run':
        draft.keyed = this.commandSource() === 'source.keypad' && draft.fault === null;
        return;
      case 'stop':
        this.pressStop();
        return;
      case 'reset':
        this.reset();
    }
  }

  private pressStop(): void {
    const { draft } = this;
    draft.keyed = false;
    if (this.commandSource() === 'source.keypad' || this.rule('stop-key') !== 'always') return;
    draft.latch = null;
    if (this.rule('restart.stop-key') === 'wait') draft.waits = true;
  }

  /** Where commands come from now. */
  commandSource(): string | undefined {
    const hand = this.machine.rules.answer('hand.source');
    if (this.draft.hand && hand === 'keypad') return 'source.keypad';
    return this.choice(this.inSecond() ? 'command.source2' : 'command.source');
  }

  speedSource(): string | undefined {
    if (this.draft.hand && this.machine.rules.answer('hand.source') === 'keypad') return 'source.keypad';
    const source = this.choice(this.inSecond() ? 'speed.source2' : 'speed.source');
    // A servo axis has no choice of sources: its analog input gives the speed, or the network does.
    if (source !== undefined) return source;
    return this.choice('analog.1.use') === 'speed' ? 'source.analog.1' : 'source.network';
  }

  private inSecond(): boolean {
    const byKey = this.draft.hand && this.machine.rules.answer('hand.source') === 'second';
    return this.has('place.second') || byKey;
  }

  private fail(fault: Fault): void {
    const { draft } = this;
    draft.fault ??= fault;
    draft.latch = null;
    draft.keyed = false;
  }

  private noteFaults(): void {
    if (this.has('external-fault')) this.fail('external');
    const sensor = this.choice('protect.sensor') === 'contact';
    if (this.has('motor.warm') && sensor && (this.choice('protect.sensorAction') ?? 'fault') === 'fault')
      this.fail('motor-warm');
    if (this.has('pump.dry') && this.choice('pump.dryAction') === 'fault') this.fail('dry');
    if (this.safeOpen().length > 0 && this.machine.rules.answer('sto.seen') === 'fault') this.fail('sto');
    for (const input of this.machine.analogs)
      if (input.loss === 'fault' && this.inUse(input.number) && isLost(this.speeds(), input))
        this.fail('signalLost');
  }

  /** The loss of a signal that does not come back by itself. */
  private noteLosses(): void {
    if (this.machine.rules.answer('loss.return') !== 'latched') return;
    const lost = this.machine.analogs.filter(
      (input) => input.loss !== 'ignore' && this.inUse(input.number) && isLost(this.speeds(), input),
    );
    this.draft.lost = [...new Set([...this.draft.lost, ...lost.map(({ number }) => number)])].sort();
  }

  private inUse(number: string): boolean {
    const feedback =
      (this.choice('loop.mode') ?? 'off') !== 'off' && this.choice('loop.feedback') === `analog-${number}`;
    const trim = this.choice('trim.source') === `analog-${number}`;
    return feedback || trim || this.speedSource() === `source.analog.${number}`;
  }

  private safeOpen(): readonly string[] {
    return this.machine.safeInputs.filter((id) => !this.circuit.safe.has(id));
  }

  /** Whether what caused the fault is gone. */
  private causeGone(): boolean {
    switch (this.draft.fault) {
      case 'external':
        return !this.has('external-fault');
      case 'motor-warm':
        return !this.has('motor.warm');
      case 'dry':
        return !this.has('pump.dry');
      case 'sto':
        return this.safeOpen().length === 0;
      case 'signalLost':
        return this.machine.analogs.every(
          (input) => input.loss !== 'fault' || !this.inUse(input.number) || !isLost(this.speeds(), input),
        );
      default:
        return true;
    }
  }

  private reset(): void {
    const { draft } = this;
    draft.lost = [];
    if (draft.fault === null || !this.causeGone()) return;
    draft.fault = null;
    draft.restarts = 'left';
    if (this.rule('restart.fault-reset') === 'wait') draft.waits = true;
  }

  private restartByItself(): void {
    const { draft, machine } = this;
    if (draft.fault === null) {
      draft.restarts = 'left';
      return;
    }
    if (machine.rules.answer('restart.auto') === 'none') return;
    const { fault } = draft;
    const count = machine.set.get(meaningOf('restart.count'));
    const counted = count.kind === 'number' && count.value > 0 && draft.restarts === 'left';
    const classes: readonly string[] = machine.rules.list('restart.on');
    const chosen = classes.includes('chosen')
      ? this.choice(`restart.fault.${fault}`) === 'on'
      : classes.includes(fault);
    const dip = fault === 'undervoltage' && this.choice('protect.undervoltage') === 'coast-restart';
    if (!(dip || (counted && chosen)) || !this.causeGone()) return;
    draft.fault = null;
    if (!dip && count.kind === 'number' && count.value <= 1) draft.restarts = 'none';
  }

  /** A command that stood through something after which it has to be given anew. */
  private takeWaits(standing: boolean): void {
    const { draft, event } = this;
    if (event?.kind === 'supply' && standing && this.rule('restart.power') === 'wait') draft.waits = true;
    if (draft.stopping !== null && this.stoppingNow() === null) {
      const rule = {
        sto: 'restart.sto',
        coast: 'restart.coast',
        'quick-stop': 'restart.quick-stop',
      } as const;
      if (standing && this.rule(rule[draft.stopping]) === 'wait') draft.waits = true;
    }
    draft.stopping = this.stoppingNow();
    if (draft.stopping !== null) {
      draft.latch = null;
      draft.keyed = false;
    }
    if (!standing) draft.waits = false;
  }

  /** Another place of command while it runs. */
  private notePlace(): void {
    const { draft, before } = this;
    const place = this.inSecond() ? 'second' : draft.hand ? 'hand' : 'first';
    if (place !== before.place && before.motion !== 'rest' && this.rule('place.change') === 'stops')
      draft.waits = true;
    draft.place = place;
  }

  private stoppingNow(): State['stopping'] {
    if (this.safeOpen().length > 0) return 'sto';
    if (this.has('coast')) return 'coast';
    return this.has('quick-stop') ? 'quick-stop' : null;
  }

  /** What keeps it from running, the first in the order of the model. */
  private halts(command: Command): Halt | undefined {
    const found = new Map<Answer<'priority'>, Halt>();
    const open = this.safeOpen();
    if (open.length > 0) found.set('sto', { kind: 'locked', stops: 'torque-off', needs: ['cause'] });
    if (this.draft.fault !== null) found.set('fault', this.faultHalt());
    if (this.has('coast')) found.set('coast', { kind: 'stopped', stops: 'coast', needs: ['cause'] });
    if (this.has('quick-stop'))
      found.set('quick-stop', { kind: 'stopped', stops: 'quick-stop', needs: ['cause', 'release'] });
    if (command.direction !== null && this.lacksPermit())
      found.set('permit', { kind: 'not-permitted', stops: this.stopMode(), needs: ['cause'] });
    if (this.has('fire') && this.machine.rules.answer('fire') !== undefined) {
      for (const each of found.keys()) if (this.machine.rules.before('fire', each)) found.delete(each);
      if (found.size === 0) return undefined;
    }
    const order = this.machine.rules.list('priority');
    const first = order.find((each) => found.has(each));
    // A model that does not rank what holds it says nothing of whether it runs.
    if (first === undefined && found.size > 0) this.missing.push({ kind: 'rule', rule: 'priority' });
    if (first !== undefined) {
      this.haltReason(first, open);
      return found.get(first);
    }
    return this.idles(command);
  }

  private haltReason(which: Answer<'priority'>, open: readonly string[]): void {
    if (which === 'sto') this.reasons.push({ code: 'safe-open', terminals: open });
    if (which === 'fault' && this.draft.fault !== null) {
      for (const does of ['external-fault', 'motor.warm', 'pump.dry']) this.because(does);
      this.reasons.push({ code: 'fault', fault: this.draft.fault });
    }
    if (which === 'coast' || which === 'quick-stop') this.because(which);
    if (which === 'permit') this.reasons.push({ code: 'no-permit' });
  }

  private faultHalt(): Halt {
    const { fault } = this.draft;
    const way = fault === 'external' ? this.machine.rules.answer('external.stop') : 'coast';
    return { kind: 'fault', stops: way ?? 'coast', needs: this.causeGone() ? ['reset'] : ['cause', 'reset'] };
  }

  private lacksPermit(): boolean {
    if ((this.choice('permit.mode') ?? 'off') === 'off' || this.has('permit')) return false;
    return this.rule('permit.drop') !== undefined;
  }

  private stopMode(): StopWay {
    const mode = this.choice('stop.mode');
    return mode === 'coast' || mode === 'ramp-dc' ? mode : 'ramp';
  }

  private idles({ direction, needs, stops }: Command): Halt | undefined {
    if (direction !== null) return undefined;
    return { kind: 'stopped', stops: stops ?? this.stopMode(), needs };
  }

  private stand(halt: Halt): Stepped {
    const { draft } = this;
    draft.jogging = false;
    draft.runs = false;
    draft.settled = draft.motion === 'rest';
    if (this.machine.rules.answer('raise.keep-stop') === 'no') draft.raised = 'start';
    if (this.machine.rules.answer('raise.acts') === 'always') this.moveRaised();
    return this.end(halt, null, null, null);
  }

  private run(command: Command): Stepped {
    const { draft } = this;
    const fire = this.has('fire') && this.machine.rules.answer('fire') !== undefined;
    if (fire) this.because('fire');
    draft.runs = true;
    draft.jogging = command.jogs;
    this.moveRaised();
    const asked = this.asked(command, fire);
    if (asked.hertz === 0 && this.machine.rules.answer('setpoint.zero') === 'stands')
      return this.stand({ kind: 'stopped', stops: this.stopMode() });
    const wanted: Direction = fire ? 'forward' : (command.direction ?? 'forward');
    const { setPoint, direction } = this.directed(asked, wanted);
    const changed = draft.motion !== direction;
    if (this.event?.kind !== 'settle' && changed) draft.settled = false;
    draft.motion = direction;
    this.hold(asked);
    const ramps = command.jogs && this.machine.set.carrierOf(meaningOf('ramp.jog')) ? 'jog' : this.ramps();
    return this.end({ kind: 'runs', stops: this.stopMode() }, direction, setPoint, ramps);
  }

  private ramps(): 'first' | 'second' {
    if (!this.has('ramps.second')) return 'first';
    this.because('ramps.second');
    return 'second';
  }

  private speeds = (): Speeds => ({
    machine: this.machine,
    circuit: this.circuit,
    state: this.draft,
    has: this.has,
    missing: this.missing,
  });

  private asked(command: Command, fire: boolean): Asked {
    const speeds = this.speeds();
    const of = (kind: 'fire' | 'jog', name: string): Asked => {
      const plain = this.machine.set.get(meaningOf(name));
      return { from: { kind }, hertz: plain.kind === 'number' ? plain.value : null, codes: plain.codes };
    };
    const source = this.speedSource();
    const yields = (to: 'fire' | 'jog') =>
      !loopRuns(speeds, source ?? '') || this.machine.rules.list('loop.yields-to').includes(to);
    if (fire && yields('fire')) return of('fire', 'fire.speed');
    if (command.jogs && yields('jog')) return of('jog', 'jog.speed');
    if (source === undefined) {
      this.missing.push({ kind: 'value', what: 'speed.source' });
      return { from: { kind: 'none' }, hertz: null, codes: [] };
    }
    for (const does of this.machine.byFunction.keys())
      if (does !== undefined && /^(preset\.|loop\.off|place\.second)/.test(does)) this.because(does);
    return weighted(speeds, askedSpeed(speeds, source));
  }

  /** A negative set-point reverses, where the model lets it and the direction is allowed. */
  private directed(asked: Asked, wanted: Direction): { setPoint: SetPoint; direction: Direction } {
    const speeds = this.speeds();
    let direction = wanted;
    let { hertz } = asked;
    if (hertz !== null && hertz < 0) {
      const reverses = this.rule('setpoint.negative') === 'reverses';
      const other: Direction = wanted === 'forward' ? 'reverse' : 'forward';
      const allowed = this.choice('direction.allowed') ?? 'both';
      const may = reverses && (allowed === 'both' || allowed === other);
      direction = may ? other : wanted;
      hertz = may ? -hertz : 0;
    }
    const setPoint = limited(speeds, { ...asked, hertz });
    this.reasons.push({ code: 'speed-from', from: asked.from, hertz: asked.hertz, set: asked.codes });
    if (setPoint.limited !== null && setPoint.hertz !== null)
      this.reasons.push({ code: 'limited', by: setPoint.limited, hertz: setPoint.hertz });
    return { setPoint, direction };
  }

  /** The last set-point of a live signal, for the time when it is lost. */
  private hold({ from, hertz }: Asked): void {
    if (from.kind !== 'analog' || from.lost !== null || hertz === null) return;
    const input = this.machine.analogs.find(({ number }) => number === from.number);
    if (input && holdsSpeed(input)) this.draft.held = { ...this.draft.held, [from.number]: hertz };
  }

  private moveRaised(): void {
    const { draft } = this;
    if (this.speedSource() !== 'source.raise-lower') return;
    const [up, down] = [this.has('raise'), this.has('lower')];
    if (up && down) this.rule('raise.both');
    if (up === down) return;
    const ended = this.event?.kind === 'settle';
    // At the end of its way it stays there as long as it is asked for.
    if (up && draft.raised !== 'maximum') draft.raised = ended ? 'maximum' : 'up';
    // It starts at the minimum, and is not lowered below it.
    const lowest = draft.raised === 'minimum' || draft.raised === 'start';
    if (down) draft.raised = ended || lowest ? 'minimum' : 'down';
    this.because(up ? 'raise' : 'lower');
  }

  private end(
    halt: { readonly kind: OutcomeKind; readonly stops: StopWay; readonly needs?: readonly Need[] },
    direction: Direction | null,
    setPoint: SetPoint | null,
    ramps: Outcome['ramps'],
  ): Stepped {
    const outputs = outputsOf(this.machine, {
      ...{ kind: halt.kind, direction, setPoint, draft: this.draft },
      fire: this.has('fire'),
      wanted: halt.kind === 'not-permitted',
    });
    this.draft.outputs = Object.keys(outputs).filter((number) => outputs[number] === true);
    const state: State = this.draft;
    return { state, outcome: this.outcome(halt, state, outputs, direction, setPoint, ramps) };
  }

  private outcome(
    {
      kind,
      stops,
      needs = [],
    }: { readonly kind: OutcomeKind; readonly stops: StopWay; readonly needs?: readonly Need[] },
    state: State,
    outputs: Outcome['outputs'],
    direction: Direction | null = null,
    setPoint: SetPoint | null = null,
    ramps: Outcome['ramps'] = null,
  ): Outcome {
    const untold = this.missing.length > 0 && state.supply;
    const { reasons, ignored, missing } = this;
    return {
      kind: untold ? 'untold' : kind,
      ...{ direction, setPoint, ramps, stops, needs, outputs, reasons, ignored, missing },
    };
  }
}
