// Drives for the checks: for each check one that has what it looks for, the nearest one that has not, and one of which it cannot
// be told. Values by meaning in plain units; wirings as rows of their table.

import type { Dictionary } from '../dictionary/index.ts';
import type { Known } from '../checks/index.ts';
import type { MotorPlate, PlateRating } from '../motor/index.ts';

export interface Told {
  readonly model?: string;
  readonly values?: Readonly<Record<string, string | number>>;
  /** Rows of the wiring; nothing where none is kept. */
  readonly wiring?: readonly string[] | null;
  readonly known?: Omit<Known, 'wiring' | 'peers' | 'baseline'>;
  /** Values of each peer. */
  readonly peers?: readonly Readonly<Record<string, string | number>>[];
  /** Values of the signed baseline, on top of this drive's own. */
  readonly baseline?: Readonly<Record<string, string | number>> | 'none';
  /** Meanings that the set does not have. */
  readonly without?: readonly string[];
  readonly rating?: string;
  /** Raw values that no write would take. */
  readonly raw?: Readonly<Record<string, number>>;
  /** A model of somebody's own, made of a shipped one. */
  readonly own?: (model: Dictionary) => Dictionary;
}

export interface CheckedCase {
  readonly has: Told;
  readonly hasNot: Told;
  /** Nothing where it can always be told. */
  readonly untold: Told | null;
}

const plate = (rating: PlateRating, more: Partial<MotorPlate> = {}): { readonly plate: MotorPlate } => ({
  plate: {
    ratings: [{ voltage: 400, frequency: 50, current: 1.9, power: 750, speed: 1420, ...rating }],
    ...more,
  },
});
const site = (more: Partial<NonNullable<Known['site']>>) => ({
  site: {
    ...{ ambient: null, nominalVolts: null, measuredVolts: null, hertz: null, residualMilliamps: null },
    ...more,
  },
});

const F3 = 'toreka-f3@1';
const C7 = 'toreka-c7@1';
const S4 = 'quenby-s4@1';
const HN20 = 'halvern-hn20@1';

const contact = (name: string, terminal: string, supply: string, how = 'contacts 13-14 closes') => {
  const [a, b] = how.includes('21-22') ? ['21', '22'] : ['13', '14'];
  return [
    `contact,${name},,,,${how},`,
    `wire,,,${terminal},${name}:${b},,`,
    `wire,,,${supply},${name}:${a},,`,
  ];
};
const LINK = 'link,,,21,22,drive,';
const RUN = [...contact('S1', '23', '20'), LINK];
const RUN_BUTTON = [...contact('S1', '23', '20', 'contacts 13-14 closes; momentary'), LINK];
const RUN_OPENS = [...contact('S1', '23', '20', 'contacts 21-22 opens'), LINK];
const sender = (facts: string, at: string, zero: string) => [
  `transmitter,B7,,,,${facts},`,
  `wire,,,${at},B7:out,,`,
  `wire,,,${zero},B7:0,,`,
];
const FOUR_TO_TWENTY = '4-20-ma; 4 wires; range 0 to 100 %';
const LOOP = {
  'loop.setpoint': 50,
  'loop.mode': 'raises',
  'speed.source': 'source.loop',
  'loop.feedback': 'analog-2',
};
const F3_LOOP: Told = { model: F3, values: { ...LOOP, 'analog.2.signal': '4-20-ma' } };
const DRAUGHT = sender('4-20-ma; 4 wires; range -100 to 0 Pa', 'AI2', 'AC');

export const checkedDrives: Readonly<Record<string, CheckedCase>> = {
  'limits-crossed': {
    has: { model: S4, values: { 'travel.minimum': 500, 'travel.maximum': 400 } },
    hasNot: { model: S4, values: { 'travel.minimum': 400, 'travel.maximum': 400 } },
    untold: { without: ['frequency.maximum'] },
  },
  // In heavy duty the current of the motor goes up to 4.60 A.
  'outside-range': {
    has: { raw: { '03M': 461 } },
    hasNot: { raw: { '03M': 460 } },
    untold: { rating: 'HN64-9' },
  },
  'speed-outside': {
    has: { values: { 'frequency.minimum': 12, 'preset.contact.1': 9, 'input.4.function': 'preset.1' } },
    hasNot: {
      values: {
        'frequency.minimum': 12,
        'preset.contact.1': 15,
        'preset.contact.2': 9,
        'input.4.function': 'preset.1',
      },
    },
    untold: { without: ['frequency.maximum'] },
  },
  'skip-over-speed': {
    has: {
      values: { 'skip.1.from': 18, 'skip.1.to': 20, 'preset.contact.1': 20, 'input.4.function': 'preset.1' },
    },
    hasNot: {
      values: { 'skip.1.from': 18, 'skip.1.to': 20, 'preset.contact.1': 18, 'input.4.function': 'preset.1' },
    },
    untold: { values: { 'skip.1.from': 18, 'skip.1.to': 20 }, without: ['skip.1.middle'] },
  },
  // 5.04 Nm of 750 W at 1420 rpm, times 150 % of 2.3 A over 1.9 A is 9.16 Nm; 0.05 kg·m² to 1420 rpm: 0.81 s.
  'ramp-too-short': {
    has: { values: { 'ramp.up': 0.8 / 50 }, known: plate({}, { inertia: 0.05 }) },
    hasNot: { values: { 'ramp.up': 0.82 / 50 }, known: plate({}, { inertia: 0.05 }) },
    untold: { values: { 'ramp.up': 0.5 / 50 }, known: plate({}) },
  },
  // ½·0.05·148.7² is 553 J; √3·400·1.9·0.8 − 750 is 303 W: 1.8 s.
  'braking-too-short': {
    has: {
      values: { 'ramp.down': 1.7 / 50, 'limit.busVoltage': 'off' },
      known: plate({ powerFactor: 0.8 }, { inertia: 0.05 }),
    },
    hasNot: {
      values: { 'ramp.down': 1.9 / 50, 'limit.busVoltage': 'off' },
      known: plate({ powerFactor: 0.8 }, { inertia: 0.05 }),
    },
    untold: {
      values: { 'ramp.down': 1.7 / 50, 'limit.busVoltage': 'off' },
      known: plate({}, { inertia: 0.05 }),
    },
  },
  // 105 % of 1.9 A is 1.995 A.
  'current-over-plate': {
    has: { values: { 'motor.ratedCurrent': 2.01 }, known: plate({}) },
    hasNot: { values: { 'motor.ratedCurrent': 2.0 }, known: plate({}) },
    untold: { values: { 'motor.ratedCurrent': 2.01 } },
  },
  // 4.10 A · 0.88 · 0.91 is 3.28 A at 6 kHz; at 4 kHz it is 3.61 A.
  'current-over-unit': {
    has: {
      rating: 'HN64-15',
      values: { 'motor.ratedCurrent': 3.6, 'carrier.frequency': 6000, 'carrier.auto': 'off' },
      known: site({ ambient: 50 }),
    },
    hasNot: {
      rating: 'HN64-15',
      values: { 'motor.ratedCurrent': 3.6, 'carrier.frequency': 4000, 'carrier.auto': 'off' },
      known: site({ ambient: 50 }),
    },
    untold: {
      rating: 'HN64-15',
      values: { 'motor.ratedCurrent': 3.6, 'carrier.frequency': 4000 },
      without: ['site.ambient'],
    },
  },
  // In normal duty the unit bears 120 %.
  'limit-over-unit': {
    has: { values: { 'unit.duty': 'normal' }, raw: { '19R': 121 } },
    hasNot: { values: { 'unit.duty': 'normal' }, raw: { '19R': 120 } },
    untold: { model: C7 },
  },
  'overload-over-plate': {
    has: { values: { 'protect.overloadCurrent': 2.01 }, known: plate({}) },
    hasNot: { values: { 'protect.overloadCurrent': 2.0 }, known: plate({}) },
    untold: { values: { 'protect.overloadCurrent': 2.01 }, without: ['motor.ratedCurrent'] },
  },
  'overload-off': {
    has: { model: C7, values: { 'protect.overloadAction': 'off' } },
    hasNot: { model: C7, values: { 'protect.overloadAction': 'off', 'protect.sensor': 'ptc' } },
    untold: null,
  },
  'plate-frequency': {
    has: { values: { 'motor.baseFrequency': 60 }, known: plate({}) },
    // 87 Hz: the winding for 230 V in delta at 400 V.
    hasNot: {
      values: { 'motor.baseFrequency': 87, 'motor.ratedVoltage': 400 },
      known: plate({ voltage: 230 }),
    },
    untold: { values: { 'motor.baseFrequency': 60 } },
  },
  'plate-voltage': {
    has: { values: { 'motor.ratedVoltage': 427 }, known: { ...plate({}), ...site({ measuredVolts: 427 }) } },
    hasNot: { values: { 'motor.ratedVoltage': 415 }, known: plate({}) },
    untold: { values: { 'motor.ratedVoltage': 427 } },
  },
  'v-per-hertz': {
    has: { values: { 'motor.ratedVoltage': 400, 'motor.baseFrequency': 45 }, known: plate({}) },
    hasNot: {
      values: { 'motor.ratedVoltage': 400, 'motor.baseFrequency': 87 },
      known: plate({ voltage: 230 }),
    },
    untold: { values: { 'motor.baseFrequency': 45 } },
  },
  'supply-below': {
    has: { values: { 'motor.ratedVoltage': 400 }, known: site({ measuredVolts: 379 }) },
    hasNot: { values: { 'motor.ratedVoltage': 400 }, known: site({ measuredVolts: 427 }) },
    untold: { values: { 'motor.ratedVoltage': 400 } },
  },
  // Four poles: 1800 rpm are 60 Hz.
  'maximum-over-motor': {
    has: { values: { 'frequency.maximum': 60.1 }, known: plate({}, { maximumSpeed: 1800 }) },
    hasNot: { values: { 'frequency.maximum': 60 }, known: plate({}, { maximumSpeed: 1800 }) },
    untold: { values: { 'frequency.maximum': 60.1 }, known: plate({}) },
  },
  'speed-poles': {
    has: { values: { 'motor.ratedSpeed': 1420, 'motor.poles': 2 } },
    hasNot: { values: { 'motor.ratedSpeed': 2840, 'motor.poles': 2 } },
    untold: { without: ['motor.ratedSpeed'] },
  },
  // √3·400·1.9 is 1316 VA: with cos φ 1 no more than that.
  'power-contradicts': {
    has: { values: { 'motor.ratedPower': 1500, 'motor.ratedCurrent': 1.9 } },
    hasNot: { values: { 'motor.ratedPower': 750, 'motor.ratedCurrent': 1.9 } },
    untold: { without: ['motor.powerFactor'] },
  },
  'hp-for-kw': {
    has: { values: { 'motor.ratedPower': 1006 }, known: plate({}) },
    hasNot: { values: { 'motor.ratedPower': 900 }, known: plate({}) },
    untold: { values: { 'motor.ratedPower': 1006 } },
  },
  'star-for-delta': {
    has: { values: { 'motor.ratedCurrent': 3.29 }, known: plate({}) },
    hasNot: { values: { 'motor.ratedCurrent': 2.9 }, known: plate({}) },
    untold: { values: { 'motor.ratedCurrent': 3.29 } },
  },
  'off-by': {
    has: {
      values: { 'restart.wait': 100 },
      peers: [{ 'restart.wait': 10 }, { 'restart.wait': 10 }, { 'restart.wait': 10 }],
    },
    hasNot: {
      values: { 'restart.wait': 100 },
      peers: [{ 'restart.wait': 10 }, { 'restart.wait': 100 }, { 'restart.wait': 30 }],
    },
    untold: null,
  },
  'identified-unused': {
    has: { values: { 'motor.statorResistance': 13.1, 'identify.use': 'plate' } },
    hasNot: { values: { 'motor.statorResistance': 13.1, 'identify.use': 'identified' } },
    untold: { values: { 'motor.statorResistance': 13.1 }, without: ['identify.use'] },
  },
  'identified-far': {
    has: {
      values: { 'motor.statorResistance': 14, 'identify.use': 'identified' },
      known: plate({}, { resistance: 9.8 }),
    },
    hasNot: {
      values: { 'motor.statorResistance': 13.1, 'identify.use': 'identified' },
      known: plate({}, { resistance: 9.8 }),
    },
    untold: { values: { 'motor.statorResistance': 14, 'identify.use': 'identified' }, known: plate({}) },
  },
  'input-dead': {
    has: { values: { 'input.5.function': 'jog', 'command.source': 'source.keypad' } },
    hasNot: { values: { 'input.5.function': 'jog' } },
    untold: { values: { 'input.5.function': 'jog' }, without: ['command.source'] },
  },
  'run-contradicts': {
    has: {
      values: {
        'input.2.function': 'direction',
        'direction.allowed': 'forward',
        'command.wiring': 'direction',
      },
      wiring: [...RUN, ...contact('S2', '24', '20')],
    },
    hasNot: {
      values: { 'input.2.function': 'direction', 'direction.allowed': 'both', 'command.wiring': 'direction' },
      wiring: [...RUN, ...contact('S2', '24', '20')],
    },
    untold: { without: ['command.wiring'] },
  },
  'contact-sense': {
    has: { wiring: RUN_OPENS },
    hasNot: { values: { 'input.1.sense': 'open' }, wiring: RUN_OPENS },
    untold: {},
  },
  'stop-unfed': {
    has: { values: { 'command.wiring': 'three-wire', 'input.3.function': 'stop' }, wiring: RUN_BUTTON },
    hasNot: {
      values: { 'command.wiring': 'three-wire', 'input.3.function': 'stop' },
      wiring: [...RUN_BUTTON, ...contact('S0', '25', '20', 'contacts 21-22 opens; momentary')],
    },
    untold: { values: { 'command.wiring': 'three-wire', 'input.3.function': 'stop' } },
  },
  'external-open': {
    has: { values: { 'input.5.function': 'external-fault', 'input.5.sense': 'open' }, wiring: RUN },
    hasNot: {
      values: { 'input.5.function': 'external-fault', 'input.5.sense': 'open' },
      wiring: [...RUN, 'link,,,27,20,plug,'],
    },
    untold: { values: { 'input.5.function': 'external-fault', 'input.5.sense': 'open' } },
  },
  'program-owns': {
    has: { model: C7, values: { 'input.4.owner': 'program', 'input.4.function': 'jog' } },
    hasNot: { model: C7, values: { 'input.4.owner': 'drive', 'input.4.function': 'jog' } },
    untold: null,
  },
  // A pulse at 1000 Hz is 0.5 ms long. The shipped model puts the filter off while it counts; this one does not say so.
  'count-filter': {
    has: {
      own: (model) => ({ ...model, effects: [] }),
      values: { 'input.7.function': 'count', 'input.7.filter': 0.001, 'input.count.scale': 1000 },
    },
    hasNot: { values: { 'input.7.function': 'count', 'input.count.scale': 1000 } },
    untold: {
      own: (model) => ({ ...model, effects: [] }),
      values: { 'input.7.function': 'count' },
      without: ['input.7.filter'],
    },
  },
  'signal-board': {
    has: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma' },
      wiring: [...RUN, ...sender(FOUR_TO_TWENTY, '41', '42')],
    },
    hasNot: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma' },
      wiring: [...RUN, ...sender(FOUR_TO_TWENTY, '41', '42'), 'switch,S1,,,,mA,'],
    },
    untold: { values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma' } },
  },
  'signal-sender': {
    has: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '0-20-ma' },
      wiring: [...RUN, ...sender(FOUR_TO_TWENTY, '41', '42')],
    },
    hasNot: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma' },
      wiring: [...RUN, ...sender(FOUR_TO_TWENTY, '41', '42')],
    },
    untold: { values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '0-20-ma' } },
  },
  'live-zero-unwatched': {
    has: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'ignore' },
    },
    hasNot: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '0-20-ma', 'analog.1.loss': 'ignore' },
    },
    untold: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma' },
      without: ['analog.1.loss'],
    },
  },
  // The model takes a signal for lost below 2 mA.
  'loss-unseen': {
    has: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'fault' },
      wiring: sender(`${FOUR_TO_TWENTY}; fails at 3.6 mA`, '41', '42'),
    },
    hasNot: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'fault' },
      wiring: sender(`${FOUR_TO_TWENTY}; fails at 1.9 mA`, '41', '42'),
    },
    untold: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'fault' },
      wiring: sender(FOUR_TO_TWENTY, '41', '42'),
    },
  },
  'curve-flat': {
    has: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.curve': '0..20', 'frequency.minimum': 20 },
    },
    hasNot: {
      values: { 'speed.source': 'source.analog.1', 'analog.1.curve': '0..21', 'frequency.minimum': 20 },
    },
    untold: { values: { 'speed.source': 'source.analog.1' }, without: ['analog.1.high'] },
  },
  'loop-no-feedback': {
    has: { ...F3_LOOP, wiring: [] },
    hasNot: { ...F3_LOOP, wiring: DRAUGHT },
    untold: F3_LOOP,
  },
  'loop-sense': {
    has: { ...F3_LOOP, wiring: DRAUGHT },
    hasNot: { ...F3_LOOP, values: { ...F3_LOOP.values, 'loop.mode': 'lowers' }, wiring: DRAUGHT },
    untold: { ...F3_LOOP, wiring: [] },
  },
  'loop-setpoint': {
    has: {
      ...F3_LOOP,
      values: { ...F3_LOOP.values, 'loop.scaleLow': -50, 'loop.scaleHigh': 0 },
      wiring: DRAUGHT,
    },
    hasNot: {
      ...F3_LOOP,
      values: { ...F3_LOOP.values, 'loop.scaleLow': -100, 'loop.scaleHigh': 0 },
      wiring: DRAUGHT,
    },
    untold: { ...F3_LOOP, wiring: [] },
  },
  'loop-limits': {
    has: { ...F3_LOOP, values: { ...F3_LOOP.values, 'loop.outputMinimum': 40, 'frequency.maximum': 40 } },
    hasNot: { ...F3_LOOP, values: { ...F3_LOOP.values, 'loop.outputMinimum': 39, 'frequency.maximum': 40 } },
    untold: { ...F3_LOOP, without: ['frequency.maximum'] },
  },
  'meter-signal': {
    has: {
      values: { 'analogOutput.signal': '0-10-v' },
      wiring: ['meter,P1,,,,4-20-ma,', 'wire,,,45,P1:+,,'],
    },
    hasNot: {
      values: { 'analogOutput.signal': '4-20-ma' },
      wiring: ['meter,P1,,,,4-20-ma,', 'wire,,,45,P1:+,,'],
    },
    untold: { wiring: ['meter,P1,,,,4-20-ma,', 'wire,,,45,P1:+,,'], without: ['analogOutput.signal'] },
  },
  'source-unfed': {
    has: { values: { 'speed.source': 'source.analog.1' }, wiring: RUN },
    hasNot: {
      values: { 'speed.source': 'source.analog.1' },
      wiring: [...RUN, ...sender(FOUR_TO_TWENTY, '41', '42')],
    },
    untold: { values: { 'speed.source': 'source.analog.1' } },
  },
  'restart-maintained': {
    has: { values: { 'restart.count': 3 }, wiring: RUN },
    hasNot: { values: { 'restart.count': 3, 'command.wiring': 'three-wire' }, wiring: RUN_BUTTON },
    untold: { values: { 'restart.count': 3 } },
  },
  'start-at-power-up': {
    has: { values: { 'command.startLock': 'start' }, wiring: RUN },
    hasNot: { values: { 'command.startLock': 'start', 'command.powerUp': 'hand' }, wiring: RUN },
    untold: { values: { 'command.startLock': 'start' } },
  },
  'hand-at-power-up': {
    has: { values: { 'command.powerUp': 'hand' } },
    hasNot: { values: { 'command.powerUp': 'hand', 'command.source': 'source.keypad' } },
    untold: { without: ['command.powerUp'] },
  },
  'sto-open': {
    has: { wiring: RUN },
    hasNot: { wiring: [...RUN, 'link,,,30,31,drive,', 'link,,,32,33,drive,'] },
    untold: {},
  },
  'network-loss-ignored': {
    has: { values: { 'command.source': 'source.network', 'network.watch': 5, 'network.loss': 'ignore' } },
    hasNot: { values: { 'command.source': 'source.network', 'network.watch': 5, 'network.loss': 'fault' } },
    untold: { values: { 'command.source': 'source.network', 'network.watch': 5 }, without: ['network.loss'] },
  },
  'fire-restart': {
    has: { model: F3, values: { 'input.4.function': 'fire', 'restart.count': 3 } },
    hasNot: { model: F3, values: { 'input.4.function': 'fire', 'restart.count': 0 } },
    untold: { model: F3, values: { 'input.4.function': 'fire' }, without: ['restart.count'] },
  },
  // The output of the axis gives 1.5 A.
  'brake-current': {
    has: { model: S4, values: { 'brake.fitted': 'fitted', 'brake.coilCurrent': 1.6 } },
    hasNot: { model: S4, values: { 'brake.fitted': 'fitted', 'brake.coilCurrent': 1.5 } },
    untold: { model: S4, values: { 'brake.fitted': 'fitted' }, without: ['brake.coilCurrent'] },
  },
  'brake-times': {
    has: {
      model: S4,
      values: { 'brake.fitted': 'fitted', 'brake.openDelay': 0.089 },
      known: plate({}, { brake: { releaseDelay: 0.09 } }),
    },
    hasNot: {
      model: S4,
      values: { 'brake.fitted': 'fitted', 'brake.openDelay': 0.09 },
      known: plate({}, { brake: { releaseDelay: 0.09 } }),
    },
    untold: { model: S4, values: { 'brake.fitted': 'fitted' }, known: plate({}) },
  },
  'brake-coast': {
    has: { values: { 'output.2.function': 'brake-open', 'stop.mode': 'coast' } },
    hasNot: { values: { 'output.2.function': 'brake-open', 'stop.mode': 'ramp' } },
    untold: { values: { 'output.2.function': 'brake-open' }, without: ['stop.mode'] },
  },
  'hanging-coast': {
    has: { model: S4, values: { 'tuning.weight': 2.1, 'brake.fitted': 'none' } },
    hasNot: { model: S4, values: { 'tuning.weight': 2.1, 'brake.fitted': 'fitted' } },
    untold: { model: S4, values: { 'tuning.weight': 2.1 }, without: ['brake.fitted'] },
  },
  'resistor-unfitted': {
    has: {
      values: { 'brake.resistor': 'fitted' },
      wiring: ['load,M1,,,,400 V; 1900 mA,', 'wire,,,U,M1:A1,,'],
    },
    hasNot: {
      values: { 'brake.resistor': 'fitted', 'brake.resistorOhms': 200 },
      wiring: ['load,R9,,,,400 V; 1900 mA,', 'wire,,,B+,R9:A1,,', 'wire,,,B−,R9:A2,,'],
    },
    untold: { values: { 'brake.resistor': 'fitted', 'brake.resistorOhms': 200 }, wiring: RUN },
  },
  'stop-changed': {
    has: { values: { 'stop.mode': 'coast' }, baseline: { 'stop.mode': 'ramp' } },
    hasNot: { values: { 'stop.mode': 'coast' }, baseline: { 'stop.mode': 'coast' } },
    untold: { values: { 'stop.mode': 'coast' } },
  },
  'lock-on': {
    has: { values: { 'unit.lock': 41 } },
    hasNot: { values: { 'unit.lock': 'off' } },
    untold: null,
  },
  'write-locked': {
    has: { values: { 'network.writeLock': 'locked' }, known: { address: 4 } },
    hasNot: { values: { 'network.writeLock': 'locked' }, known: { address: 'keypad' } },
    untold: { values: { 'network.writeLock': 'locked' } },
  },
  'address-shared': {
    has: { values: { 'network.address': 4 }, known: { address: 4, sharesAddress: ['X-2'] } },
    hasNot: { values: { 'network.address': 4 }, known: { address: 4 } },
    untold: { values: { 'network.address': 4 } },
  },
  'region-mains': {
    has: { model: HN20, values: { 'unit.region': '60-hz' }, known: site({ hertz: 50 }) },
    hasNot: { model: HN20, values: { 'unit.region': '50-hz' }, known: site({ hertz: 50 }) },
    untold: { model: HN20, values: { 'unit.region': '60-hz' } },
  },
  'residual-filter': {
    has: { known: site({ residualMilliamps: 30 }) },
    hasNot: { known: site({ residualMilliamps: 300 }) },
    untold: {},
  },
  'firmware-older': {
    has: { known: { firmware: '203' }, peers: [{}, {}, {}] },
    hasNot: { known: { firmware: '207' }, peers: [{}, {}, {}] },
    untold: { peers: [{}] },
  },
  'no-baseline': {
    has: { baseline: 'none' },
    hasNot: { baseline: {} },
    untold: null,
  },
  'baseline-unproved': {
    has: { baseline: {}, known: { proved: false } },
    hasNot: { baseline: {}, known: { proved: true } },
    untold: { baseline: {} },
  },
  'memory-differs': {
    has: { known: { unsaved: ['09C'] as never } },
    hasNot: { known: { unsaved: [] } },
    untold: {},
  },
};
