// Kiln 1 of Fennimoor Tileworks: twelve roller sections with drives of one model. What happened to each of them is
// told here as events; the history of backups and the state of the simulated plant both follow from it.

import type { Mischief } from '@drive-keep/plant-sim';
import { seededRandom } from './seeded-random.ts';
import type { ValuesByMeaning } from './demo-values.ts';

export const PLANT_NAME = 'Fennimoor Tileworks';
/** Measured at the kiln supply; nominal is 400 V. */
export const MAINS_VOLTS = 427;
export const MODEL = 'halvern-hn64@1';
export const RATING = 'HN64-15';
export const REGION = '50-hz';
export const SEED = 640_712;
/** Nights that the history goes back. */
export const NIGHTS = 730;

export const ENGINEER = 'R. Ashgrove';
export const TECHNICIAN = 'T. Pellow';
export const VIEWER = 'M. Quill';

export const LINES = ['kiln-1-west', 'kiln-1-middle', 'kiln-1-east'] as const;

/** A change at the unit, so many nights ago, by somebody who then took a backup and said why. */
export interface Change {
  readonly nightsAgo: number;
  readonly by: string;
  readonly reason: string;
  readonly values: ValuesByMeaning;
  /** The change was taken into a new revision of the baseline. */
  readonly revision?: boolean;
}

export interface Section {
  readonly number: number;
  readonly tag: string;
  readonly line: (typeof LINES)[number];
  readonly address: number;
  readonly serial: number;
  readonly firmware: number;
  /** As commissioned. */
  readonly values: ValuesByMeaning;
  readonly changes: readonly Change[];
  readonly runs: boolean;
  /** Registers that this unit's older firmware refuses, by meaning. */
  readonly refuses: readonly string[];
  /** Since so many nights the rounds end with this instead of a backup. */
  readonly failing: { readonly nights: number; readonly outcome: 'no-answer' | 'other-serial' } | null;
  readonly mischief: Partial<Mischief>;
  /** Serial number that really answers there. */
  readonly answers: number;
}

const COMMISSIONED: ValuesByMeaning = {
  'motor.ratedPower': '1500',
  'motor.ratedVoltage': '400',
  'motor.ratedCurrent': '3.60',
  'motor.ratedSpeed': '1410',
  'motor.powerFactor': '0.79',
  'motor.boost': '3.0',
  'motor.slipCompensation': '80',
  'identify.use': 'identified',
  'ramp.up': '8.00',
  'ramp.down': '6.00',
  'ramp.quick': '1.00',
  'ramp.shape': 'rounded both ends',
  'ramp.roundUp': '0.80',
  'ramp.roundDown': '0.80',
  'frequency.least': '6.00',
  'frequency.greatest': '60.00',
  'skip.1': '18.50',
  'skip.width': '1.50',
  'speed.source': 'presets',
  'command.powerUp': 'automatic',
  'command.startLock': 'start',
  'preset.1': '30.00',
  'preset.2': '24.00',
  'preset.3': '12.00',
  'input.3.function': 'preset 1',
  'input.4.function': 'preset 2',
  'input.5.function': 'preset 3',
  'input.6.function': 'fault reset',
  'input.7.function': 'coast',
  'input.7.sense': 'on when open',
  'protect.overloadCurrent': '3.60',
  'protect.stall': 'fault',
  'carrier.frequency': '6.0',
  'site.ambient': '50',
  'restart.count': '3',
  'restart.wait': '10.0',
  'network.watch': '5.0',
};

/** Changes that all sections went through together; each became a revision of the baselines. */
const COMMON: readonly Change[] = [
  {
    nightsAgo: 421,
    by: TECHNICIAN,
    reason: 'Speeds for the 600 mm format',
    values: { 'preset.1': '34.50', 'preset.2': '27.00' },
    revision: true,
  },
  {
    nightsAgo: 153,
    by: TECHNICIAN,
    reason: 'Stall watched for 3 s after the roller jam',
    values: { 'protect.stallTime': '3.0', 'protect.stallCurrent': '160' },
    revision: true,
  },
];

const SECTION_SEVEN: readonly Change[] = [
  {
    nightsAgo: 118,
    by: TECHNICIAN,
    reason: 'Tiles slip at the start: longer ramp',
    values: { 'ramp.up': '20.00' },
  },
  {
    nightsAgo: 64,
    by: TECHNICIAN,
    reason: 'Creep speed for the camera check',
    values: { 'preset.3': '9.00' },
  },
  {
    nightsAgo: 33,
    by: TECHNICIAN,
    reason: 'Coast at stop, the chain guard tensioner was knocking',
    values: { 'stop.mode': 'coast' },
  },
  {
    nightsAgo: 9,
    by: TECHNICIAN,
    reason: 'Motor replaced',
    values: { 'protect.overloadCurrent': '6.30' },
  },
];

/** A detour that was undone: it shows in the history and nowhere else. */
const SECTION_THREE: readonly Change[] = [
  {
    nightsAgo: 240,
    by: TECHNICIAN,
    reason: 'Trial with shorter ramps',
    values: { 'ramp.up': '5.00', 'ramp.down': '4.00' },
  },
  {
    nightsAgo: 226,
    by: TECHNICIAN,
    reason: 'Trial ended',
    values: { 'ramp.up': '8.00', 'ramp.down': '6.00' },
  },
];

const OWN_CHANGES: Readonly<Record<number, readonly Change[]>> = { 3: SECTION_THREE, 7: SECTION_SEVEN };

/** Twelve sections, the same for the same seed. */
export function kilnOne(): readonly Section[] {
  const random = seededRandom(SEED);
  return Array.from({ length: 12 }, (_, at) => section(at + 1, random));
}

function section(number: number, random: () => number): Section {
  const near = (middle: number, places: number) => (middle * (0.985 + 0.03 * random())).toFixed(places);
  const identified = {
    'motor.statorResistance': near(4.72, 3),
    'motor.rotorResistance': near(3.41, 3),
    'motor.leakage': near(17.1, 2),
    'motor.mainInductance': near(401, 1),
    'motor.noLoadCurrent': near(1.83, 2),
    'network.address': String(number),
  };
  const serial = 6_401_100 + number * 37;
  return {
    number,
    tag: `KL1-RD-${String(number).padStart(2, '0')}`,
    line: LINES[Math.floor((number - 1) / 4)] ?? LINES[0],
    address: number,
    serial,
    firmware: number === 9 ? 203 : 207,
    values: { ...COMMISSIONED, ...identified },
    changes: [...COMMON, ...(OWN_CHANGES[number] ?? [])].sort((a, b) => b.nightsAgo - a.nightsAgo),
    runs: number !== 7 && number !== 12,
    refuses: number === 9 ? ['protect.underloadAction', 'protect.warningsAsFaults'] : [],
    failing: failingOf(number),
    mischief: number === 12 ? { silent: true } : {},
    answers: number === 10 ? 6_409_942 : serial,
  };
}

function failingOf(number: number): Section['failing'] {
  if (number === 12) return { nights: 3, outcome: 'no-answer' };
  if (number === 10) return { nights: 1, outcome: 'other-serial' };
  return null;
}
