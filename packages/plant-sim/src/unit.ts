// One simulated unit: identity, memory, run state, procedures, and the answers to Modbus requests.

import type { Dictionary, Parameter } from '@drive-keep/core/dictionary';
import { EXCEPTION, exceptionPdu, type Exception } from './frame.ts';
import { Memory } from './memory.ts';
import type { FloorPlan } from './floor.ts';
import { NO_MISCHIEF, type Mischief } from './mischief.ts';
import { Motor, type MotorReadings } from './motor.ts';
import { shownValue } from './shown-value.ts';
import { RegisterMap } from './register-map.ts';
import { WiredUnit } from './wired-unit.ts';

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
  readonly runContact?: boolean;
  readonly mischief?: Partial<Mischief>;
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
  runContact: boolean;
  readonly description: UnitDescription;
  /** Enables the unit while it runs. */
  controller: { readonly runs: boolean } | undefined;
  readonly memory: Memory;
  private readonly dictionary: Dictionary;
  private readonly map: RegisterMap;
  private readonly motor: Motor;
  private readonly now: () => number;
  /** Its terminals and what hangs on them. */
  readonly wired: WiredUnit | undefined;
  private activeFault = 0;
  private faultHistory: number[] = [];
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
    this.runContact = description.runContact ?? false;
    this.memory = new Memory(dictionary, description.rating, description.region, description.values);
    for (const [code, raw] of Object.entries(description.working ?? {})) this.memory.forceWorking(code, raw);
    this.map = new RegisterMap(dictionary);
    this.motor = new Motor(this.memory, mains, now());
    this.now = now;
    this.wired = description.floor && new WiredUnit(dictionary, this.memory, description.floor);
    this.startUp();
  }

  /** Running: commanded, or still on its way down the ramp. */
  get running(): boolean {
    this.motor.advance(this.now(), this.commanded());
    return this.commanded() || !this.motor.standing || this.controller?.runs === true;
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
    this.memory.recall();
    this.wired?.powerCycle();
    this.startUp();
  }

  /** Takes the supply away, or gives it back. */
  switchSupply(on: boolean): void {
    if (on === !this.off) return;
    this.off = !on;
    if (on) this.powerCycle();
    else this.wired?.switchSupply(false);
  }

  get supplied(): boolean {
    return !this.off;
  }

  /** What is decided once, when the supply comes. */
  private startUp(): void {
    this.hand = this.memory.option('command.powerUp') === 'hand';
    const order = this.memory.option('network.wordOrder');
    if (order !== undefined) this.map.lowFirst = order === 'low-first';
  }

  trip(fault: number): void {
    if (this.activeFault !== 0) this.faultHistory = [this.activeFault, ...this.faultHistory].slice(0, 4);
    this.activeFault = fault;
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
    const live = cell.parameter.meaning ? readings.get(cell.parameter.meaning) : undefined;
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
    return this.activeFault !== 0 || (this.wired?.report.fault ?? null) !== null;
  }

  /** Live values by meaning, as raw integers of their parameters. */
  private readings(): ReadonlyMap<string, number> {
    this.motor.advance(this.now(), this.commanded());
    const live = new Map<string, number>();
    const readings = this.motor.readings();
    for (const name of Object.keys(readings) as (keyof MotorReadings)[]) {
      const parameter = this.dictionary.parameters.find((each) => each.meaning === `monitor.${name}`);
      if (parameter?.form.kind !== 'number') continue;
      const { step, places } = parameter.form.resolution;
      const value = shownValue(name, readings[name], parameter.form.unit, this.memory);
      live.set(`monitor.${name}`, Math.round((value * 10 ** places) / step));
    }
    live.set('monitor.fault', this.activeFault);
    live.set('unit.serial', this.serial);
    this.faultHistory.forEach((fault, at) => live.set(`monitor.faultHistory.${at + 1}`, fault));
    return live;
  }

  private commanded(): boolean {
    if (this.off) return false;
    if (this.wired?.report.runs === true) return true;
    const source = this.memory.option('command.source') ?? '';
    return this.runContact && !this.hand && this.activeFault === 0 && source.startsWith('source.terminals');
  }

  /** Writes whole parameters only; the first refusal ends it, as the manual says. */
  private write(address: number, words: readonly number[]): number | undefined {
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
