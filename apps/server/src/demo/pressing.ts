// Pressing: powder belts that only have a keypad, and the press infeed.

import { demoPosition, TECHNICIAN, type DemoPosition } from './story.ts';
import type { ValuesByMeaning } from './demo-values.ts';

const BELTS = { area: 'Pressing', machine: 'Powder belts' };
const INFEED = { area: 'Pressing', machine: 'Press infeed' };

const BELT: ValuesByMeaning = {
  'motor.ratedPower': '0.75',
  'motor.ratedVoltage': '400',
  'motor.ratedCurrent': '1.9',
  'motor.ratedSpeed': '1400',
  'command.source': 'terminals',
  'speed.source': 'analog input',
  // The controller gives 4 to 20 mA; without bit 8 of the options word the drive does not know of a live zero.
  'analog.1.signal': '0 to 20 mA',
  'analog.1.gain': '92.0',
  'analog.1.bias': '4.0',
  'ramp.up': '3.0',
  'ramp.down': '2.0',
  'frequency.minimum': '8.0',
  'protect.overloadCurrent': '85',
};

const STEP: ValuesByMeaning = {
  'motor.ratedPower': '2.00',
  'motor.ratedVoltage': '400',
  'motor.ratedCurrent': '3.5',
  'motor.baseFrequency': '50',
  'motor.ratedSpeed': '1425',
  'command.source': 'terminals',
  'speed.source': 'presets',
  'command.wiring': 'run and direction',
  'command.startLock': 'must open first',
  'preset.1': '240',
  'preset.2': '900',
  'ramp.up': '0.8',
  'ramp.down': '0.6',
};

/** Its direction contact is wired, and ignored. */
const ONE_WAY: ValuesByMeaning = { 'direction.allowed': 'never', 'stop.mode': 'ramp and brake current' };

export const pressing: readonly DemoPosition[] = [
  demoPosition(BELTS, {
    tag: 'PR-PB-01',
    duty: 'Powder belt to press 1',
    motor: 'Belt gear motor 0.75 kW, 400 V star, 1.9 A, 1400 rpm',
    model: 'halvern-hn20@1',
    rating: 'HN20-08',
    serial: 203_877,
    firmware: 131,
    values: BELT,
    readOff: [690, 425],
  }),
  demoPosition(BELTS, {
    tag: 'PR-PB-02',
    duty: 'Powder belt to press 2',
    motor: 'Belt gear motor 0.75 kW, 400 V star, 1.9 A, 1400 rpm',
    model: 'halvern-hn20@1',
    rating: 'HN20-08',
    serial: 203_901,
    firmware: 131,
    values: { ...BELT, 'analog.1.gain': '90.0' },
    readOff: [690, 402, 47],
  }),
  ...[1, 2].map((number) =>
    demoPosition(INFEED, {
      tag: `PR-IN-0${number}`,
      duty: `Press ${number} infeed`,
      criticality: 'high',
      motor: 'Infeed motor 1.5 kW (2 hp), 400 V star, 3.5 A, 1425 rpm',
      model: 'toreka-c1@1',
      rating: 'C1-20',
      line: { name: 'gateway-3', address: 30 + number },
      serial: 11_200 + number * 7,
      firmware: 317,
      values: { ...STEP, ...(number === 1 ? ONE_WAY : {}), 'network.address': String(30 + number) },
      changes:
        number === 2
          ? [
              {
                nightsAgo: 77,
                by: TECHNICIAN,
                reason: 'Infeed overran the stop',
                values: { 'ramp.down': '0.4', 'stop.mode': 'ramp and brake current' },
                revision: true,
              },
            ]
          : [],
    }),
  ),
];
