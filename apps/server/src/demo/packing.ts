// Sorting and packing: the stacker with its three servo axes, and the outfeed belts.

import { demoPosition, TECHNICIAN, type Change, type DemoPosition } from './story.ts';
import type { ValuesByMeaning } from './demo-values.ts';

const STACKER = { area: 'Sorting and packing', machine: 'Stacker' };
const OUTFEED = { area: 'Sorting and packing', machine: 'Outfeed belts' };

/** The controller that moves the three axes of the stacker together. */
export const STACKER_CONTROLLER = { machine: 'Stacker', line: 'gateway-3', address: 50 } as const;

interface Axis {
  readonly tag: string;
  readonly duty: string;
  readonly rating: string;
  readonly address: number;
  readonly serial: number;
  readonly motor: string;
  readonly values: ValuesByMeaning;
  readonly changes?: readonly Change[];
}

/** Tried out together on the two axes that swing the load. */
const triedOut = (values: ValuesByMeaning): Change => ({
  nightsAgo: 6,
  by: TECHNICIAN,
  reason: 'New tuning tried out, to be saved if it holds for a week',
  values,
  unsaved: true,
});

const AXES: readonly Axis[] = [
  {
    tag: 'SP-ST-01',
    duty: 'Stacker lift',
    rating: 'S4-12',
    address: 51,
    serial: 4_120_311,
    motor: 'Servo motor 12 A with holding brake, 8.2 Nm',
    values: {
      'brake.fitted': 'fitted, watched',
      'brake.openDelay': '90',
      'brake.closeDelay': '35',
      'tuning.loadInertia': '14.20',
      'tuning.speed.gain': '0.420',
      'tuning.position.gain': '42.0',
      'tuning.weight': '2.10',
      'travel.minimum': '-120000',
      'travel.maximum': '9800000',
      'input.6.function': 'jog, positive',
      'axis.number': '1',
      'network.address': '51',
    },
    changes: [triedOut({ 'tuning.speed.gain': '0.480', 'tuning.position.gain': '48.0' })],
  },
  {
    tag: 'SP-ST-02',
    duty: 'Stacker slew',
    rating: 'S4-12',
    address: 52,
    serial: 4_120_328,
    motor: 'Servo motor 12 A, 8.2 Nm',
    values: {
      'tuning.loadInertia': '38.00',
      'tuning.speed.gain': '0.610',
      'tuning.position.gain': '25.0',
      'travel.minimum': '-3276800',
      'travel.maximum': '3276800',
      'axis.number': '2',
      'network.address': '52',
    },
    changes: [triedOut({ 'tuning.speed.gain': '0.700', 'tuning.position.gain': '29.0' })],
  },
  {
    tag: 'SP-ST-03',
    duty: 'Stacker grip',
    rating: 'S4-03',
    address: 53,
    serial: 4_119_870,
    motor: 'Servo motor 3 A, 1.75 Nm',
    values: {
      'tuning.loadInertia': '0.80',
      'tuning.speed.gain': '0.090',
      'limit.torque': '900',
      'axis.number': '3',
      'network.address': '53',
    },
  },
];

/** Its speed comes from a potentiometer; the winding contact of its motor takes R4. */
const WITH_KNOB: ValuesByMeaning = { 'speed.source': 'terminal VI', 'protect.sensor': 'at R4' };

export const packing: readonly DemoPosition[] = [
  ...AXES.map(({ address, ...axis }) =>
    demoPosition(STACKER, {
      ...axis,
      criticality: 'high',
      model: 'quenby-s4@1',
      region: '400-v',
      firmware: 421,
      line: { name: 'gateway-3', address },
    }),
  ),
  demoPosition(OUTFEED, {
    tag: 'SP-OB-01',
    duty: 'Outfeed belt 1',
    motor: 'Belt gear motor 1.5 kW, 400 V star, 3.6 A, 1410 rpm',
    model: 'halvern-hn64@1',
    rating: 'HN64-15',
    line: { name: 'gateway-3', address: 61 },
    serial: 6_403_720,
    firmware: 214,
    runs: false,
    // Input 5 is wired and assigned to jog, but commands come from the keypad: the push button does nothing.
    values: {
      'motor.ratedPower': '1500',
      'motor.ratedCurrent': '3.60',
      'motor.ratedSpeed': '1410',
      'command.source': 'keypad',
      'speed.source': 'keypad',
      'speed.keypad': '32.00',
      'input.5.function': 'jog',
      'jog.speed': '8.00',
      'network.address': '61',
    },
  }),
  ...[2, 3].map((number) =>
    demoPosition(OUTFEED, {
      tag: `SP-OB-0${number}`,
      duty: `Outfeed belt ${number}`,
      criticality: 'low',
      motor: 'Belt gear motor 0.75 kW (1 hp), 400 V star, 2.1 A, 1400 rpm',
      model: 'toreka-c1@1',
      rating: 'C1-10',
      line: { name: 'gateway-3', address: 60 + number },
      serial: 11_400 + number * 7,
      firmware: 317,
      values: {
        'motor.ratedPower': '1.00',
        'motor.ratedVoltage': '400',
        'motor.ratedCurrent': '2.1',
        'motor.baseFrequency': '50',
        'motor.ratedSpeed': '1400',
        'command.source': 'terminals',
        ...(number === 2 ? WITH_KNOB : { 'speed.source': 'presets' }),
        'preset.1': '700',
        'ramp.up': '3.0',
        'ramp.down': '3.0',
        'network.address': String(60 + number),
      },
    }),
  ),
];
