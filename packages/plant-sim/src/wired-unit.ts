// A unit with its terminals: the floor on one side, the firmware on the other. Settings are read anew at every look, so that a
// write over the line counts at once.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { Firmware, type Report, type Terminals } from './firmware.ts';
import { Floor, type FloorPlan, type StripFacts } from './floor.ts';
import type { Settings } from './settings.ts';

export const KEYS = ['run', 'stop', 'reset', 'hand', 'automatic'] as const;
export type Key = (typeof KEYS)[number];

export class WiredUnit {
  readonly floor: Floor;
  private readonly firmware: Firmware;
  private readonly terminals: Terminals;

  constructor(dictionary: Dictionary, settings: Settings, plan: FloorPlan) {
    this.floor = new Floor(plan, stripOf(dictionary));
    this.firmware = new Firmware(dictionary, settings);
    const links = dictionary.terminals?.links ?? [];
    this.terminals = {
      isClosed: (terminal) => this.floor.isLive(terminal),
      isSafe: (terminal) =>
        links.some(
          ({ between: [a, b] }) =>
            (a === terminal && this.floor.leads(a, b)) || (b === terminal && this.floor.leads(b, a)),
        ),
      signalAt: (terminal) => this.floor.signalAt(terminal),
    };
    this.switchSupply(true);
  }

  get report(): Report {
    return this.firmware.report;
  }

  /** Works a device; a selector that breaks before it makes passes its gap. */
  work(name: string, to: number): void {
    const moves = (this.floor.positions.get(name) ?? 0) !== to;
    if (moves && this.floor.passesGap(name)) this.stand(name, -1);
    this.stand(name, to);
  }

  private stand(name: string, to: number): void {
    this.floor.put(name, to);
    this.firmware.scan(this.seen());
  }

  /** The terminals, with field relays as they stand now. */
  private seen(): Terminals {
    this.floor.pull();
    return this.terminals;
  }

  /** Breaks a conductor, or mends it. */
  cut(conductor: string, broken: boolean): void {
    this.floor.cut(conductor, broken);
    this.firmware.scan(this.seen());
  }

  /** Two wires change their terminals. */
  cross(one: string, other: string): void {
    this.floor.cross(one, other);
    this.firmware.scan(this.seen());
  }

  /** The hands let go of everything, and press stop where it still runs; signals of transmitters stay as they are. */
  letGo(): void {
    for (const { name, signal } of this.floor.plan.devices)
      if (signal === undefined && (this.floor.positions.get(name) ?? 0) !== 0) this.work(name, 0);
    this.press('stop');
    for (const { name, momentary, contacts } of this.floor.plan.devices) {
      if (!this.report.runs || momentary !== true || !contacts.some(({ opens }) => opens)) continue;
      this.work(name, 1);
      this.work(name, 0);
    }
  }

  switchSupply(on: boolean): void {
    this.floor.supplied = on;
    this.firmware.switchSupply(on, this.seen());
  }

  powerCycle(): void {
    this.switchSupply(false);
    this.switchSupply(true);
  }

  press(key: Key): void {
    this.firmware.press(key, this.seen());
  }

  fail(trip: string): void {
    this.firmware.fail(trip, this.seen());
  }

  /** A transmitter on the floor sends another share of its signal: the process has moved. */
  sends(name: string, share: number): void {
    this.floor.put(name, share);
    this.firmware.scan(this.seen());
  }

  raisedTo(hertz: number): void {
    this.firmware.raisedTo(hertz, this.seen());
  }

  retry(): void {
    this.firmware.retry(this.seen());
  }

  /** Numbers of the digital inputs that are on. */
  get inputsOn(): ReadonlySet<string> {
    return this.firmware.inputsOn(this.seen());
  }

  analogShare(number: string): number {
    return this.firmware.analogShare(number, this.seen());
  }

  get secondSetpoint(): boolean {
    return this.firmware.asks('loop.second', this.seen());
  }

  settle(): void {
    this.firmware.settle(this.seen());
  }
}

function stripOf({ terminals: chart }: Dictionary): StripFacts {
  const terminals = chart?.strips.flatMap((strip) => strip.terminals) ?? [];
  const linked = (id: string) => chart?.links.some(({ between }) => between.includes(id)) ?? false;
  const common = terminals.find(
    ({ id, kind, signal }) => kind === 'common' && signal === '' && linked(id),
  )?.id;
  return {
    supplies: terminals.flatMap(({ id, kind, volts }) => (kind === 'supply' && volts ? [{ id, volts }] : [])),
    plus: terminals.filter(({ kind, volts }) => kind === 'supply' && (volts ?? 0) > 10).map(({ id }) => id),
    zero: terminals.filter(({ kind, signal }) => kind === 'common' && signal === '0 V').map(({ id }) => id),
    ...(common === undefined ? {} : { common }),
  };
}
