// Pairs of settings on different models, and whether they say the same: worked out by hand from the texts of the manuals,
// with the sum beside each. `a` and `b` are the model, values by what it states, and the rating where it matters.

import type { AcrossDifference } from '../compare/across-models.ts';

type Values = Readonly<Record<string, string>>;
type Drive = readonly [model: string, values: Values, rating?: string];

const HN20 = 'halvern-hn20';
const HN64 = 'halvern-hn64';
const C1 = 'toreka-c1';
const C7 = 'toreka-c7';
const F3 = 'toreka-f3';
const S4 = 'quenby-s4';

/** Four poles at 50 Hz: 1500 rpm are 50 Hz. */
const PLATE_C1: Values = { 'motor.baseFrequency': '50', 'motor.ratedSpeed': '1430' };
const BASE_50: Values = { 'motor.baseFrequency': '50.0' };

export const sameOrNot: readonly (readonly [string, AcrossDifference['kind'], Drive, Drive])[] = [
  // Power: 1500 W is 1.50 kW; 2 hp is 1491.4 W, within half of a quarter hp (93 W).
  ['motor.ratedPower', 'same', [HN64, { 'motor.ratedPower': '1500' }], [C7, { 'motor.ratedPower': '1.50' }]],
  ['motor.ratedPower', 'same', [HN64, { 'motor.ratedPower': '1500' }], [C1, { 'motor.ratedPower': '2.00' }]],
  ['motor.ratedPower', 'less', [HN64, { 'motor.ratedPower': '1600' }], [C1, { 'motor.ratedPower': '2.00' }]],
  ['motor.ratedPower', 'greater', [F3, { 'motor.ratedPower': '1.5' }], [C1, { 'motor.ratedPower': '3.00' }]],
  // Current: 3600 mA is 3.60 A.
  [
    'motor.ratedCurrent',
    'same',
    [S4, { 'motor.ratedCurrent': '3600' }],
    [HN64, { 'motor.ratedCurrent': '3.60' }],
  ],
  [
    'motor.ratedCurrent',
    'greater',
    [S4, { 'motor.ratedCurrent': '3600' }],
    [HN64, { 'motor.ratedCurrent': '3.62' }],
  ],
  // Poles: four pairs are eight; 60·50/1430 + 0.03 is 2.13: four poles.
  ['motor.poles', 'same', [S4, { 'motor.polePairs': '4' }], [HN64, { 'motor.poles': '8' }]],
  ['motor.poles', 'same', [HN20, { 'motor.poles': '4' }], [C1, PLATE_C1]],
  ['motor.poles', 'greater', [C1, PLATE_C1], [HN64, { 'motor.poles': '6' }]],
  // 60·50/1100 is 2.73: two pairs would slip by 27 %.
  [
    'motor.poles',
    'cannot-be-told',
    [HN64, { 'motor.poles': '4' }],
    [C1, { ...PLATE_C1, 'motor.ratedSpeed': '1100' }],
  ],
  // Boost in percent of rated voltage on all.
  ['motor.boost', 'same', [HN20, { 'motor.boost': '3.0' }], [HN64, { 'motor.boost': '3.0' }]],
  ['motor.boost', 'same', [C1, { 'motor.boost': '3' }], [F3, { 'motor.boost': '3.4' }]],
  ['motor.boost', 'greater', [C1, { 'motor.boost': '3' }], [F3, { 'motor.boost': '3.6' }]],
  // Start voltage ends at half of base frequency on one, where it is set on the other.
  ['motor.boostEnd', 'same', [HN20, BASE_50], [HN64, { 'motor.boostEnd': '25.00' }]],
  ['motor.boostEnd', 'less', [HN20, BASE_50], [HN64, { 'motor.boostEnd': '15.00' }]],
  // Slip: 50 − 2·1420/60 is 2.667 Hz; 2.0 Hz are 75 %.
  [
    'motor.slipCompensation',
    'same',
    [HN20, { 'motor.slipCompensation': '2.0', ...BASE_50, 'motor.ratedSpeed': '1420', 'motor.poles': '4' }],
    [HN64, { 'motor.slipCompensation': '75' }],
  ],
  [
    'motor.slipCompensation',
    'greater',
    [HN20, { 'motor.slipCompensation': '2.0', ...BASE_50, 'motor.ratedSpeed': '1420', 'motor.poles': '4' }],
    [HN64, { 'motor.slipCompensation': '100' }],
  ],
  [
    'motor.slipCompensation',
    'cannot-be-told',
    [HN20, { 'motor.slipCompensation': '2.0', ...BASE_50, 'motor.ratedSpeed': '1500', 'motor.poles': '4' }],
    [HN64, { 'motor.slipCompensation': '75' }],
  ],
  // Voltage curve and control method.
  [
    'motor.voltageCurve',
    'same',
    [HN20, { 'motor.voltageCurve': '1' }],
    [HN64, { 'motor.controlMethod': '1' }],
  ],
  ['motor.voltageCurve', 'same', [C1, { 'motor.voltageCurve': '0' }], [F3, { 'motor.voltageCurve': '1' }]],
  ['motor.voltageCurve', 'option', [C1, { 'motor.voltageCurve': '0' }], [F3, { 'motor.voltageCurve': '0' }]],
  [
    'motor.voltageCurve',
    'option',
    [HN20, { 'motor.voltageCurve': '0' }],
    [C7, { 'motor.controlMethod': '3' }],
  ],
  // Ramps: 12 s to 60 Hz are 10 s to 50 Hz; 10 s to 1500 rpm at four poles are 10 s to 50 Hz.
  [
    'ramp.up',
    'same',
    [HN20, { 'ramp.up': '12.0', 'frequency.maximum': '60.0' }],
    [HN64, { 'ramp.up': '10.00', 'motor.baseFrequency': '50.00' }],
  ],
  [
    'ramp.up',
    'greater',
    [HN20, { 'ramp.up': '12.0', 'frequency.maximum': '60.0' }],
    [HN64, { 'ramp.up': '12.00', 'motor.baseFrequency': '50.00' }],
  ],
  [
    'ramp.down',
    'same',
    [C1, { 'ramp.down': '10.0', 'motor.baseFrequency': '50', 'motor.ratedSpeed': '1500' }],
    [C7, { 'ramp.down': '10.0', ...BASE_50 }],
  ],
  // To 1430 rpm, 47.67 Hz, the same time is less steep.
  [
    'ramp.down',
    'less',
    [C1, { 'ramp.down': '10.0', ...PLATE_C1 }],
    [C7, { 'ramp.down': '10.0', ...BASE_50 }],
  ],
  [
    'ramp.up',
    'same',
    [F3, { 'ramp.up': '50.0', 'frequency.maximum': '50.0' }],
    [C7, { 'ramp.up': '60.0', 'motor.baseFrequency': '60.0' }],
  ],
  // The quick stop of an HN20 runs down the second ramp.
  [
    'ramp.quick',
    'same',
    [HN20, { 'ramp.down2': '2.0', 'frequency.maximum': '50.0' }],
    [HN64, { 'ramp.quick': '2.00', 'motor.baseFrequency': '50.00' }],
  ],
  // Speeds: hertz, percent of base frequency, rpm.
  [
    'frequency.maximum',
    'same',
    [HN64, { 'frequency.maximum': '50.00' }],
    [C7, { 'frequency.maximum': '100.0', ...BASE_50 }],
  ],
  [
    'frequency.maximum',
    'same',
    [HN20, { 'frequency.maximum': '50.0' }],
    [C1, { 'frequency.maximum': '1500', ...PLATE_C1 }],
  ],
  [
    'frequency.maximum',
    'less',
    [HN20, { 'frequency.maximum': '50.0' }],
    [C1, { 'frequency.maximum': '1430', ...PLATE_C1 }],
  ],
  [
    'frequency.minimum',
    'same',
    [F3, { 'frequency.minimum': '10.0' }],
    [C7, { 'frequency.minimum': '20.0', ...BASE_50 }],
  ],
  [
    'frequency.minimum',
    'cannot-be-told',
    [F3, { 'frequency.minimum': '10.0' }],
    [C7, { 'frequency.minimum': '20.0' }],
  ],
  ['jog.speed', 'same', [HN64, { 'jog.speed': '5.00' }], [C1, { 'jog.speed': '150', ...PLATE_C1 }]],
  ['jog.speed', 'same', [HN64, { 'jog.speed': '5.00' }], [C7, { 'jog.speed': '10.0', ...BASE_50 }]],
  ['jog.speed', 'same', [HN20, { 'jog.speed': '5.0' }], [S4, { 'jog.speed': '75', 'motor.polePairs': '4' }]],
  ['preset.2', 'same', [HN20, { 'preset.2': '10.0' }], [C7, { 'preset.2': '20.0', ...BASE_50 }]],
  ['preset.3', 'greater', [HN20, { 'preset.3': '15.0' }], [C1, { 'preset.3': '600', ...PLATE_C1 }]],
  // A contact for each preset is not a preset by bits.
  ['preset.2', 'only-a', [HN20, { 'preset.2': '10.0' }], [HN64, { 'preset.contact.2': '10.00' }]],
  ['raise.rate', 'same', [HN64, { 'raise.rate': '1.00' }], [C7, { 'raise.rate': '2.0', ...BASE_50 }]],
  ['raise.rate', 'same', [HN20, { 'raise.rate': '1.0' }], [C1, { 'raise.rate': '30', ...PLATE_C1 }]],
  ['output.level', 'same', [HN20, { 'output.level': '10.0' }], [C7, { 'output.level': '20.0', ...BASE_50 }]],
  ['output.level', 'same', [HN20, { 'output.level': '10.0' }], [C1, { 'output.level': '300', ...PLATE_C1 }]],
  [
    'brake.closeFrequency',
    'same',
    [HN64, { 'brake.closeFrequency': '1.00' }],
    [C7, { 'brake.closeFrequency': '2.0', ...BASE_50 }],
  ],
  ['stop.dcFrom', 'same', [HN20, { 'stop.dcFrom': '1.5' }], [C7, { 'stop.dcFrom': '3.0', ...BASE_50 }]],
  // Currents: 150 % of 4.0 A of the unit is 6.0 A; of 3.6 A of the motor 5.4 A.
  [
    'limit.current',
    'less',
    [HN20, { 'limit.current': '150' }, 'HN20-15'],
    [C1, { 'limit.current': '150', 'motor.ratedCurrent': '3.6' }],
  ],
  [
    'limit.current',
    'same',
    [HN20, { 'limit.current': '150' }, 'HN20-15'],
    [C7, { 'limit.current': '200', 'motor.ratedCurrent': '3.00' }],
  ],
  ['limit.current', 'same', [HN20, { 'limit.current': '150' }, 'HN20-15'], [F3, { 'limit.current': '6.0' }]],
  // At normal duty the unit of 1.5 kW bears 5.40 A: 100 % is 5.4 A.
  [
    'limit.current',
    'same',
    [HN64, { 'limit.current': '100', 'unit.duty': '1' }, 'HN64-15'],
    [F3, { 'limit.current': '5.4' }],
  ],
  [
    'limit.current',
    'greater',
    [HN64, { 'limit.current': '100', 'unit.duty': '0' }, 'HN64-15'],
    [F3, { 'limit.current': '5.4' }],
  ],
  // The servo: 200 % of 2550 mA is 5.1 A, below its own limit of 9.60 A.
  [
    'limit.current',
    'same',
    [S4, { 'limit.currentOwn': '9.60', 'limit.torque': '2000', 'motor.ratedCurrent': '2550' }],
    [F3, { 'limit.current': '5.1' }],
  ],
  [
    'stop.dcCurrent',
    'same',
    [HN20, { 'stop.dcCurrent': '45' }, 'HN20-15'],
    [HN64, { 'stop.dcCurrent': '50', 'motor.ratedCurrent': '3.60' }],
  ],
  [
    'protect.overloadCurrent',
    'same',
    [HN20, { 'protect.overloadCurrent': '90' }, 'HN20-15'],
    [HN64, { 'protect.overloadCurrent': '3.60' }],
  ],
  [
    'protect.overloadCurrent',
    'same',
    [C1, { 'motor.ratedCurrent': '3.6' }],
    [HN64, { 'protect.overloadCurrent': '3.60' }],
  ],
  [
    'protect.stallCurrent',
    'same',
    [HN20, { 'protect.stallCurrent': '160' }, 'HN20-15'],
    [HN64, { 'protect.stallCurrent': '160', 'motor.ratedCurrent': '4.00' }],
  ],
  [
    'brake.openCurrent',
    'less',
    [HN20, { 'brake.openCurrent': '30' }, 'HN20-15'],
    [C7, { 'brake.openCurrent': '30', 'motor.ratedCurrent': '3.00' }],
  ],
  // Stop mode: by bits of a word, bit 1 before bit 11; by a list.
  ['stop.mode', 'same', [HN20, { 'unit.optionsWord': '0b0000000000000010' }], [HN64, { 'stop.mode': '1' }]],
  ['stop.mode', 'same', [HN20, { 'unit.optionsWord': '0b0000100000000010' }], [C1, { 'stop.mode': '1' }]],
  ['stop.mode', 'same', [HN20, { 'unit.optionsWord': '0b0000100000000000' }], [C7, { 'stop.mode': '2' }]],
  ['stop.mode', 'option', [HN20, { 'unit.optionsWord': '0b0000000000000000' }], [F3, { 'stop.mode': '1' }]],
  [
    'command.wiring',
    'same',
    [HN20, { 'unit.optionsWord': '0b0100000000000000' }],
    [HN64, { 'command.wiring': '2' }],
  ],
  [
    'command.wiring',
    'option',
    [HN20, { 'unit.optionsWord': '0b0000000000000000' }],
    [C7, { 'command.wiring': '1' }],
  ],
  [
    'input.5.sense',
    'same',
    [HN20, { 'unit.optionsWord': '0b0000000010000000' }],
    [C7, { 'input.senses': '0b00010000' }],
  ],
  [
    'input.5.sense',
    'option',
    [HN20, { 'unit.optionsWord': '0b0000000010000000' }],
    [HN64, { 'input.5.sense': '0' }],
  ],
  // Signal with a live zero: current, and bit 8.
  [
    'analog.1.signal',
    'same',
    [HN20, { 'analog.1.signal': '1', 'unit.optionsWord': '0b0000000100000000' }],
    [HN64, { 'analog.1.signal': '3' }],
  ],
  [
    'analog.1.signal',
    'option',
    [HN20, { 'analog.1.signal': '1', 'unit.optionsWord': '0b0000000000000000' }],
    [HN64, { 'analog.1.signal': '3' }],
  ],
  // Bit 8 does nothing with 0 to 10 V.
  [
    'analog.1.signal',
    'same',
    [HN20, { 'analog.1.signal': '0', 'unit.optionsWord': '0b0000000100000000' }],
    [F3, { 'analog.1.signal': '0' }],
  ],
  [
    'analog.1.loss',
    'same',
    [HN20, { 'unit.optionsWord': '0b0000001000000000' }],
    [C7, { 'analog.1.loss': '2' }],
  ],
  // Gain 92 %, bias 4 %: from 4 % to 96 %.
  [
    'analog.1.curve',
    'same',
    [HN20, { 'analog.1.gain': '92.0', 'analog.1.bias': '4.0', 'frequency.maximum': '50.0' }],
    [HN64, { 'analog.1.low': '4.0', 'analog.1.high': '96.0', 'frequency.maximum': '50.00' }],
  ],
  // Gain 200 %: full at half of the signal, and level beyond; end points go on to 100 Hz.
  [
    'analog.1.curve',
    'greater',
    [HN20, { 'analog.1.gain': '200.0', 'analog.1.bias': '0.0', 'frequency.maximum': '50.0' }],
    [HN64, { 'analog.1.low': '0.0', 'analog.1.high': '200.0', 'frequency.maximum': '50.00' }],
  ],
  // Held below the lower point: 0 rpm up to 10 %, then to 1500 rpm; a bias of −11 % and a gain of 111 % do the same.
  [
    'analog.1.curve',
    'same',
    [
      C1,
      {
        'analog.1.pointLow.signal': '10',
        'analog.1.pointLow.speed': '0',
        'analog.1.pointHigh.signal': '100',
        'analog.1.pointHigh.speed': '1500',
        ...PLATE_C1,
      },
    ],
    [HN20, { 'analog.1.gain': '111.0', 'analog.1.bias': '-11.0', 'frequency.maximum': '50.0' }],
  ],
  [
    'analog.1.curve',
    'cannot-be-told',
    [
      C1,
      {
        'analog.1.pointLow.signal': '10',
        'analog.1.pointLow.speed': '0',
        'analog.1.pointHigh.signal': '10',
        'analog.1.pointHigh.speed': '1500',
        ...PLATE_C1,
      },
    ],
    [HN20, { 'analog.1.gain': '100.0', 'analog.1.bias': '0.0', 'frequency.maximum': '50.0' }],
  ],
  // Percent of base on the C7 and of the maximum on the HN64: 120 % of 50 Hz is 100 % of 60 Hz.
  [
    'analog.1.curve',
    'same',
    [C7, { 'analog.1.low': '0.0', 'analog.1.high': '120.0', ...BASE_50 }],
    [HN64, { 'analog.1.low': '0.0', 'analog.1.high': '100.0', 'frequency.maximum': '60.00' }],
  ],
  // Meter: gain 50 % of 50 Hz is full at 100 Hz; 200 % of base 50 Hz, too.
  [
    'analogOutput.full',
    'same',
    [HN20, { 'analogOutput.gain': '50.0', 'analogOutput.source': '0', 'frequency.maximum': '50.0' }],
    [HN64, { 'analogOutput.scale': '200.0', 'analogOutput.source': '0', 'motor.baseFrequency': '50.00' }],
  ],
  // Twice the rated current of the unit at 100 %: 8.0 A, beside 3.6 A.
  [
    'analogOutput.full',
    'less',
    [HN20, { 'analogOutput.gain': '100.0', 'analogOutput.source': '1' }, 'HN20-15'],
    [HN64, { 'analogOutput.scale': '100.0', 'analogOutput.source': '1', 'motor.ratedCurrent': '3.60' }],
  ],
  [
    'analogOutput.full',
    'another-kind',
    [HN20, { 'analogOutput.gain': '100.0', 'analogOutput.source': '1' }, 'HN20-15'],
    [HN64, { 'analogOutput.scale': '100.0', 'analogOutput.source': '0', 'motor.baseFrequency': '50.00' }],
  ],
  // Loop: a band of 50 % is a gain of 2; the output counts to 50 Hz on both.
  [
    'loop.gain',
    'same',
    [HN20, { 'loop.gain': '2.0', 'frequency.maximum': '50.0' }],
    [F3, { 'loop.bandWidth': '50.0', 'frequency.maximum': '50.0' }],
  ],
  [
    'loop.gain',
    'less',
    [HN20, { 'loop.gain': '2.0', 'frequency.maximum': '60.0' }],
    [F3, { 'loop.bandWidth': '50.0', 'frequency.maximum': '50.0' }],
  ],
  [
    'loop.gain',
    'same',
    [HN64, { 'loop.gain': '1.20', 'frequency.maximum': '50.00' }],
    [C7, { 'loop.gain': '1.20', ...BASE_50 }],
  ],
  // 1.00 / 0.100 1/s is 10 s.
  [
    'loop.integralTime',
    'same',
    [HN20, { 'loop.integralTime': '10.0' }],
    [C7, { 'loop.gain': '1.00', 'loop.integralGain': '0.100' }],
  ],
  [
    'loop.integralTime',
    'less',
    [HN20, { 'loop.integralTime': '20.0' }],
    [C7, { 'loop.gain': '1.00', 'loop.integralGain': '0.100' }],
  ],
  [
    'loop.integralTime',
    'same',
    [HN64, { 'loop.integralTime': '0.00' }],
    [F3, { 'loop.integralTime': '0.0' }],
  ],
  [
    'loop.integralTime',
    'another-kind',
    [HN64, { 'loop.integralTime': '0.00' }],
    [HN20, { 'loop.integralTime': '360.0' }],
  ],
  [
    'loop.integralTime',
    'cannot-be-told',
    [HN20, { 'loop.integralTime': '10.0' }],
    [C7, { 'loop.gain': '0.00', 'loop.integralGain': '0.100' }],
  ],
  // −25 Pa of −100 to 0 Pa is 75 %.
  [
    'loop.setpoint',
    'same',
    [F3, { 'loop.setpointUnit': '-25.0', 'loop.scaleLow': '-100.0', 'loop.scaleHigh': '0.0' }],
    [HN64, { 'loop.setpoint': '75.0' }],
  ],
  [
    'loop.setpoint',
    'cannot-be-told',
    [F3, { 'loop.setpointUnit': '-25.0', 'loop.scaleLow': '0.0', 'loop.scaleHigh': '0.0' }],
    [HN64, { 'loop.setpoint': '75.0' }],
  ],
  ['loop.mode', 'same', [HN20, { 'loop.mode': '2' }], [F3, { 'loop.mode': '2' }]],
  ['loop.sleep', 'same', [HN64, { 'loop.sleep': '20.00' }], [C7, { 'loop.sleep': '40.0', ...BASE_50 }]],
  ['loop.sleep', 'same', [HN64, { 'loop.sleep': '0.00' }], [C7, { 'loop.sleep': '0.0' }]],
  [
    'loop.outputMaximum',
    'same',
    [HN64, { 'loop.outputMaximum': '80.0', 'frequency.maximum': '50.00' }],
    [C7, { 'loop.outputMaximum': '80.0', ...BASE_50 }],
  ],
  // Skip: 20 Hz with a width of 2 Hz is from 19 to 21 Hz.
  [
    'skip.1.from',
    'same',
    [HN64, { 'skip.1.middle': '20.00', 'skip.width': '2.00' }],
    [F3, { 'skip.1.from': '19.0', 'skip.1.to': '21.0' }],
  ],
  [
    'skip.1.to',
    'greater',
    [HN64, { 'skip.1.middle': '20.00', 'skip.width': '2.00' }],
    [F3, { 'skip.1.from': '19.0', 'skip.1.to': '22.0' }],
  ],
  [
    'skip.1.from',
    'same',
    [HN64, { 'skip.1.middle': '0.00', 'skip.width': '2.00' }],
    [HN20, { 'skip.1.middle': '20.0', 'skip.width': '0.0' }],
  ],
  // Equal edges leave no band, nor does a middle of 0.00.
  [
    'skip.1.from',
    'same',
    [HN64, { 'skip.1.middle': '0.00', 'skip.width': '2.00' }],
    [F3, { 'skip.1.from': '30.0', 'skip.1.to': '30.0' }],
  ],
  // By value, never by the number of the option.
  ['network.baud', 'same', [HN20, { 'network.baud': '1' }], [HN64, { 'network.baud': '0' }]],
  ['network.baud', 'greater', [HN20, { 'network.baud': '1' }], [HN64, { 'network.baud': '1' }]],
  ['carrier.frequency', 'same', [S4, { 'carrier.frequency': '0' }], [HN64, { 'carrier.frequency': '4.0' }]],
  ['network.loss', 'option', [C1, { 'network.loss': '1' }], [HN64, { 'network.loss': '2' }]],
  ['network.watch', 'same', [HN20, { 'network.watch': '5.0' }], [F3, { 'network.watch': '5' }]],
  [
    'direction.allowed',
    'same',
    [HN20, { 'unit.optionsWord': '0b0000000000001000' }],
    [HN64, { 'direction.allowed': '1' }],
  ],
  ['direction.allowed', 'same', [C1, { 'direction.allowed': '0' }], [F3, { 'direction.allowed': '1' }]],
  // Kept over a stop: a bit for both, always, or a setting of its own.
  [
    'raise.keepOverStop',
    'same',
    [HN20, { 'unit.optionsWord': '0b0000000000000100' }],
    [C1, { 'raise.keepOverStop': '1' }],
  ],
  [
    'raise.keepOverSupply',
    'option',
    [HN20, { 'unit.optionsWord': '0b0000000000000100' }],
    [C1, { 'raise.keepOverStop': '1' }],
  ],
  [
    'command.startLock',
    'same',
    [HN20, { 'unit.optionsWord': '0b0000000001000000' }],
    [C1, { 'command.startLock': '1' }],
  ],
  [
    'command.resetLock',
    'option',
    [HN20, { 'unit.optionsWord': '0b0000000000000000' }],
    [C1, { 'command.startLock': '0' }],
  ],
  ['motor.cooling', 'same', [C1, { 'protect.overloadAction': '2' }], [C7, { 'motor.cooling': '1' }]],
  ['protect.inputPhase', 'same', [C1, { 'protect.phases': '1' }], [HN64, { 'protect.inputPhase': '2' }]],
  ['protect.outputPhase', 'option', [C1, { 'protect.phases': '1' }], [HN64, { 'protect.outputPhase': '2' }]],
  [
    'input.2.function',
    'same',
    [C1, { 'input.2.function': '2', 'command.wiring': '0' }],
    [HN20, { 'input.2.function': '2' }],
  ],
  [
    'input.2.function',
    'option',
    [C1, { 'input.2.function': '2', 'command.wiring': '1' }],
    [HN20, { 'input.2.function': '2' }],
  ],
  [
    'trim.weight',
    'same',
    [HN64, { 'trim.weight': '10.0', 'frequency.maximum': '50.00' }],
    [C7, { 'trim.weight': '10.0', ...BASE_50 }],
  ],
  [
    'restart.fault.overvoltage',
    'same',
    [HN64, { 'restart.faults': '0b00000110' }],
    [F3, { 'restart.faults': '0b0000000001000110' }],
  ],
  [
    'restart.fault.signalLost',
    'option',
    [HN64, { 'restart.faults': '0b00000110' }],
    [F3, { 'restart.faults': '0b0000000001000110' }],
  ],
  ['ramp.shape', 'same', [HN20, { 'unit.optionsWord': '0b0000000000000000' }], [C1, { 'ramp.shape': '0' }]],
  ['ramp.shape', 'option', [HN20, { 'unit.optionsWord': '0b0000010000000000' }], [C1, { 'ramp.shape': '1' }]],
];
