// The field wiring of a position as the hands at the machine find it.

import type { Wiring } from '@drive-keep/core/wiring';
import type { FloorDevice, FloorPlan } from './floor.ts';

const endOf = (end: Wiring['wires'][number]['from']): string =>
  end.kind === 'terminal' ? end.terminal : `${end.device}:${end.connection}`;

function devicesOf({ devices }: Wiring): readonly FloorDevice[] {
  return devices.map((device) => {
    const contacts = ('contacts' in device ? device.contacts : []).map(({ name, opens }) => {
      const [a = '', b = ''] = name.split('-');
      return { between: [a, b] as const, opens };
    });
    const { name, kind, what } = device;
    if (device.kind === 'transmitter')
      return { name, kind, what, contacts, signal: device.signal, sendsAt: device.wires === 2 ? '-' : 'out' };
    if (device.kind === 'contact') return { name, kind, what, contacts, momentary: device.momentary };
    if (device.kind !== 'selector') return { name, kind, what, contacts };
    const places = device.places.map(({ closes }) =>
      device.contacts.flatMap((each, at) => (closes.includes(each.name) ? [at] : [])),
    );
    return { name, kind, what, contacts, places, gap: device.between === 'open' };
  });
}

export function floorOf(wiring: Wiring, logic: FloorPlan['logic'] | undefined): FloorPlan {
  const conductors = Object.fromEntries([
    ...wiring.wires.map(({ from, to }, at) => [`wire ${at}`, [endOf(from), endOf(to)] as const] as const),
    ...wiring.links.map(({ between }, at) => [`link ${at}`, between] as const),
  ]);
  return { devices: devicesOf(wiring), conductors, logic: logic ?? 'sourcing' };
}
