// The slip agitator of tank 3, an HN20-22, worked by hand from the texts of both manuals, value by value, wire by wire, link by
// link: nothing here was taken from what the code says.

import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Code, Outfit } from '../dictionary/index.ts';
import { defaultSet } from '../sets/index.ts';
import { bridge, modelNamed } from '../testing/index.ts';
import type { Reading } from '../values/index.ts';
import type { FieldDevice, Wire, Wiring } from '../wiring/index.ts';
import { readCrossReference, replace } from './index.ts';

const hn20 = modelNamed('halvern-hn20@1');
const OLD: Outfit = { rating: 'HN20-22', region: '50-hz' };

/** 2.20 kW, 5.0 A, 1430 rpm; 12.0 s to the maximum of 50.0 Hz; 18.0, 32.0 and 41.0 Hz by two bits; three wires. */
const VALUES: Readonly<Record<string, number>> = {
  ...{ '1/01': 220, '1/02': 400, '1/03': 50, '1/05': 143, '1/08': 23, '2/01': 120, '2/02': 120 },
  ...{ '3/01': 1, '3/02': 2, '3/04': 180, '3/05': 320, '3/06': 410, '4/02': 3, '4/03': 4, '4/04': 5 },
  // Bits 6 and 7: wait until opened once, input 5 on when open; bit 14: three-wire.
  ...{ '3/15': 0b0100_0000_1100_0000, '5/01': 90, '5/05': 2, '7/01': 16 },
};

const contact = (name: string, opens: boolean): FieldDevice => ({
  ...{ kind: 'contact', name, what: '', momentary: true },
  contacts: [opens ? { name: '21-22', opens } : { name: '13-14', opens }],
});
const wire = (number: string, terminal: string, device: string, connection: string): Wire => ({
  ...{ number, colour: 'blue', from: { kind: 'terminal', terminal } },
  to: { kind: 'device', device, connection },
});
const WIRING: Wiring = {
  devices: [
    contact('S1', false),
    contact('S0', true),
    {
      ...{ kind: 'selector', name: 'S2', what: '', between: 'open' },
      contacts: [
        { name: '13-14', opens: false },
        { name: '23-24', opens: false },
      ],
      places: [
        { name: '0', closes: [] },
        { name: '1', closes: ['13-14'] },
        { name: '2', closes: ['23-24'] },
      ],
    },
    { kind: 'load', name: 'H1', what: 'fault lamp', volts: 24, milliamps: 60 },
  ],
  wires: [
    ...[wire('1', '8', 'S1', '14'), wire('2', '7', 'S1', '13')],
    ...[wire('3', '9', 'S0', '22'), wire('4', '7', 'S0', '21')],
    ...[wire('5', '10', 'S2', '14'), wire('6', '7', 'S2', '13')],
    ...[wire('7', '11', 'S2', '24'), wire('8', '7', 'S2', '23'), wire('9', '16', 'H1', 'A1')],
  ],
  // In the plug: input 5 is told that there is no external fault.
  links: [{ between: ['12', '7'], place: 'plug' }],
  switches: {},
  arrangement: '',
};

function replacedBy(model: string, rating: string) {
  const dictionary = modelNamed(`${model}@1`);
  const file = join(import.meta.dirname, `../../../catalogue/cross-references/halvern-hn20--${model}.yaml`);
  const read = readCrossReference(readFileSync(file, 'utf8'), hn20, dictionary);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  const readings = new Map<Code, Reading>([
    ...(defaultSet(hn20, OLD)?.readings ?? []),
    ...(Object.entries(VALUES) as [Code, number][]),
  ]);
  const unit = { set: bridge.read(hn20, OLD, readings), outfit: OLD, wiring: WIRING, onLine: true };
  const successor = { dictionary, outfit: { rating, region: '50-hz' }, cross: read.value };
  const made = replace(bridge, unit, successor, new Map(), new Map());
  return {
    value: (code: string) => made.settings.readings.get(code as Code),
    wires: made.wires.moves.map(({ from, to }) => `${from} to ${to ?? 'nowhere'}`),
    links: made.wires.links.map(({ between, does }) => `${between.join('-')} ${does}`),
    switches: made.wires.wiring.switches,
    open: made.settings.open,
  };
}

describe('the slip agitator of tank 3', () => {
  const onC7 = replacedBy('toreka-c7', 'C7-22');
  const onHn64 = replacedBy('halvern-hn64', 'HN64-22');

  it.each([
    ['MA1', 220, '2.20 kW'],
    ['MA2', 400, '400 V'],
    ['MA3', 500, '5.0 A are 5.00 A'],
    ['MA4', 500, '50.0 Hz'],
    ['MA5', 1430, '143 tens of rpm'],
    ['MC3', 99, '2.3 Hz of a slip of 70 rpm of 1500, which are 2.333 Hz'],
    ['RA1', 120, '12.0 s to a maximum that is the rated frequency'],
    ['RA2', 120, 'the same'],
    ['RB7', 165, '150 % of 5.5 A are 8.25 A, of 5.00 A'],
    ['TA2', 99, '90 % of 5.5 A are 4.95 A, of 5.00 A'],
    ['CA1', 1, 'terminals'],
    ['CA2', 3, 'presets'],
    ['CA5', 2, 'three-wire'],
    ['CA6', 1, 'must open first'],
    ['PA1', 360, '18.0 of 50.0 Hz'],
    ['PA2', 640, '32.0 of 50.0 Hz'],
    ['PA3', 820, '41.0 of 50.0 Hz'],
    ['IA1', 1, 'run forward'],
    ['IA2', 4, 'hold'],
    ['IA3', 5, 'preset bit 0'],
    ['IA4', 6, 'preset bit 1'],
    ['IA7', 0b10000, 'input 5 on when open'],
    ['TC1', 2, 'two restarts'],
    ['NA1', 16, 'address 16'],
  ])('on a C7: %s is %d (%s)', (code, raw) => {
    expect(onC7.value(code)).toBe(raw);
  });

  it.each([
    ['01M', 2200, '2.20 kW are 2200 W'],
    ['03M', 500, '5.00 A'],
    ['05M', 1430, '1430 rpm'],
    ['15M', 99, '2.3 of 2.333 Hz'],
    ['01R', 1200, '12.00 s to the base frequency, which is the maximum'],
    ['19R', 147, '8.25 A of the 5.6 A of the unit'],
    ['02P', 495, '4.95 A'],
    ['01C', 1, 'terminals'],
    ['02C', 0, 'the keypad, for the time when no preset is on'],
    ['05C', 1, 'wakes up in automatic'],
    ['06C', 2, 'three-wire'],
    ['07C', 1, 'waits until it was opened once'],
    ['09C', 1800, 'preset 1 of the HN20: no bit on'],
    ['10C', 3200, 'preset 2: bit 0 alone'],
    ['11C', 4100, 'preset 3: bit 1 alone'],
    ['02T', 3, 'stop of three wires'],
    ['03T', 5, 'preset 1'],
    ['04T', 6, 'preset 2'],
    ['12T', 1, 'input 5 on when open'],
    ['23P', 2, 'two restarts'],
    ['01N', 16, 'address 16'],
  ])('on an HN64: %s is %d (%s)', (code, raw) => {
    expect(onHn64.value(code)).toBe(raw);
  });

  it('has its wires at the terminals that do the same, and its links where they are needed', () => {
    expect(onC7.wires).toEqual([
      ...['8 to 21', '7 to 27', '9 to 22', '7 to 27', '10 to 23', '7 to 27', '11 to 24', '7 to 27'],
      '16 to 41',
    ]);
    expect(onC7.links).toEqual(['25-27 made-anew', '28-30 stays-fitted', '29-30 stays-fitted']);
    expect(onC7.switches).toEqual({ S3: 'sink' });
    expect(onHn64.wires).toEqual([
      ...['8 to 23', '7 to 22', '9 to 24', '7 to 22', '10 to 25', '7 to 22', '11 to 26', '7 to 22'],
      '16 to 51',
    ]);
    expect(onHn64.links).toEqual([
      ...['27-22 made-anew', '30-31 stays-fitted', '32-33 stays-fitted'],
      ...['21-22 take-out', '20-21 fit'],
    ]);
    expect([onC7.open, onHn64.open]).toEqual([0, 0]);
  });
});
