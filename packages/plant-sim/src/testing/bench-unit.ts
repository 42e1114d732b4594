// A simulated unit on the same bench as the product's engine: the wiring told to the floor, events done by its hands.

import type { Event, Machine } from '@drive-keep/core/behaviour';
import { modelNamed, outfitOf } from '@drive-keep/core/testing';
import type { Wiring } from '@drive-keep/core/wiring';
import type { Report } from '../firmware.ts';
import type { FloorDevice, FloorPlan } from '../floor.ts';
import { Memory } from '../memory.ts';
import { WiredUnit } from '../wired-unit.ts';

const endOf = (end: Wiring['wires'][number]['from']): string =>
  end.kind === 'terminal' ? end.terminal : `${end.device}:${end.connection}`;

function devicesOf({ devices }: Wiring): readonly FloorDevice[] {
  return devices.map((device) => {
    const contacts = ('contacts' in device ? device.contacts : []).map(({ name, opens }) => {
      const [a = '', b = ''] = name.split('-');
      return { between: [a, b] as const, opens };
    });
    const { name, kind } = device;
    if (device.kind === 'transmitter') return { name, kind, contacts, signal: device.signal };
    if (device.kind !== 'selector') return { name, kind, contacts };
    const places = device.places.map(({ closes }) =>
      device.contacts.flatMap((each, at) => (closes.includes(each.name) ? [at] : [])),
    );
    return { name, kind, contacts, places, gap: device.between === 'open' };
  });
}

/** The wiring as a floor plan. */
export function floorOf({ wiring, logic }: Machine): FloorPlan {
  const conductors = Object.fromEntries([
    ...wiring.wires.map(({ from, to }, at) => [`wire ${at}`, [endOf(from), endOf(to)] as const] as const),
    ...wiring.links.map(({ between }, at) => [`link ${at}`, between] as const),
  ]);
  return { devices: devicesOf(wiring), conductors, logic: logic ?? 'sourcing' };
}

export class BenchUnit {
  readonly wired: WiredUnit;

  constructor(id: string, values: ReadonlyMap<string, unknown>, machine: Machine) {
    const dictionary = modelNamed(id);
    const { rating, region } = outfitOf(dictionary);
    const raws = [...values].flatMap(([code, raw]) =>
      typeof raw === 'number' ? [[code, raw] as const] : [],
    );
    const memory = new Memory(dictionary, rating, region, Object.fromEntries(raws));
    this.wired = new WiredUnit(dictionary, memory, floorOf(machine));
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
