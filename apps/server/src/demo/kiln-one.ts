// Kiln 1 of Fennimoor Tileworks: twelve roller sections with drives of one model, and its three fans.

import { seededRandom } from './seeded-random.ts';
import type { ValuesByMeaning } from './demo-values.ts';
import { demoPosition, LINES, SEED, TECHNICIAN, type Change, type DemoPosition } from './story.ts';

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
  'frequency.minimum': '6.00',
  'frequency.maximum': '60.00',
  'skip.1.middle': '18.50',
  'skip.width': '1.50',
  'speed.source': 'presets',
  'command.powerUp': 'automatic',
  'command.startLock': 'start',
  'preset.contact.1': '30.00',
  'preset.contact.2': '24.00',
  'preset.contact.3': '12.00',
  'input.3.function': 'preset 1',
  'input.4.function': 'preset 2',
  'input.5.function': 'preset 3',
  'input.6.function': 'fault reset',
  'input.7.function': 'coast',
  'input.7.sense': 'on when open',
  'protect.overloadCurrent': '3.60',
  'protect.stallAction': 'fault',
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
    values: { 'preset.contact.1': '34.50', 'preset.contact.2': '27.00' },
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
    values: { 'preset.contact.3': '9.00' },
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

/** What this version has as another default was set as on its peers. */
const OF_TODAY: ValuesByMeaning = { 'input.filter': '8' };

const OTHER_FIRMWARE: Readonly<Record<number, number>> = { 3: 310, 9: 203 };

const OWN_CHANGES: Readonly<Record<number, readonly Change[]>> = { 3: SECTION_THREE, 7: SECTION_SEVEN };

/** Three of the four changes of section 7 were accepted; the fourth, after the motor was replaced, is a mistake. */
const TOLERATED: DemoPosition['tolerated'] = [
  {
    meaning: 'ramp.up',
    nightsAgo: 110,
    daysLeft: 75,
    reason: 'Tiles of the 900 mm format slip with 8 s; until the rollers are coated',
  },
  {
    meaning: 'preset.contact.3',
    nightsAgo: 60,
    daysLeft: 120,
    reason: 'The camera needs 9 Hz; until its new lens is there',
  },
  {
    meaning: 'stop.mode',
    nightsAgo: 30,
    daysLeft: 40,
    reason: 'Until the chain guard tensioner is changed',
  },
];

/** Hot tiles bend rollers that stand: the sections have to run on after a dip of the supply. */
const RUNS_ON: DemoPosition['accepted'] = ['restart-maintained', 'start-at-power-up'].map((finding) => ({
  ...{ finding, nightsAgo: 96, daysLeft: 210 },
  reason: 'Rollers must not stand under hot tiles; both sides are fenced, the gates are watched',
}));

const DRAUGHT: DemoPosition['accepted'] = ['restart-maintained', 'start-at-power-up'].map((finding) => ({
  ...{ finding, nightsAgo: 96, daysLeft: 210 },
  reason: 'The kiln may not lose its air; the fan room is locked while it is hot',
}));

/** Its proof run failed at one contact, whose wire is made good in the next stop. */
const SECTION_THREE_ACCEPTED: DemoPosition['accepted'] = [
  ...RUNS_ON,
  {
    ...{ finding: 'baseline-unproved', nightsAgo: 22, daysLeft: 20 },
    reason: 'The wire of S2 at terminal 26 is made good in the next stop, then all of it is proved',
  },
];
const SECTION_SEVEN_ACCEPTED: DemoPosition['accepted'] = [
  ...RUNS_ON,
  {
    ...{ finding: 'stop-changed stop.mode', nightsAgo: 30, daysLeft: 40 },
    reason: 'Until the chain guard tensioner is changed',
  },
];

/** Twelve sections, the same for the same seed. */
function rollerSections(): readonly DemoPosition[] {
  const random = seededRandom(SEED);
  return Array.from({ length: 12 }, (_, at) => section(at + 1, random));
}

function section(number: number, random: () => number): DemoPosition {
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
  return demoPosition(
    { area: 'Kiln 1', machine: 'Roller sections' },
    {
      tag: `KL1-RD-${String(number).padStart(2, '0')}`,
      duty: `Kiln 1 roller section ${number}`,
      criticality: 'high',
      motor: 'Roller gear motor 1.5 kW, 400 V star, 3.6 A, 1410 rpm',
      // Section 3 got a newer unit: another firmware with another dictionary.
      model: number === 3 ? 'halvern-hn64@2' : 'halvern-hn64@1',
      rating: 'HN64-15',
      line: { name: LINES[Math.floor((number - 1) / 4)] ?? LINES[0], address: number },
      serial,
      firmware: OTHER_FIRMWARE[number] ?? 207,
      values: { ...COMMISSIONED, ...identified, ...(number === 3 ? OF_TODAY : {}) },
      changes: [...COMMON, ...(OWN_CHANGES[number] ?? [])].sort((a, b) => b.nightsAgo - a.nightsAgo),
      runs: number !== 7 && number !== 12,
      tolerated: number === 7 ? TOLERATED : [],
      accepted: number === 7 ? SECTION_SEVEN_ACCEPTED : number === 3 ? SECTION_THREE_ACCEPTED : RUNS_ON,
      refuses: number === 9 ? ['protect.underloadAction', 'protect.warningsAsFaults'] : [],
      failing: failingOf(number),
      mischief: number === 12 ? { silent: true } : {},
      answers: number === 10 ? 6_409_942 : serial,
    },
  );
}

function failingOf(number: number): DemoPosition['failing'] {
  if (number === 12) return { nights: 3, outcome: 'no-answer' };
  if (number === 10) return { nights: 1, outcome: 'other-serial' };
  return null;
}

const FANS = { area: 'Kiln 1', machine: 'Kiln fans' };

const FAN: ValuesByMeaning = {
  'motor.ratedVoltage': '400',
  'command.source': 'terminals',
  'command.startLock': 'starts',
  'frequency.minimum': '12.0',
  'frequency.maximum': '50.0',
  'stop.mode': 'coast',
  'start.flying': 'both ways',
  'protect.underloadAction': 'warn',
  'network.watch': '10',
};

const FAN_POSITIONS: readonly DemoPosition[] = [
  demoPosition(FANS, {
    tag: 'KL1-CA-01',
    accepted: DRAUGHT,
    duty: 'Combustion air fan',
    criticality: 'high',
    motor: 'Fan motor 18.5 kW, 400 V delta, 35 A, 1470 rpm',
    model: 'toreka-f3@1',
    rating: 'F3-185',
    line: { name: 'gateway-1', address: 41 },
    serial: 3_300_410,
    firmware: 241,
    values: {
      ...FAN,
      'motor.ratedPower': '18.5',
      'motor.ratedCurrent': '35.0',
      'motor.ratedSpeed': '1470',
      'ramp.up': '45.0',
      'ramp.down': '90.0',
      'speed.source': 'analog input 1',
      'analog.1.signal': '4 to 20 mA',
      'analog.1.loss': 'warn, go to preset 1',
      'preset.1': '30.0',
      'network.address': '41',
    },
    changes: [
      {
        nightsAgo: 12,
        by: TECHNICIAN,
        reason: 'Board changed after water damage; reset and set up anew',
        // The reset was made for the other region: its defaults came with it.
        values: {
          'unit.region': '60 Hz, imperial',
          'motor.baseFrequency': '60.0',
          'motor.ratedSpeed': '1765',
          'motor.ratedVoltage': '460',
          'frequency.maximum': '60.0',
          'ramp.up': '20.0',
          'ramp.down': '20.0',
        },
      },
    ],
  }),
  demoPosition(FANS, {
    tag: 'KL1-FD-01',
    accepted: DRAUGHT,
    duty: 'Flue draught fan, draught control',
    criticality: 'high',
    motor: 'Fan motor 30 kW, 400 V delta, 55 A, 1475 rpm',
    model: 'toreka-f3@1',
    rating: 'F3-300',
    line: { name: 'gateway-2', address: 42 },
    serial: 3_300_427,
    firmware: 241,
    values: {
      ...FAN,
      'motor.ratedPower': '30.0',
      'motor.ratedCurrent': '55.0',
      'motor.ratedSpeed': '1475',
      'ramp.up': '60.0',
      'speed.source': 'control loop',
      // The transmitter gives 4 to 20 mA for −100 to 0 Pa. Set like this, a broken wire reads as full draught.
      'analog.2.signal': '0 to 20 mA',
      'analog.2.loss': 'off',
      'input.3.function': 'hand',
      'input.4.function': 'fire operation',
      'permit.mode': 'damper answers',
      'output.2.function': 'damper open',
      'loop.mode': 'on, more speed lowers',
      'loop.unit': 'Pa',
      'loop.scaleLow': '-100.0',
      'loop.scaleHigh': '0.0',
      'loop.setpointUnit': '-35.0',
      'loop.bandWidth': '180.0',
      'loop.integralTime': '25.0',
      'loop.outputMinimum': '25.0',
      'network.address': '42',
    },
  }),
  demoPosition(FANS, {
    tag: 'KL1-RC-01',
    accepted: DRAUGHT,
    duty: 'Rapid cooling fan',
    motor: 'Fan motor 11 kW, 400 V delta, 21.5 A, 1460 rpm',
    model: 'toreka-f3@1',
    rating: 'F3-110',
    line: { name: 'gateway-3', address: 43 },
    serial: 3_300_433,
    firmware: 241,
    values: {
      ...FAN,
      'motor.ratedPower': '11.0',
      'motor.ratedCurrent': '21.5',
      'speed.source': 'analog input 1',
      'analog.1.signal': '4 to 20 mA',
      'analog.1.loss': 'warn, hold speed',
      'ramp.up': '30.0',
      'network.address': '43',
    },
  }),
];

export const kilnOne = (): readonly DemoPosition[] => [...rollerSections(), ...FAN_POSITIONS];
