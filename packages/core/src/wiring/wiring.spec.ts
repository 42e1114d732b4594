import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { terminalsOf, type Dictionary } from '../dictionary/index.ts';
import { describe as sentence } from '../findings/index.ts';
import { SEEDED } from '../testing/arbitraries.ts';
import { allModels } from '../testing/shipped-model.ts';
import { readTable } from '../values/index.ts';
import {
  checkWiring,
  connectionsOf,
  DEVICE_KINDS,
  formatFacts,
  formatWiring,
  NO_WIRING,
  parseEnd,
  parseFacts,
  readWiring,
  showEnd,
  type DeviceFacts,
  METER_SIGNALS,
  type DeviceKind,
  type Wiring,
} from './index.ts';

const contactName = fc
  .tuple(fc.integer({ min: 1, max: 9 }), fc.constantFrom(1, 3))
  .map(([n, end]) => `${n}${end}-${n}${end + 1}`);
const contacts = fc.uniqueArray(fc.record({ name: contactName, opens: fc.boolean() }), {
  minLength: 1,
  maxLength: 4,
  selector: ({ name }) => name,
});
const amount = fc.integer({ min: 1, max: 9999 });
const facts: fc.Arbitrary<DeviceFacts> = fc.oneof(
  fc.record({ kind: fc.constant('contact' as const), contacts, momentary: fc.boolean() }),
  contacts.chain((own) =>
    fc.record({
      kind: fc.constant('selector' as const),
      contacts: fc.constant(own),
      places: fc.uniqueArray(
        fc.record({
          name: fc.constantFrom('0', '1', '2', 'hand', 'auto'),
          closes: fc.subarray(own.map(({ name }) => name)),
        }),
        { minLength: 1, selector: ({ name }) => name },
      ),
      between: fc.constantFrom('open' as const, 'bridged' as const),
    }),
  ),
  fc.record({ kind: fc.constant('relay' as const), volts: amount, milliamps: amount, contacts }),
  fc.record({ kind: fc.constant('potentiometer' as const), ohms: amount }),
  fc.record({
    kind: fc.constant('transmitter' as const),
    signal: fc.constantFrom('0-10-v' as const, '4-20-ma' as const),
    wires: fc.constantFrom(2 as const, 4 as const),
    range: fc.record({
      low: fc.integer({ min: -500, max: 0 }).map((value) => value / 10 + 0),
      high: fc.integer({ min: 1, max: 999 }),
      unit: fc.constantFrom('', 'bar', 'm³/h'),
    }),
    failsAt: fc.option(fc.constantFrom(3.6, 21.5), { nil: null }),
  }),
  fc.record({ kind: fc.constant('meter' as const), signal: fc.constantFrom(...METER_SIGNALS) }),
  fc.record({
    kind: fc.constantFrom('load' as const, 'brake' as const, 'supply' as const),
    volts: amount,
    milliamps: amount,
  }),
  fc.record({
    kind: fc.constant('sensor' as const),
    sensor: fc.constantFrom('ptc' as const, 'bimetal' as const),
  }),
);

const anyWiring: fc.Arbitrary<Wiring> = fc
  .uniqueArray(
    fc.record({
      facts,
      name: fc.constantFrom('S1', 'S2', 'B7', 'K1', 'P3'),
      what: fc.constantFrom('', 'set-point, "coarse"', '=1+1', 'Ø 4'),
    }),
    {
      minLength: 1,
      selector: ({ name }) => name,
    },
  )
  .chain((all) => {
    const devices = all.map(({ facts: own, name, what }) => ({ ...own, name, what }));
    const ends = devices.flatMap((device) =>
      connectionsOf(device).map((connection) => `${device.name}:${connection}`),
    );
    const end = fc
      .constantFrom(...ends, '8', '12', 'X3.1', 'B+')
      .map((text) => parseEnd(text) ?? { kind: 'terminal' as const, terminal: text });
    return fc.record({
      devices: fc.constant(devices),
      wires: fc.array(
        fc.record({
          number: fc.constantFrom('', '17', '007', '1e3'),
          colour: fc.constantFrom('', 'blue'),
          from: end,
          to: end,
        }),
        { maxLength: 8 },
      ),
      links: fc.array(
        fc.record({
          between: fc.constant(['7', '12'] as const),
          place: fc.constantFrom('drive' as const, 'plug' as const),
        }),
        { maxLength: 2 },
      ),
      switches: fc.constantFrom<Wiring['switches']>({}, { SL: 'NPN' }, { SL: 'PNP', SA: 'I' }),
      arrangement: fc.constantFrom('', 'Sinking, internal 24 V'),
    });
  });

describe('a wiring as a table', () => {
  it('comes back as it left, letter for letter', () => {
    fc.assert(
      fc.property(anyWiring, (wiring) => {
        const table = readTable(formatWiring(wiring));
        expect(table.ok && readWiring(table.value)).toEqual({ ok: true, value: wiring });
      }),
      SEEDED,
    );
  });

  it.each([
    ['load', '24V;80mA', '24 V; 80 mA'],
    ['potentiometer', '4700 Ohm', '4700 Ω'],
    ['potentiometer', '4700\u2126', '4700 Ω'],
    ['contact', 'contacts 13–14 closes', 'contacts 13-14 closes'],
  ] as const)('takes the facts of a %s as people type them: %s', (kind, typed, kept) => {
    const read = parseFacts(kind, typed);
    expect(read.ok && formatFacts(read.value)).toBe(kept);
  });

  it.each([
    ['a strange kind of row', 'bulb,H1,,,,24 V; 5 mA,', 'row'],
    ['a kind that only every object has', 'toString,H1,,,,,', 'row'],
    ['another one', 'constructor,H1,,,,,', 'row'],
    ['facts that are not understood whole', 'load,H1,,,,24 V; 5 mA; red,', 'facts'],
    ['facts without what is needed', 'load,H1,,,,24 V,', 'facts'],
    ['a unit that is another', 'load,H1,,,,24 V; 5 A,', 'facts'],
    ['a contact twice', 'contact,S1,,,,"contacts 13-14 closes, 13-14 opens",', 'facts'],
    [
      'a place with a contact that is not there',
      'selector,S1,,,,contacts 13-14 closes; places 0: / 1: 23-24,',
      'facts',
    ],
    ['a wire without an end', 'wire,17,,8,,,', 'to'],
    ['a cell where the row has none', 'wire,17,,8,12,red,', 'facts'],
    ['a link that is nowhere', 'link,,,7,12,,', 'facts'],
  ])('refuses %s and says where', (_, row, column) => {
    const table = readTable(`row,name,colour,from,to,facts,what\n${row}`);
    const read = table.ok ? readWiring(table.value) : undefined;
    const found = read && !read.ok ? read.fault : [];
    expect(found.map((each) => [each.line, each.column])).toEqual([[2, column]]);
    expect(sentence(found[0] ?? { code: '', facts: {} })).toMatch(/\.$/);
  });
});

describe('facts of a device', () => {
  it('have an example beside every kind that is understood', () => {
    for (const [kind, example] of Object.entries(DEVICE_KINDS)) {
      const read = parseFacts(kind as DeviceKind, example);
      expect([kind, read.ok && formatFacts(read.value)]).toEqual([kind, example]);
    }
  });
});

function model(name: string): Dictionary {
  const found = allModels.find(({ model: each }) => each.model === name)?.model;
  if (!found) throw new Error(name);
  return found;
}

/** A wiring from rows of its table. */
function wiring(...rows: readonly string[]): Wiring {
  const table = readTable(['row,name,colour,from,to,facts,what', ...rows].join('\n'));
  const read = table.ok ? readWiring(table.value) : undefined;
  if (!read?.ok) throw new Error(JSON.stringify(read));
  return read.value;
}
const codes = (name: string, ...rows: readonly string[]): readonly string[] =>
  checkWiring(model(name), wiring(...rows)).map(({ code }) => code);

const RUN = 'contact,S1,,,,contacts 13-14 closes,run';

describe('a wiring against chart and electricity', () => {
  it('has nothing against the wiring of a sinking drive with a selector and a thermal contact', () => {
    const rows = [
      RUN,
      'selector,S2,,,,contacts 13-14 closes; places 0: / 1: 13-14; between open,speed',
      'sensor,B1,,,,bimetal,winding',
      'wire,1,,8,S1:13,,',
      'wire,2,,S1:14,7,,',
      'wire,3,,10,S2:13,,',
      'wire,2,,S2:14,7,,',
      'wire,4,,12,B1:T1,,',
      'wire,2,,B1:T2,7,,',
    ];
    expect(codes('halvern-hn20', ...rows)).toEqual([]);
  });

  it('says every contact of it where the arrangement is the other', () => {
    const rows = [RUN, 'wire,1,,8,S1:13,,', 'wire,2,,S1:14,7,,'];
    expect(
      codes('halvern-hn20', ...rows, 'arrangement,"Sourcing, internal 24 V",,,,,', 'switch,SL,,,,PNP,'),
    ).toEqual(['wiring-sinks']);
    expect(codes('halvern-hn20', RUN, 'wire,1,,8,S1:13,,', 'wire,2,,S1:14,6,,')).toEqual(['wiring-sources']);
    expect(codes('halvern-hn20', RUN, 'wire,1,,8,S1:13,,')).toEqual(['wiring-no-common']);
    const cabinet = 'supply,T1,,,,24 V; 2500 mA,';
    const external = 'arrangement,"Sinking, external 24 V",,,,,';
    const toPlus = ['wire,1,,8,S1:13,,', 'wire,2,,S1:14,T1:+,,'];
    expect(codes('halvern-hn20', cabinet, RUN, external, ...toPlus)).toEqual(['wiring-sources']);
    // An outside supply need not be told.
    expect(
      codes('halvern-hn20', RUN, 'wire,1,,8,S1:13,,', 'arrangement,"Sinking, external 24 V",,,,,'),
    ).toEqual([]);
  });

  it.each([
    ['a terminal that is not there', ['wire,1,,99,8,,'], 'wiring-no-terminal'],
    ['a device that is not there', ['wire,1,,S9:13,8,,'], 'wiring-no-device'],
    ['a connection that is not there', [RUN, 'wire,1,,S1:15,8,,'], 'wiring-no-connection'],
    ['two devices of one name', [RUN, RUN], 'wiring-device-twice'],
    ['a wire from a terminal to itself', ['wire,1,,8,8,,'], 'wiring-same-ends'],
    ['a place that no switch has', ['switch,SL,,,,middle,'], 'wiring-no-place'],
    ['an arrangement that is not there', ['arrangement,Upside down,,,,,'], 'wiring-no-arrangement'],
    ['a supply on its zero', ['wire,1,,6,7,,'], 'wiring-short'],
    ['two supplies of other voltages', ['wire,1,,1,6,,'], 'wiring-joined'],
    ['an output on a supply', ['wire,1,,5,1,,'], 'wiring-joined'],
    ['the cabinet on the drive', ['supply,T1,,,,24 V; 2500 mA,', 'wire,1,,6,T1:+,,'], 'wiring-joined'],
    ['the cabinet on itself', ['supply,T1,,,,24 V; 2500 mA,', 'wire,1,,T1:+,T1:-,,'], 'wiring-short'],
    [
      'more than the cabinet carries',
      [
        'supply,T1,,,,24 V; 50 mA,',
        'load,H1,,,,24 V; 80 mA,',
        'wire,1,,T1:+,H1:A1,,',
        'wire,2,,H1:A2,T1:-,,',
      ],
      'wiring-overload',
    ],
    ['a lamp that leads nowhere', ['load,H1,,,,24 V; 80 mA,', 'wire,1,,16,H1:A1,,'], 'wiring-open-end'],
    // 10 V over 500 Ω is 20 mA; terminal 1 carries 10 mA.
    [
      'a potentiometer of too few ohms',
      ['potentiometer,P1,,,,500 Ω,', 'wire,1,,1,P1:1,,', 'wire,2,,3,P1:2,,', 'wire,3,,4,P1:3,,'],
      'wiring-overload',
    ],
    [
      'a lamp that is too much for the transistor',
      ['load,H1,,,,24 V; 120 mA,', 'wire,1,,14,H1:A2,,'],
      'wiring-contact-overload',
    ],
    [
      'a current where the switch is at voltage',
      ['transmitter,B2,,,,4-20-ma; 4 wires; range 0 to 10 bar,', 'wire,1,,3,B2:out,,', 'wire,2,,4,B2:0,,'],
      'wiring-signal-switch',
    ],
    [
      'one number on two wires that do not meet',
      [RUN, 'wire,5,,8,S1:13,,', 'wire,6,,S1:14,7,,', 'wire,5,,9,7,,'],
      'wiring-number-twice',
    ],
  ])('finds %s', (_, rows, code) => {
    expect(codes('halvern-hn20', ...rows)).toContain(code);
  });

  it('lets the switch be where the signal wants it', () => {
    const rows = [
      'transmitter,B2,,,,4-20-ma; 4 wires; range 0 to 10 bar,',
      'wire,1,,3,B2:out,,',
      'wire,2,,4,B2:0,,',
    ];
    expect(codes('halvern-hn20', ...rows, 'switch,SA,,,,I,')).toEqual([]);
  });

  it('knows that an open safety input keeps a drive from running', () => {
    expect(codes('halvern-hn64')).toEqual(['wiring-safe-open', 'wiring-safe-open']);
  });

  it('never finds a factory chart with its factory links wrong', () => {
    for (const { model: dictionary } of allModels) {
      const links = (dictionary.terminals?.links ?? [])
        .filter(({ factory }) => factory)
        .map(({ between }) => ({ between, place: 'drive' as const }));
      const found = checkWiring(dictionary, { ...NO_WIRING, links });
      expect([dictionary.id, found.filter(({ attention }) => attention === 'stop')]).toEqual([
        dictionary.id,
        [],
      ]);
    }
  });

  it('answers any wiring of any model, and names a row that is there', () => {
    fc.assert(
      fc.property(anyWiring, fc.nat({ max: allModels.length - 1 }), (any, at) => {
        const dictionary = allModels[at]?.model ?? model('halvern-hn20');
        for (const { line, column, ...found } of checkWiring(dictionary, any)) {
          const rows = column === 'device' ? any.devices : column === 'wire' ? any.wires : any.links;
          if (line !== undefined) expect(line).toBeLessThanOrEqual(rows.length);
          expect(sentence(found)).toMatch(/\.$/);
        }
      }),
      SEEDED,
    );
  });
});

describe('the charts', () => {
  it('say of every relay side whether it closes or opens, and what supplies and inputs carry', () => {
    for (const { model: dictionary } of allModels)
      for (const terminal of terminalsOf(
        dictionary.terminals ?? { strips: [], links: [], switches: [], arrangements: [] },
      )) {
        const { kind, contact, milliamps, signal } = terminal;
        if (kind === 'relay')
          expect([dictionary.id, terminal.id, contact?.side]).toEqual([
            dictionary.id,
            terminal.id,
            expect.any(String),
          ]);
        if ((kind === 'supply' || kind === 'digital-input') && / mA/.test(signal))
          expect([terminal.id, milliamps]).toEqual([terminal.id, expect.any(Number)]);
      }
  });

  it('say of every switch which options or arrangements go with each place', () => {
    for (const { model: dictionary } of allModels)
      for (const { id, places } of dictionary.terminals?.switches ?? [])
        for (const { name, agrees, makes } of places)
          expect([dictionary.id, id, name, (agrees ?? makes ?? []).length > 0]).toEqual([
            dictionary.id,
            id,
            name,
            true,
          ]);
  });
});

it('ends are told apart by a colon', () => {
  for (const text of ['12', 'X3.1', 'S2:13', 'B−']) {
    const end = parseEnd(text);
    expect(end && showEnd(end)).toBe(text);
  }
  expect([parseEnd(''), parseEnd('S2:'), parseEnd(':13')]).toEqual([undefined, undefined, undefined]);
});
