// The parts of the sheet and which settings stand in each, by meaning: a model shows those that it has. What a person types is in
// the unit that the trade uses; a ramp is the time from standstill to base frequency.

import { meaningOf, type Meaning } from '../values/index.ts';

export const SECTIONS = [
  'duty',
  'unit',
  'plate',
  'supply',
  'sources',
  'ramps',
  'stopping',
  'terminals',
  'protections',
  'restart',
  'loop',
  'network',
  'other',
] as const;
export type Section = (typeof SECTIONS)[number];

export const SECTION_NAMES: Readonly<Record<Section, string>> = {
  duty: 'Duty',
  unit: 'Unit',
  plate: 'Motor plate and load',
  supply: 'Supply and cabinet',
  sources: 'Where commands and speed come from',
  ramps: 'Speeds, ramps and limits',
  stopping: 'Stopping and brake',
  terminals: 'Terminals and wires',
  protections: 'Protections',
  restart: 'After supply, fault and reset',
  loop: 'Control loop',
  network: 'Network',
  other: 'Any other setting',
};

const OF: Readonly<Partial<Record<Section, readonly string[]>>> = {
  unit: ['unit.duty'],
  plate: [
    ...[
      'motor.connection',
      'motor.cooling',
      'motor.kind',
      'motor.controlMethod',
      'motor.voltageCurve',
      'motor.boost',
    ],
    ...['motor.slipCompensation', 'motor.energySaving'],
  ],
  sources: [
    ...[
      'command.source',
      'command.source2',
      'command.wiring',
      'speed.source',
      'speed.source2',
      'trim.source',
      'trim.weight',
    ],
    ...['direction.allowed', 'command.stopKey', 'raise.rate', 'raise.keepOverStop', 'raise.keepOverSupply'],
  ],
  ramps: [
    ...[
      'frequency.minimum',
      'frequency.maximum',
      'speed.keypad',
      'jog.speed',
      'ramp.up',
      'ramp.down',
      'ramp.up2',
      'ramp.down2',
    ],
    ...[
      'ramp.quick',
      'ramp.jog',
      'ramp.shape',
      'limit.current',
      'limit.busVoltage',
      'carrier.frequency',
      'carrier.auto',
    ],
  ],
  stopping: [
    ...[
      'stop.mode',
      'stop.dcFrom',
      'stop.dcCurrent',
      'stop.dcTime',
      'stop.dcTimeAfter',
      'stop.dcHoldTime',
      'protect.external',
    ],
    ...[
      'brake.resistor',
      'brake.resistorOhms',
      'brake.resistorPower',
      'brake.fitted',
      'brake.openCurrent',
      'brake.openDelay',
    ],
    ...['brake.closeFrequency', 'brake.closeDelay', 'brake.coilCurrent'],
  ],
  protections: [
    ...[
      'protect.overloadAction',
      'protect.overloadCurrent',
      'protect.sensor',
      'protect.sensorAction',
      'protect.stallAction',
    ],
    ...[
      'protect.stallCurrent',
      'protect.stallTime',
      'protect.underloadAction',
      'protect.underload',
      'protect.earth',
    ],
    ...['protect.inputPhase', 'protect.outputPhase', 'protect.sto'],
  ],
  restart: [
    ...[
      'command.startLock',
      'command.resetLock',
      'command.powerUp',
      'sto.after',
      'restart.count',
      'restart.wait',
    ],
    ...['protect.undervoltage', 'start.flying'],
  ],
  loop: [
    ...[
      'loop.mode',
      'loop.feedback',
      'loop.setpointSource',
      'loop.setpoint',
      'loop.unit',
      'loop.scaleLow',
      'loop.scaleHigh',
    ],
    ...[
      'loop.gain',
      'loop.integralTime',
      'loop.derivativeTime',
      'loop.outputMinimum',
      'loop.outputMaximum',
      'loop.sleep',
    ],
    ...['loop.sleepDelay', 'loop.wake', 'loop.wakeDelay', 'loop.warnLow', 'loop.warnHigh', 'loop.warnDelay'],
  ],
  network: ['network.address', 'network.baud', 'network.parity', 'network.watch', 'network.loss'],
};

export const meaningsOf = (section: Section): readonly Meaning[] => (OF[section] ?? []).map(meaningOf);

/** Fields of the plate and the load, each with its unit; `meaning` where a drive may have a setting for it. */
export interface PlateLine {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  /** How much of the plain unit one of `unit` is. */
  readonly times: number;
  readonly meaning: string | null;
}

export const PLATE_LINES: readonly PlateLine[] = [
  { key: 'plate.power', name: 'Rated power', unit: 'kW', times: 1000, meaning: 'motor.ratedPower' },
  { key: 'plate.voltage', name: 'Rated voltage', unit: 'V', times: 1, meaning: 'motor.ratedVoltage' },
  { key: 'plate.current', name: 'Rated current', unit: 'A', times: 1, meaning: 'motor.ratedCurrent' },
  { key: 'plate.frequency', name: 'Rated frequency', unit: 'Hz', times: 1, meaning: 'motor.baseFrequency' },
  { key: 'plate.speed', name: 'Rated speed', unit: 'rpm', times: 1, meaning: 'motor.ratedSpeed' },
  { key: 'plate.powerFactor', name: 'cos φ', unit: '', times: 1, meaning: 'motor.powerFactor' },
  { key: 'plate.inertia', name: 'Inertia of the rotor', unit: 'kg·cm²', times: 1e-4, meaning: null },
  {
    key: 'load.inertia',
    name: 'Inertia of the load, at the motor shaft',
    unit: 'kg·cm²',
    times: 1e-4,
    meaning: null,
  },
  {
    key: 'load.torque',
    name: 'Torque of the load, of the rated torque',
    unit: '%',
    times: 0.01,
    meaning: null,
  },
];

export const SUPPLY_LINES: readonly PlateLine[] = [
  { key: 'supply.volts', name: 'Nominal voltage', unit: 'V', times: 1, meaning: null },
  { key: 'supply.measured', name: 'Measured voltage', unit: 'V', times: 1, meaning: null },
  { key: 'supply.hertz', name: 'Mains frequency', unit: 'Hz', times: 1, meaning: null },
  { key: 'supply.ambient', name: 'Warmest in the cabinet', unit: '°C', times: 1, meaning: 'site.ambient' },
];

/** Ramps are typed as times to base frequency. */
export const isRamp = (unit: string): boolean => unit === 's/Hz';

/** How a plain unit is shown: its own name, and how much of the plain unit one of it is. */
export const SHOWN_UNITS: Readonly<Record<string, { readonly unit: string; readonly times: number }>> = {
  W: { unit: 'kW', times: 1000 },
  H: { unit: 'mH', times: 0.001 },
  's/Hz': { unit: 's', times: 1 },
};
