// Body preparation: slip agitators on the obsolete model, the ball mill, slip pumps.

import type { ValuesByMeaning } from './demo-values.ts';
import { demoPosition, TECHNICIAN, type DemoPosition } from './story.ts';

const AREA = 'Body preparation';
const AGITATORS = { area: AREA, machine: 'Slip agitators' };
const PUMPS = { area: AREA, machine: 'Slip pumps' };

const AGITATOR: ValuesByMeaning = {
  'motor.ratedPower': '2.20',
  'motor.ratedVoltage': '400',
  'motor.ratedCurrent': '5.0',
  'motor.ratedSpeed': '1430',
  'motor.slipCompensation': '2.3',
  'command.source': 'terminals',
  'speed.source': 'presets',
  'ramp.up': '12.0',
  'ramp.down': '12.0',
  'preset.1': '18.0',
  'preset.2': '32.0',
  'preset.3': '41.0',
  'input.2.function': 'stop, three-wire',
  'input.3.function': 'preset bit 0',
  'input.4.function': 'preset bit 1',
  // Three-wire; input 5 on when open; wait until the run contact opened once; fan by temperature.
  'unit.optionsWord': '0b0100000011000000',
  'protect.overloadCurrent': '90',
  'restart.count': '2',
};

/** Its speed is raised and lowered and remembered; the drive's relay holds the start. */
const BY_BUTTONS: ValuesByMeaning = {
  ...AGITATOR,
  'speed.source': 'raise and lower',
  'input.2.function': 'none',
  'input.3.function': 'raise',
  'input.4.function': 'lower',
  'unit.optionsWord': '0b0000000011000100',
  'output.1.function': 'running',
};

const agitator = (number: number, own: Partial<DemoPosition>): DemoPosition =>
  demoPosition(AGITATORS, {
    tag: `BP-AG-0${number}`,
    duty: `Slip agitator, tank ${number}`,
    motor: 'Agitator motor 2.2 kW, 400 V star, 5.0 A, 1430 rpm',
    model: 'halvern-hn20@1',
    rating: 'HN20-22',
    serial: 204_100 + number * 13,
    firmware: 142,
    values: AGITATOR,
    ...own,
  });

const PUMP: ValuesByMeaning = {
  'motor.ratedPower': '5.5',
  'motor.ratedCurrent': '11.2',
  'motor.ratedSpeed': '1450',
  'motor.voltageCurve': 'displacement pump, linear',
  'command.source': 'terminals',
  'speed.source': 'analog input 1',
  'analog.1.signal': '4 to 20 mA',
  'analog.1.loss': 'fault',
  'command.startLock': 'must open first',
  'stop.mode': 'ramp',
  'ramp.up': '8.0',
  'ramp.down': '8.0',
  'ramp.first': '2.0',
  'frequency.minimum': '15.0',
  'restart.count': '0',
  'pump.dryAction': 'fault',
};

const pump = (number: number): DemoPosition =>
  demoPosition(PUMPS, {
    tag: `BP-SP-0${number}`,
    duty: `Slip pump ${number}`,
    motor: 'Pump motor 5.5 kW, 400 V star, 11.2 A, 1450 rpm',
    model: 'toreka-f3@1',
    rating: 'F3-55',
    line: { name: number === 3 ? 'gateway-2' : 'gateway-1', address: 20 + number },
    serial: 3_301_000 + number * 11,
    firmware: 238,
    values: { ...PUMP, 'network.address': String(20 + number) },
  });

export const bodyPreparation: readonly DemoPosition[] = [
  agitator(1, {
    line: { name: 'gateway-1', address: 14 },
    values: { ...AGITATOR, 'network.address': '14' },
    criticality: 'high',
  }),
  agitator(2, { readOff: [702, 338, 121], runs: true, values: BY_BUTTONS }),
  agitator(3, {
    line: { name: 'gateway-1', address: 16 },
    values: { ...AGITATOR, 'network.address': '16' },
    runs: false,
    failing: { nights: 5, outcome: 'no-answer' },
    mischief: { silent: true },
  }),
  demoPosition(
    { area: AREA, machine: 'Ball mill' },
    {
      tag: 'BP-BM-01',
      duty: 'Ball mill',
      criticality: 'high',
      motor: 'Mill motor 15 kW, 400 V delta, 29 A, 1465 rpm',
      model: 'halvern-hn64@1',
      rating: 'HN64-150',
      line: { name: 'gateway-2', address: 24 },
      serial: 6_402_871,
      firmware: 211,
      values: {
        'motor.ratedPower': '15000',
        'motor.ratedVoltage': '400',
        'motor.ratedCurrent': '29.00',
        'motor.ratedSpeed': '1465',
        'unit.duty': 'normal (120 % for 60 s)',
        'motor.controlMethod': 'vector without encoder',
        'identify.use': 'identified',
        'ramp.up': '25.00',
        'ramp.down': '40.00',
        // More than normal duty bears for a minute.
        'limit.current': '170',
        'speed.source': 'analog input 1',
        'command.powerUp': 'as before',
        'protect.stallAction': 'fault',
        'network.address': '24',
      },
      changes: [
        {
          nightsAgo: 288,
          by: TECHNICIAN,
          reason: 'New liner: longer ramp, agreed with the engineer',
          values: { 'ramp.up': '35.00' },
          revision: true,
        },
      ],
    },
  ),
  pump(1),
  pump(2),
  pump(3),
];
