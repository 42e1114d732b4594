// A unit with its terminals: the floor on one side, the firmware on the other. Settings are read anew at every look, so that a
// write over the line counts at once.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { Firmware, type Report, type Terminals } from './firmware.ts';
import { Floor, type FloorPlan, type StripFacts } from './floor.ts';
import type { Memory } from './memory.ts';
import { Settings } from './settings.ts';

export const KEYS = ['run', 'stop', 'reset', 'hand', 'automatic'] as const;
export type Key = (typeof KEYS)[number];

export class WiredUnit {
  readonly floor: Floor;
  private readonly firmware: Firmware;
  private readonly terminals: Terminals;

  constructor(dictionary: Dictionary, memory: Memory, plan: FloorPlan) {
    this.floor = new Floor(plan, stripOf(dictionary));
    this.firmware = new Firmware(dictionary, new Settings(memory));
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
    this.floor.positions.set(name, to);
    this.firmware.scan(this.seen());
  }

  /** The terminals, with field relays as they stand now. */
  private seen(): Terminals {
    this.floor.pull();
    return this.terminals;
  }

  /** Breaks a conductor, or mends it. */
  cut(conductor: string, broken: boolean): void {
    if (broken) this.floor.broken.add(conductor);
    else this.floor.broken.delete(conductor);
    this.firmware.scan(this.seen());
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
