// A simulated unit on the same bench as the product's engine: the wiring told to the floor, events done by its hands.

import type { Event, Machine } from '@drive-keep/core/behaviour';
import { modelNamed, outfitOf } from '@drive-keep/core/testing';
import { plainWiring } from '@drive-keep/core/wiring';
import type { Report } from '../firmware.ts';
import { Memory } from '../memory.ts';
import { Settings } from '../settings.ts';
import { WiredUnit } from '../wired-unit.ts';

export class BenchUnit {
  readonly wired: WiredUnit;

  constructor(id: string, values: ReadonlyMap<string, unknown>, machine: Machine) {
    const dictionary = modelNamed(id);
    const { rating, region } = outfitOf(dictionary);
    const raws = [...values].flatMap(([code, raw]) =>
      typeof raw === 'number' ? [[code, raw] as const] : [],
    );
    const memory = new Memory(dictionary, rating, region, Object.fromEntries(raws));
    this.wired = new WiredUnit(dictionary, new Settings(memory), {
      ...plainWiring(machine.wiring),
      logic: machine.logic ?? 'sourcing',
    });
    this.wired.switchSupply(false);
  }

  get report(): Report {
    return this.wired.report;
  }

  happen(event: Event): void {
    const { wired } = this;
    switch (event.kind) {
      case 'device':
        return wired.work(event.name, event.to);
      case 'break':
      case 'mend':
        return wired.cut(event.what, event.kind === 'break');
      case 'supply':
        return wired.switchSupply(event.on);
      case 'fault':
        return wired.fail(event.of);
      case 'key':
        return wired.press(event.key);
      case 'settle':
        return wired.settle();
    }
  }
}
