// Positions whose wiring cannot be made from their set alone: seal-in contacts, selectors, what hangs on the far side of a
// relay. Told as on the drawing; terminals are those of the position's model.

import {
  parseEnd,
  parseFacts,
  type DeviceKind,
  type FieldDevice,
  type FittedLink,
  type Wire,
  type Wiring,
} from '@drive-keep/core/wiring';

/** As a row of the table: kind, name, facts, what it is for. */
type ToldDevice = readonly [kind: DeviceKind, name: string, facts: string, what: string];
/** Its two ends, `8 S1:14`; with its number where that is not its place in the list: `C=S1:14 22`. */
type ToldWire = string;

interface Told {
  readonly devices: readonly ToldDevice[];
  readonly wires: readonly ToldWire[];
  readonly links?: readonly FittedLink[];
  readonly switches?: Readonly<Record<string, string>>;
  /** How the contacts are fed, where it is not as the works deliver it. */
  readonly arrangement?: string;
}

/** Direct-current control circuits, by IEC 60204-1. */
const COLOUR = 'blue';

const START: ToldDevice = ['contact', 'S1', 'contacts 13-14 closes; momentary', 'start button'];
const STOP: ToldDevice = ['contact', 'S0', 'contacts 21-22 opens; momentary', 'stop button'];
const RUN: ToldDevice = ['contact', 'S1', 'contacts 13-14 closes', 'run'];
const WINDING: ToldDevice = ['sensor', 'B1', 'bimetal', 'winding contact'];
const CABINET: ToldDevice = ['supply', 'T1', '24 V; 2500 mA', '24 V of the cabinet'];
const FAULT_LAMP: readonly ToldDevice[] = [['load', 'H1', '24 V; 80 mA', 'fault lamp'], CABINET];
const THREE_SPEEDS: ToldDevice = [
  ...(['selector', 'S2'] as const),
  'contacts 13-14 closes, 23-24 closes; places 0: / 1: 13-14 / 2: 23-24; between open',
  'speed',
];

/** Three-wire with a normally closed stop, sinking; the selector sets preset bits. */
const AGITATOR: Told = {
  devices: [START, STOP, THREE_SPEEDS, ...FAULT_LAMP],
  wires: [
    ...['8 S1:14', 'S1:13 7', '9 S0:22', 'S0:21 7'],
    ...['10 S2:14', 'S2:13 7', '11 S2:24', 'S2:23 7'],
    ...['17 T1:+', '16 H1:A1', 'H1:A2 T1:-'],
  ],
};

const STANDARD_LINKS: readonly FittedLink[] = [
  { between: ['30', '31'], place: 'drive' },
  { between: ['32', '33'], place: 'drive' },
  { between: ['21', '22'], place: 'drive' },
];

const TOLD: Readonly<Record<string, Told | undefined>> = {
  'BP-AG-01': {
    devices: [...AGITATOR.devices, WINDING],
    wires: [...AGITATOR.wires, '12 B1:T1', 'B1:T2 7'],
  },
  // No thermal contact was fitted: a link in the plug holds the external fault closed.
  'BP-AG-03': { ...AGITATOR, links: [{ between: ['12', '7'], place: 'plug' }] },
  // The drive's own relay holds the start; raise and lower move the speed.
  'BP-AG-02': {
    devices: [
      ...[START, STOP, WINDING],
      ['contact', 'S7', 'contacts 13-14 closes; momentary', 'raise button'],
      ['contact', 'S8', 'contacts 13-14 closes; momentary', 'lower button'],
    ],
    wires: [
      ...['7 S0:21', 'S0:22 S1:13', 'S1:14 8', 'S1:13 17', '16 S1:14'],
      ...['10 S7:14', 'S7:13 7', '11 S8:14', 'S8:13 7', '12 B1:T1', 'B1:T2 7'],
    ],
  },
  // As the wires of its HN20 were moved: sinking, presets 1 and 2 by an input each.
  'GL-BE-03 halvern-hn64@1': {
    devices: [RUN, THREE_SPEEDS, ...FAULT_LAMP],
    wires: [
      ...['1=23 S1:13', 'C=S1:14 22', '3=25 S2:13', 'C=S2:14 22', '5=26 S2:23', 'C=S2:24 22'],
      ...['51 H1:A1', 'T1:+ 52', 'H1:A2 T1:-'],
    ],
    links: [
      { between: ['30', '31'], place: 'drive' },
      { between: ['32', '33'], place: 'drive' },
      { between: ['20', '21'], place: 'drive' },
    ],
    arrangement: 'Sinking, internal 24 V',
  },
  // The lamp hangs on the contact that is closed without supply.
  'PR-IN-01': {
    devices: [
      ...[RUN, CABINET],
      ['contact', 'S3', 'contacts 13-14 closes', 'direction'],
      ['selector', 'S2', 'contacts 13-14 closes; places 0: / 1: 13-14; between open', 'speed'],
      ['load', 'H1', '24 V; 80 mA', 'no fault'],
    ],
    wires: [
      ...['R1 S1:14', 'S1:13 P', 'R2 S3:14', 'S3:13 P', 'R3 S2:14', 'S2:13 P'],
      ...['KC T1:+', 'KB H1:A1', 'H1:A2 T1:-'],
    ],
  },
  // The potentiometer hangs on 12 V; the winding contact takes R4.
  'SP-OB-02': {
    devices: [RUN, WINDING, ...FAULT_LAMP, ['potentiometer', 'R1', '4700 Ω', 'set-point']],
    wires: [
      ...['R1 S1:14', 'S1:13 P', 'R4 B1:T1', 'B1:T2 P'],
      ...['P R1:1', 'VI R1:2', 'R1:3 CM', 'KC T1:+', 'KA H1:A1', 'H1:A2 T1:-'],
    ],
  },
  // Input 4 belongs to the user program; a contact puts the loop off.
  'GL-PU-01': {
    devices: [
      ...[RUN, ...FAULT_LAMP],
      ['contact', 'S4', 'contacts 13-14 closes', 'loop off'],
      ['contact', 'K2', 'contacts 13-14 closes', 'nozzles clear, from the glaze mixer'],
      ['transmitter', 'B7', '4-20-ma; 4 wires; range 0 to 100 %; fails at 3.6 mA', 'pressure of the glaze'],
    ],
    wires: [
      ...['21 S1:14', 'S1:13 20', '23 S4:14', 'S4:13 20', '24 K2:14', 'K2:13 20'],
      ...['38 B7:out', 'B7:0 39', '42 T1:+', '41 H1:A1', 'H1:A2 T1:-'],
    ],
    links: [
      { between: ['28', '30'], place: 'drive' },
      { between: ['29', '30'], place: 'drive' },
    ],
  },
  'KL1-FD-01': {
    devices: [
      [
        ...(['selector', 'S4'] as const),
        'contacts 13-14 closes, 23-24 closes; places hand: 13-14 + 23-24 / 0: / auto: 13-14; between open',
        'hand, off, automatic',
      ],
      ['contact', 'B5', 'contacts 13-14 closes', 'damper is open'],
      ['contact', 'S12', 'contacts 13-14 closes', 'fire operation'],
      ['contact', 'S9', 'contacts 13-14 closes; momentary', 'reset button'],
      ['sensor', 'B1', 'bimetal', 'winding contact'],
      ['transmitter', 'B7', '4-20-ma; 4 wires; range -100 to 0 Pa; fails at 3.6 mA', 'draught in the flue'],
      ['meter', 'P1', '4-20-ma', 'fan speed at the kiln desk'],
      ['load', 'Y1', '24 V; 300 mA', 'damper drive'],
      ['load', 'H1', '24 V; 80 mA', 'fault lamp'],
      CABINET,
    ],
    wires: [
      ...['D1 S4:14', 'S4:13 P24', 'D3 S4:24', 'S4:23 P24', 'D2 B5:14', 'B5:13 P24'],
      ...['D4 S12:14', 'S12:13 P24', 'D5 S9:14', 'S9:13 P24', 'D6 B1:T1', 'B1:T2 P24'],
      ...['AI2 B7:out', 'B7:0 AC', 'AO1 P1:+', 'P1:- AC', 'R21 T1:+', 'R24 Y1:A1', 'Y1:A2 T1:-'],
      // Relay 1 falls at a fault and without supply: the lamp hangs on the contact that closes then.
      ...['R11 T1:+', 'R12 H1:A1', 'H1:A2 T1:-'],
    ],
    links: [
      { between: ['SA', 'SP'], place: 'drive' },
      { between: ['SB', 'SP'], place: 'drive' },
      { between: ['DC', 'M24'], place: 'drive' },
    ],
    switches: { A2: 'mA' },
  },
  // Both channels of safe torque off through the safety relay of the kiln entry; their links are out.
  'KL1-RD-03': {
    devices: [
      ...[RUN, ...FAULT_LAMP],
      [
        ...(['selector', 'S2'] as const),
        'contacts 13-14 closes, 23-24 closes, 33-34 closes; places 0: / 1: 13-14 / 2: 23-24 / 3: 33-34; between open',
        'speed',
      ],
      ['contact', 'S9', 'contacts 13-14 closes; momentary', 'reset button'],
      ['contact', 'S10', 'contacts 21-22 opens', 'let go'],
      ['safety-relay', 'K1', 'contacts 13-14 closes, 23-24 closes', 'emergency stop at the kiln entry'],
    ],
    wires: [
      ...['23 S1:14', 'S1:13 20', '25 S2:14', 'S2:13 20', '26 S2:24', 'S2:23 20', '27 S2:34', 'S2:33 20'],
      ...['28 S9:14', 'S9:13 20', '29 S10:22', 'S10:21 20', '52 T1:+', '51 H1:A1', 'H1:A2 T1:-'],
      ...['31 K1:13', 'K1:14 30', '33 K1:23', 'K1:24 32'],
    ],
    links: STANDARD_LINKS.filter(({ between: [from] }) => from === '21'),
  },
};

/** Nothing for a position whose wiring follows from its set. */
/** A position that had another model before is told with that of today. */
export function toldWiring({ tag, model }: { tag: string; model: string }): Wiring | undefined {
  const told = TOLD[`${tag} ${model}`] ?? TOLD[tag];
  if (!told) return undefined;
  const { links = [], switches = {}, arrangement = '' } = told;
  return {
    ...{ links, switches, arrangement },
    devices: told.devices.map((device) => deviceOf(tag, device)),
    wires: told.wires.map((wire, at) => wireOf(tag, wire, at + 1)),
  };
}

function deviceOf(tag: string, [kind, name, text, what]: ToldDevice): FieldDevice {
  const facts = parseFacts(kind, text);
  if (!facts.ok) throw new Error(`${tag}: ${name} is not understood: ${text}`);
  return { ...facts.value, name, what };
}

function wireOf(tag: string, told: ToldWire, number: number): Wire {
  const [, own, ends = ''] = /^(?:(\w+)=)?(.*)$/.exec(told) ?? [];
  const [from, to] = ends.split(' ').map(parseEnd);
  if (!from || !to) throw new Error(`${tag}: no wire ${told}`);
  return { number: own ?? String(number), colour: COLOUR, from, to };
}
