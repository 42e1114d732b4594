// Glazing: belts with preset speeds, the spinning disc, the glaze pump.

import { demoPosition, TECHNICIAN, type DemoPosition } from './story.ts';
import type { ValuesByMeaning } from './demo-values.ts';

const BELTS = { area: 'Glazing', machine: 'Glazing belts' };
const GLAZE = { area: 'Glazing', machine: 'Glaze' };

const OLD_BELT: ValuesByMeaning = {
  'motor.ratedPower': '0.37',
  'motor.ratedVoltage': '400',
  'motor.ratedCurrent': '1.1',
  'motor.ratedSpeed': '1390',
  'command.source': 'terminals',
  'speed.source': 'presets',
  'preset.1': '12.0',
  'preset.2': '20.0',
  'preset.3': '28.0',
  'preset.4': '36.0',
  'ramp.up': '2.0',
  'ramp.down': '2.0',
};

/** Run from its keypad; a button jogs it for cleaning. */
const BY_KEYS: ValuesByMeaning = {
  ...OLD_BELT,
  'command.source': 'keypad',
  'speed.source': 'keypad',
  'speed.keypad': '24.0',
  'input.3.function': 'jog',
  'jog.speed': '8.0',
};

const NEW_BELT: ValuesByMeaning = {
  'motor.ratedPower': '750',
  'motor.ratedVoltage': '400',
  'motor.ratedCurrent': '1.90',
  'motor.ratedSpeed': '1400',
  'speed.source': 'presets',
  'preset.contact.1': '12.00',
  'preset.contact.2': '20.00',
  'preset.contact.3': '28.00',
  'ramp.up': '2.00',
  'ramp.down': '2.00',
  'command.powerUp': 'automatic',
};

/** As the replacement of an HN20 left it: presets by an input each, with the wires sinking as they hung. */
const REPLACED_BELT: ValuesByMeaning = {
  'motor.ratedSpeed': '1400',
  'motor.boost': '2.5',
  'ramp.up': '2.00',
  'ramp.down': '2.00',
  'ramp.up2': '5.00',
  'ramp.down2': '5.00',
  'speed.source': 'keypad',
  'command.powerUp': 'automatic',
  'command.stopKey': 'only in hand',
  'speed.keypad': '12.00',
  'preset.contact.1': '20.00',
  'preset.contact.2': '28.00',
  'raise.keepOverSupply': 'starts from minimum',
  'input.5.function': 'external fault',
  'brake.openCurrent': '36',
  'brake.closeFrequency': '1.00',
  'loop.integralTime': '10.00',
  'protect.overloadCurrent': '2.30',
  'carrier.auto': 'no',
  'unit.fan': 'always',
  'network.address': '23',
  'network.baud': '0',
  'network.loss': 'stop by ramp',
};
const BELT_MOTOR = 'Belt gear motor 0.75 kW, 400 V star, 1.9 A, 1400 rpm';

export const glazing: readonly DemoPosition[] = [
  demoPosition(BELTS, {
    tag: 'GL-BE-01',
    duty: 'Glazing belt 1',
    motor: 'Belt gear motor 0.37 kW, 400 V star, 1.1 A, 1390 rpm',
    model: 'halvern-hn20@1',
    rating: 'HN20-04',
    line: { name: 'gateway-3', address: 21 },
    serial: 205_310,
    firmware: 148,
    values: { ...OLD_BELT, 'network.address': '21' },
  }),
  demoPosition(BELTS, {
    tag: 'GL-BE-02',
    duty: 'Glazing belt 2',
    motor: 'Belt gear motor 0.37 kW, 400 V star, 1.1 A, 1390 rpm',
    model: 'halvern-hn20@1',
    rating: 'HN20-04',
    serial: 205_344,
    firmware: 148,
    values: BY_KEYS,
    readOff: [655, 290, 88],
  }),
  // Its values are what the cross-reference makes of the old ones; a test holds them together.
  demoPosition(BELTS, {
    tag: 'GL-BE-03',
    duty: 'Glazing belt 3',
    motor: BELT_MOTOR,
    model: 'halvern-hn64@1',
    rating: 'HN64-08',
    line: { name: 'gateway-3', address: 23 },
    serial: 6_403_151,
    firmware: 214,
    values: REPLACED_BELT,
    replaced: {
      nightsAgo: 210,
      old: {
        model: 'halvern-hn20@1',
        rating: 'HN20-08',
        serial: 205_377,
        firmware: 148,
        values: {
          ...OLD_BELT,
          'motor.ratedPower': '0.75',
          'motor.ratedCurrent': '1.9',
          'motor.ratedSpeed': '1400',
          'network.address': '23',
        },
      },
    },
  }),
  demoPosition(BELTS, {
    tag: 'GL-BE-04',
    duty: 'Glazing belt 4',
    motor: BELT_MOTOR,
    model: 'halvern-hn64@1',
    rating: 'HN64-08',
    line: { name: 'gateway-3', address: 24 },
    serial: 6_403_168,
    firmware: 214,
    values: {
      ...NEW_BELT,
      // Two motors under one name: this one has another winding.
      'motor.statorResistance': '13.100',
      'network.address': '24',
    },
  }),
  demoPosition(GLAZE, {
    tag: 'GL-DI-01',
    duty: 'Spinning disc',
    motor: 'Disc motor 0.75 kW, 400 V star, 1.9 A, 2800 rpm',
    model: 'toreka-c7@1',
    rating: 'C7-7',
    line: { name: 'gateway-3', address: 25 },
    serial: 7_810_902,
    firmware: 515,
    values: {
      'motor.ratedPower': '0.75',
      'motor.ratedCurrent': '1.90',
      'motor.ratedSpeed': '2800',
      'command.source': 'terminals',
      'speed.source': 'analog input 1',
      'ramp.up': '15.0',
      'ramp.down': '30.0',
      'frequency.maximum': '110.0',
      'network.address': '25',
    },
  }),
  demoPosition(GLAZE, {
    tag: 'GL-PU-01',
    duty: 'Glaze pump',
    criticality: 'high',
    motor: 'Pump motor 1.5 kW, 400 V star, 3.6 A, 1420 rpm',
    model: 'toreka-c7@1',
    rating: 'C7-15',
    line: { name: 'gateway-3', address: 26 },
    serial: 7_810_917,
    firmware: 515,
    values: {
      'motor.ratedPower': '1.50',
      'motor.ratedCurrent': '3.60',
      'command.source': 'terminals',
      'speed.source': 'control loop',
      'loop.mode': 'on',
      'input.3.function': 'loop off',
      'program.mode': 'running',
      'program.inputs': '0b00001000',
      'loop.setpoint': '42.0',
      'loop.gain': '1.20',
      'loop.integralGain': '0.150',
      'ramp.up': '6.0',
      'ramp.down': '6.0',
      'frequency.maximum': '100.0',
      'network.address': '26',
    },
    changes: [
      {
        nightsAgo: 203,
        by: TECHNICIAN,
        reason: 'Calmer loop for the new nozzles',
        values: { 'loop.gain': '0.90', 'loop.integralGain': '0.110' },
        revision: true,
      },
      // Somebody on the night shift: no record, found by the next round.
      {
        nightsAgo: 6,
        by: null,
        reason: 'Night shift',
        values: { 'ramp.up': '2.5', 'frequency.maximum': '125.0' },
      },
    ],
  }),
];
