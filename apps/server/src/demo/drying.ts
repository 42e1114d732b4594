// Drying: circulation fans and the dryer chain.

import { demoPosition, type DemoPosition } from './story.ts';

const FANS = { area: 'Drying', machine: 'Circulation fans' };

export const drying: readonly DemoPosition[] = [
  ...[1, 2, 3].map((number) =>
    demoPosition(FANS, {
      tag: `DR-CF-0${number}`,
      // The reason was good for a summer; its day is over at the first fan.
      accepted: [
        {
          finding: 'restart-maintained',
          nightsAgo: 190,
          daysLeft: number === 1 ? -3 : 45,
          reason: 'Tiles crack when the air stands; new doors with switches come in winter',
        },
      ],
      duty: `Dryer circulation fan ${number}`,
      motor: 'Fan motor 7.5 kW, 400 V delta, 14.9 A, 1455 rpm',
      model: 'toreka-f3@1',
      rating: 'F3-75',
      line: { name: 'gateway-2', address: 30 + number },
      serial: 3_301_700 + number * 9,
      firmware: 244,
      values: {
        'motor.ratedPower': '7.5',
        'motor.ratedCurrent': '14.9',
        'motor.ratedSpeed': '1455',
        'command.source': 'terminals',
        'speed.source': 'presets',
        'frequency.minimum': '15.0',
        'preset.1': '28.0',
        'preset.2': '40.0',
        'input.3.function': 'preset bit 0',
        'ramp.up': '40.0',
        'network.address': String(30 + number),
      },
    }),
  ),
  demoPosition(
    { area: 'Drying', machine: 'Dryer chain' },
    {
      tag: 'DR-CH-01',
      duty: 'Dryer chain',
      criticality: 'high',
      motor: 'Chain gear motor 4 kW, 400 V star, 8.6 A, 1430 rpm',
      model: 'toreka-c7@1',
      rating: 'C7-40',
      line: { name: 'gateway-2', address: 34 },
      serial: 7_810_334,
      firmware: 512,
      values: {
        'motor.ratedPower': '4.00',
        'motor.ratedCurrent': '8.60',
        'motor.ratedSpeed': '1430',
        'command.source': 'terminals',
        'speed.source': 'analog input 2',
        'ramp.up': '20.0',
        'ramp.down': '15.0',
        'protect.stallAction': 'fault',
        // The chain tensioner's contact belongs to the user program.
        'program.mode': 'running',
        'program.inputs': '0b00010000',
        'network.address': '34',
      },
    },
  ),
];
