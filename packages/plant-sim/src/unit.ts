// One simulated unit: identity, memory, run state, procedures, and the answers to Modbus requests.

import type { Dictionary, FaultKind, Parameter } from '@drive-keep/core/dictionary';
import { EXCEPTION, exceptionPdu, type Exception } from './frame.ts';
import { Memory } from './memory.ts';
import type { FloorPlan } from './floor.ts';
import { NO_MISCHIEF, type Mischief } from './mischief.ts';
import type { DriveReadings, Surroundings } from './drive-train.ts';
import { USUAL_LOAD, type LoadPlan } from './load.ts';
import { Machine } from './machine.ts';
import { Outputs } from './outputs.ts';
import { Settings } from './settings.ts';
import { shownValue } from './shown-value.ts';
import { RegisterMap } from './register-map.ts';
import { WiredUnit, type Key } from './wired-unit.ts';

/** What somebody does at the machine: a device, or a key of the keypad. */
export type Hand = { readonly device: string; readonly to: number } | { readonly key: Key };

export interface UnitDescription {
  /** What the people of the plant call its place. */
  readonly tag?: string;
  readonly line: string;
  readonly address: number;
  readonly dictionary: string;
  readonly rating: string;
  readonly region: string;
  /** 207 is firmware 2.07. */
  readonly firmware: number;
  readonly serial: number;
  /** Serial number that the register expects, where another unit sits in its place. */
  readonly registeredSerial?: number;
  /** Raw values by code, where they differ from the defaults. */
  readonly values: Readonly<Record<string, number>>;
  /** Raw values that are in the working memory alone. */
  readonly working?: Readonly<Record<string, number>>;
  /** It runs as in production: by what `hands` does, or by a command from elsewhere where there is none. */
  readonly runContact?: boolean;
  /** What hands do so that it runs; everything is let go so that it stops. */
  readonly hands?: readonly Hand[];
  readonly mischief?: Partial<Mischief>;
  /** What it drives; a belt where nothing is told. */
  readonly load?: LoadPlan;
  /** What hangs on its terminals; without it nothing but `runContact` commands it. */
  readonly floor?: FloorPlan;
}

const READ_HOLDING = 3;
const READ_INPUT = 4;
const WRITE_SINGLE = 6;
const WRITE_MULTIPLE = 16;
const MOST_READ = 125;
const MOST_WRITE = 123;

/** Input registers lie behind the holding registers, as in the catalogue. */
const INPUT_AREA = 0x1_0000;

export class SimUnit {
  serial: number;
  mischief: Mischief;
  readonly description: UnitDescription;
  /** Enables the unit while it runs. */
  controller: { readonly runs: boolean } | undefined;
  readonly memory: Memory;
  private readonly dictionary: Dictionary;
  private readonly map: RegisterMap;
  private readonly machine: Machine;
  private readonly outputs: Outputs;
  private readonly settings: Settings;
  private readonly now: () => number;
  /** Its terminals and what hangs on them. */
  readonly wired: WiredUnit | undefined;
  /** Every register to which somebody has written over the line, in whatever state the unit was. */
  readonly written = new Set<number>();
  private inProduction = false;
  private activeFault = 0;
  /** What a unit without wiring has tripped on. */
  private tripped: FaultKind | null = null;
  private shownFault = 0;
  private faultHistory: number[] = [];
  /** What can be seen at its keypad alone. */
  private readonly views: readonly Parameter[];
  private hand = false;
  private busyUntil = 0;
  private off = false;
  private downUntil = 0;
  private requests = 0;
  /** Called when the permanent memory has changed. */
  onSaved: () => void = () => undefined;

  constructor(description: UnitDescription, dictionary: Dictionary, mains: number, now: () => number) {
    this.description = description;
    this.dictionary = dictionary;
    this.serial = description.serial;
    this.mischief = { ...NO_MISCHIEF, ...description.mischief };
    this.memory = new Memory(dictionary, description.rating, description.region, description.values);
    for (const [code, raw] of Object.entries(description.working ?? {})) this.memory.forceWorking(code, raw);
    this.map = new RegisterMap(dictionary);
    this.views = dictionary.parameters.filter(
      ({ access, keeping }) => access === 'read' && keeping === 'monitor',
    );
    this.now = now;
    const settings = new Settings(this.memory);
    const wired = description.floor && new WiredUnit(dictionary, settings, description.floor);
    this.settings = settings;
    this.wired = wired;
    this.outputs = new Outputs(settings);
    this.machine = new Machine(
      { memory: this.memory, settings, wired },
      description.load ?? USUAL_LOAD,
      mains,
      now(),
      () => ({ runs: this.calledElsewhere, target: this.elsewhereTarget }),
      (kind) => this.noticeFault(kind),
    );
    this.startUp();
    this.runContact = description.runContact ?? false;
  }

  get runContact(): boolean {
    return this.inProduction;
  }

  set runContact(on: boolean) {
    this.inProduction = on;
    const { wired } = this;
    const { hands } = this.description;
    if (!wired || !hands) return;
    this.machine.advance(this.now());
    if (on) for (const hand of hands) work(wired, hand);
    else wired.letGo();
  }

  /** Running: commanded, or still on its way down the ramp. */
  get running(): boolean {
    this.machine.advance(this.now());
    return this.machine.running || this.controller?.runs === true;
  }

  /** What hands have done to motor and mains. */
  disturb(change: Partial<Surroundings>): void {
    this.machine.advance(this.now());
    this.machine.train.surroundings = { ...this.machine.train.surroundings, ...change };
  }

  /** What eyes and a clamp meter would see at the machine. */
  get seen() {
    this.machine.advance(this.now());
    const { frequency, speed, current, torque, busVoltage } = this.machine.train.readings();
    return { ...{ frequency, speed, current, torque, busVoltage }, loopActual: this.machine.actual };
  }

  get surroundings(): Surroundings {
    return this.machine.train.surroundings;
  }

  /** Requests so far, since it was last told of mischief. */
  get asked(): number {
    return this.requests;
  }

  /** Counts requests for mischief, and tells whether the answer is to break off. */
  countRequest(): 'answer' | 'break' {
    this.requests += 1;
    const { swap, breakAfter, event } = this.mischief;
    if (swap && this.requests > swap.after) this.serial = swap.serial;
    if (event && this.requests === event.after + 1) this.happen(event.what);
    return breakAfter > 0 && this.requests >= breakAfter ? 'break' : 'answer';
  }

  private happen(what: 'start' | 'power-cycle' | 'lock'): void {
    switch (what) {
      case 'start':
        this.hand = false;
        this.runContact = true;
        return;
      case 'power-cycle':
        this.powerCycle();
        return;
      case 'lock':
        for (const { code, meaning } of this.dictionary.parameters)
          if (meaning === 'unit.lock') this.memory.force(code, 1);
    }
  }

  setMischief(mischief: Partial<Mischief>): void {
    this.mischief = { ...this.mischief, ...mischief };
    this.requests = 0;
  }

  powerCycle(): void {
    this.downUntil = this.now() + (this.dictionary.line?.restart?.busyMs ?? 2000);
    this.machine.train.letGo();
    this.memory.recall();
    this.wired?.powerCycle();
    this.startUp();
  }

  /** Takes the supply away, or gives it back. */
  switchSupply(on: boolean): void {
    if (on === !this.off) return;
    this.off = !on;
    if (on) this.powerCycle();
    else {
      this.machine.train.letGo();
      this.wired?.switchSupply(false);
    }
  }

  get supplied(): boolean {
    return !this.off;
  }

  /** What is decided once, when the supply comes. */
  private startUp(): void {
    this.tripped = null;
    this.activeFault = 0;
    this.hand = this.memory.option('command.powerUp') === 'hand';
    const order = this.memory.option('network.wordOrder');
    if (order !== undefined) this.map.lowFirst = order === 'low-first';
  }

  trip(fault: number): void {
    this.noticeFault();
    this.activeFault = fault;
    this.noticeFault();
  }

  /** The answer to a request, or nothing while the unit is starting up. */
  answer(pdu: Buffer): Buffer | undefined {
    if (this.off || this.now() < this.downUntil) return undefined;
    const functionCode = pdu.readUInt8(0);
    const result = this.now() < this.busyUntil ? EXCEPTION.busy : this.serve(functionCode, pdu);
    return typeof result === 'number' ? exceptionPdu(functionCode, result) : result;
  }

  private serve(functionCode: number, pdu: Buffer): Buffer | number {
    if (![READ_HOLDING, READ_INPUT, WRITE_SINGLE, WRITE_MULTIPLE].includes(functionCode))
      return EXCEPTION.function;
    if (pdu.length < 5) return EXCEPTION.value;
    const address = pdu.readUInt16BE(1);
    const second = pdu.readUInt16BE(3);
    if (functionCode === READ_HOLDING || functionCode === READ_INPUT)
      return pdu.length === 5 ? this.read(functionCode, address, second) : EXCEPTION.value;
    if (functionCode === WRITE_SINGLE) {
      if (this.dictionary.line?.only16) return EXCEPTION.function;
      return pdu.length === 5 ? (this.write(address, [second]) ?? pdu) : EXCEPTION.value;
    }
    if (pdu.length < 6 || second < 1 || second > MOST_WRITE) return EXCEPTION.value;
    if (pdu.readUInt8(5) !== second * 2 || pdu.length !== 6 + second * 2) return EXCEPTION.value;
    const words = Array.from({ length: second }, (_, at) => pdu.readUInt16BE(6 + at * 2));
    return this.write(address, words) ?? pdu.subarray(0, 5);
  }

  private read(functionCode: number, address: number, count: number): Buffer | Exception {
    if (count < 1 || count > MOST_READ) return EXCEPTION.value;
    const area = functionCode === READ_INPUT ? INPUT_AREA : 0;
    const addresses = Array.from({ length: count }, (_, at) => area + address + at);
    if (addresses.some((at) => at - area > 0xffff || this.refuses(at))) return EXCEPTION.address;
    const readings = this.readings();
    const answer = Buffer.alloc(2 + count * 2);
    answer.writeUInt8(functionCode, 0);
    answer.writeUInt8(count * 2, 1);
    addresses.forEach((at, index) => answer.writeUInt16BE(this.word(at, readings), 2 + index * 2));
    return answer;
  }

  private refuses(address: number): boolean {
    const reserved = this.dictionary.line?.reserved ?? [];
    const hidden = reserved.some(({ from, to }) => address >= from && address <= to);
    return hidden || this.mischief.refuse.includes(address);
  }

  private word(address: number, readings: ReadonlyMap<string, number>): number {
    const fixed = this.fixedWord(address);
    if (fixed !== undefined) return fixed;
    const cell = this.map.at(address);
    if (!cell) return 0;
    const live = readings.get(cell.parameter.meaning ?? cell.parameter.code);
    return this.map.wordOf(cell, live ?? this.memory.get(cell.parameter.code));
  }

  private fixedWord(address: number): number | undefined {
    const line = this.dictionary.line;
    if (!line) return undefined;
    const { identity, status } = line;
    const rating = this.dictionary.ratings.find((each) => each.id === this.description.rating)?.number ?? 0;
    const { serial } = identity;
    const [high, low] = [(this.serial >>> 16) & 0xffff, this.serial & 0xffff];
    switch (address) {
      case identity.model?.register:
        return identity.model?.value;
      case identity.rating:
        return rating;
      case identity.firmware:
        return this.description.firmware;
      case serial?.register:
        return serial?.width === 16 || this.map.lowFirst ? low : high;
      case serial?.width === 32 ? serial.register + 1 : undefined:
        return this.map.lowFirst ? high : low;
      case status?.register:
        if (!status) return undefined;
        return (this.running ? 1 << status.running : 0) | (this.faulty ? 1 << status.fault : 0);
      default:
        return undefined;
    }
  }

  private get faulty(): boolean {
    return this.activeFault !== 0 || this.tripped !== null || (this.wired?.report.fault ?? null) !== null;
  }

  /** Live values by meaning, as raw integers of their parameters. */
  private readings(): ReadonlyMap<string, number> {
    this.machine.advance(this.now());
    this.noticeFault();
    const live = new Map<string, number>();
    const readings = this.machine.train.readings();
    for (const name of Object.keys(readings) as (keyof DriveReadings)[]) {
      const parameter = this.dictionary.parameters.find((each) => each.meaning === `monitor.${name}`);
      if (parameter?.form.kind !== 'number') continue;
      const { step, places } = parameter.form.resolution;
      const value = shownValue(name, readings[name], parameter.form.unit, this.memory);
      live.set(`monitor.${name}`, Math.round((value * 10 ** places) / step));
    }
    this.terminalReadings(live);
    live.set('monitor.fault', this.faultNumber);
    live.set('unit.serial', this.serial);
    this.faultHistory.forEach((fault, at) => live.set(`monitor.faultHistory.${at + 1}`, fault));
    return live;
  }

  /** Bits of inputs and outputs, and signals, by what the model's view parameters say that they show. */
  private terminalReadings(live: Map<string, number>): void {
    const { wired, machine, settings } = this;
    if (!wired) return;
    const { report, inputsOn } = wired;
    const { frequency, setpoint } = machine.train.readings();
    const loops = report.runs && report.moves === 'loop';
    const doing = {
      ...{ powered: report.powered, runs: report.runs, reverse: report.reverse, locked: report.locked },
      ...{ fault: this.faulty, standing: machine.train.standing, frequency, target: setpoint },
      ...{ limited: machine.train.atLimit, asleep: machine.loop.asleep },
      error: loops ? machine.error : undefined,
    };
    const isOn = (meaning: string): boolean => {
      const [, , what, number = ''] = /^(monitor)\.(input|output)\.(\d+)$/.exec(meaning) ?? [];
      return what === 'input' ? inputsOn.has(number) : what === 'output' && this.outputs.isOn(number, doing);
    };
    for (const { code, form, meaning } of this.views)
      if (form.kind === 'bits')
        live.set(
          meaning ?? code,
          form.bits.reduce(
            (word, { bit, says = [] }) =>
              says.some((each) => isOn(each.meaning)) ? word | (1 << bit) : word,
            0,
          ),
        );
    for (const number of ['1', '2'])
      this.show(live, `monitor.analog${number}`, wired.analogShare(number) * 100);
    if ((settings.choice('loop.mode') ?? 'off') === 'off') return;
    this.show(live, 'monitor.loopActual', machine.loop.shown(machine.actual));
    this.show(live, 'monitor.loopError', machine.error);
  }

  /** A number as its parameter counts it; nothing where the model does not show it. */
  private show(live: Map<string, number>, meaning: string, value: number): void {
    const form = this.memory.byMeaning.get(meaning)?.form;
    if (form?.kind !== 'number') return;
    live.set(meaning, Math.round((value * 10 ** form.resolution.places) / form.resolution.step));
  }

  /** Somebody who is not on the floor has given a run command: the stand-in of tests for a line controller. */
  private get calledElsewhere(): boolean {
    if (this.off || this.faulty) return false;
    const source = this.memory.option('command.source') ?? '';
    return (
      this.inProduction && !this.description.hands && !this.hand && source.startsWith('source.terminals')
    );
  }

  private get elsewhereTarget(): number {
    const { settings } = this;
    const preset = settings.hertz('preset.1') ?? settings.hertz('preset.contact.1') ?? 0;
    return Math.min(settings.maximum, Math.max(settings.hertz('frequency.minimum') ?? 0, preset));
  }

  /** The fault that the unit holds, by its own number; one without a number in its manual is not shown. */
  private get faultNumber(): number {
    const kind = this.wired?.report.fault ?? this.tripped;
    if (this.activeFault !== 0 || kind === null) return this.activeFault;
    const name = kind === 'motor-warm' ? 'motorHot' : kind;
    return this.dictionary.faults.find((each) => each.kind === name)?.number ?? 0;
  }

  /** A fault that is over stands in the history. */
  private noticeFault(kind: FaultKind | null = null): void {
    if (kind !== null && !this.wired) this.tripped = kind;
    const now = this.faultNumber;
    if (now === this.shownFault) return;
    if (this.shownFault !== 0) this.faultHistory = [this.shownFault, ...this.faultHistory].slice(0, 4);
    this.shownFault = now;
  }

  /** Writes whole parameters only; the first refusal ends it, as the manual says. */
  private write(address: number, words: readonly number[]): number | undefined {
    words.forEach((_, at) => this.written.add(address + at));
    const procedure = this.procedure(address, words);
    if (procedure !== undefined) return procedure === 'done' ? undefined : procedure;
    const writes: { parameter: Parameter; raw: number }[] = [];
    for (let at = 0; at < words.length;) {
      const cell = this.map.at(address + at);
      if (!cell || cell.word !== 0 || this.refuses(address + at)) return EXCEPTION.address;
      const width = cell.parameter.register?.width === 32 ? 2 : 1;
      const own = words.slice(at, at + width);
      if (own.length < width) return EXCEPTION.address;
      writes.push({ parameter: cell.parameter, raw: this.map.integerOf(cell.parameter, own) });
      at += width;
    }
    for (const { parameter, raw } of writes) {
      const refused = this.memory.write(parameter, raw, this.running);
      if (refused) return refused;
      const busy =
        parameter.meaning === 'unit.resetTrigger' ? this.memory.resetBy(parameter, raw) : undefined;
      if (busy !== undefined) this.busyUntil = this.now() + busy;
    }
    if (this.memory.keepsAtOnce) this.onSaved();
    return undefined;
  }

  private procedure(address: number, words: readonly number[]): Exception | 'done' | undefined {
    const line = this.dictionary.line;
    const [value] = words;
    if (line?.save && address === line.save.register) {
      if (words.length !== 1 || value !== line.save.value) return EXCEPTION.value;
      this.memory.save();
      this.busyUntil = this.now() + line.save.busyMs;
      this.onSaved();
      return 'done';
    }
    if (line?.restart && address === line.restart.register) {
      if (words.length !== 1 || value !== line.restart.value) return EXCEPTION.value;
      if (this.running) return EXCEPTION.failure;
      this.powerCycle();
      return 'done';
    }
    return undefined;
  }
}

function work(wired: WiredUnit, hand: Hand): void {
  if ('key' in hand) wired.press(hand.key);
  else wired.work(hand.device, hand.to);
}
