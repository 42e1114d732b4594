// The field wiring on paper, in the columns of a settings record: what hangs there, and every conductor with its ends.

import { formatFacts, showEnd, type Wiring } from '@drive-keep/core/wiring';
import type { Paper } from './paper.ts';

export function wiringParts({ devices, wires, links, switches, arrangement }: Wiring): Paper['parts'] {
  const board = [
    ...(arrangement === '' ? [] : [['', 'Supply of the contacts', arrangement, '']]),
    ...Object.entries(switches).map(([name, place]) => [name, 'Switch on the board', place, '']),
    ...links.map(({ between: [from, to], place }) => [
      'link',
      `${from} to ${to}`,
      place === 'plug' ? 'in the plug: it stays when the drive goes' : 'at the drive',
      '',
    ]),
  ];
  const parts = [
    {
      name: 'Field wiring: devices',
      rows: devices.map((device) => [device.name, device.what, `${device.kind}, ${formatFacts(device)}`, '']),
    },
    {
      name: 'Field wiring: conductors by number, from and to, colour',
      rows: wires.map(({ number, colour, from, to }) => [
        number,
        `${showEnd(from)} to ${showEnd(to)}`,
        colour,
        '',
      ]),
    },
    { name: 'Field wiring: links and board', rows: board },
  ];
  return parts
    .filter(({ rows }) => rows.length > 0)
    .map(({ name, rows }) => ({ name, rows: rows.map((cells) => ({ cells, marked: false })) }));
}
