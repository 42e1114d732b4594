import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { eventOf, inShort, modelNamed, outcomeOf, outfitOf, plainReadings } from '../testing/bench-drive.ts';
import { benchWiring } from '../testing/bench-wiring.ts';
import { bridge } from '../testing/shipped-bridge.ts';
import { NO_WIRING, type FieldDevice, type Wiring } from '../wiring/index.ts';
import {
  begin,
  combinations,
  machineOf,
  MOST_COMBINATIONS,
  sayMissing,
  step,
  trace,
  type Machine,
} from './index.ts';

const HN64 = modelNamed('halvern-hn64@1');
const HN20 = modelNamed('halvern-hn20@1');

const machine = (wiring: Wiring, model = HN64, wanted = {}): Machine =>
  machineOf(bridge.read(model, outfitOf(model), plainReadings(model, wanted)), wiring);
const terminal = (id: string) => ({ kind: 'terminal', terminal: id }) as const;
const at = (device: string, connection: string) => ({ kind: 'device', device, connection }) as const;
const wire = (
  from: ReturnType<typeof terminal | typeof at>,
  to: ReturnType<typeof terminal | typeof at>,
) => ({
  ...{ number: '', colour: '', from, to },
});
const contact = (name: string, opens = false, momentary = true): FieldDevice => ({
  ...{ kind: 'contact', name, what: '', momentary },
  contacts: [opens ? { name: '21-22', opens } : { name: '13-14', opens }],
});

describe('a model that states no behaviour', () => {
  const mute = { ...HN64, behaviour: {} };
  it('is answered with what it does not state, never with a guess', () => {
    const silent = machineOf(
      bridge.read(mute, outfitOf(HN64), plainReadings(HN64, { 'input.2.function': 'run.reverse' })),
      benchWiring(HN64),
    );
    const outcome = outcomeOf(silent, 'S1 on; S2 on');
    expect(outcome.kind).toBe('untold');
    const texts = outcome.missing.map((each) => sayMissing(each, { machine: silent, term: (name) => name }));
    expect(texts).toContain('The HN64 does not state its rule “run.both”.');
  });

  it('has no order of what goes before what: a fault is not passed over', () => {
    const silent = machineOf(bridge.read(mute, outfitOf(HN64), plainReadings(HN64, {})), benchWiring(HN64));
    const { missing } = outcomeOf(silent, 'S1 on; fault earth');
    expect(missing).toContainEqual({ kind: 'rule', rule: 'priority' });
  });
});

describe('odd wirings', () => {
  it('of nothing at all leave the keys', () => {
    const bare = machine(NO_WIRING, HN20, {
      'command.source': 'source.keypad',
      'speed.keypad': 12,
      'speed.source': 'source.keypad',
    });
    expect(inShort(outcomeOf(bare, 'key run'))).toBe('runs forward at 12 Hz by keypad');
  });

  it('with a ring of links, and a contact that hangs on no terminal, do what the others do', () => {
    const whole = benchWiring(HN64);
    const ring = [
      ['40', '42'],
      ['42', '44'],
      ['44', '40'],
    ] as const;
    const odd = machine({
      ...whole,
      devices: [...whole.devices, contact('S99')],
      links: [...whole.links, ...ring.map((between) => ({ between, place: 'plug' as const }))],
    });
    expect(inShort(outcomeOf(odd, 'S99 on; S1 on'))).toBe(inShort(outcomeOf(machine(whole), 'S1 on')));
  });

  it('with a relay that switches itself off say that they never come to rest', () => {
    const buzzer: FieldDevice = {
      ...{ kind: 'relay', name: 'K1', what: '', volts: 24, milliamps: 50 },
      contacts: [{ name: '21-22', opens: true }],
    };
    const wires = [
      ...[wire(terminal('20'), at('K1', '21')), wire(at('K1', '22'), at('K1', 'A1'))],
      wire(at('K1', 'A2'), terminal('22')),
    ];
    const odd = machine({ ...benchWiring(HN64), devices: [buzzer], wires });
    expect(outcomeOf(odd, '').kind).toBe('oscillates');
  });
});

describe('contacts that the drive itself switches', () => {
  /** A start button beside the drive's own running relay, behind a stop button. */
  const sealed: Wiring = {
    ...NO_WIRING,
    devices: [contact('S0', true), contact('S1')],
    wires: [
      ...[wire(terminal('7'), at('S0', '21')), wire(at('S0', '22'), at('S1', '13'))],
      ...[wire(at('S1', '14'), terminal('8')), wire(at('S1', '13'), terminal('17'))],
      wire(terminal('16'), at('S1', '14')),
    ],
  };
  const drive = machine(sealed, HN20, { 'output.1.function': 'running' });

  it('hold a start until the stop button opens them', () => {
    const events = ['supply on', 'S1 on', 'S1 off', 'S0 on', 'S0 off'].map(eventOf);
    expect(trace(drive, events).map(({ outcome }) => outcome.kind)).toEqual([
      ...['no-supply', 'stopped', 'runs', 'runs', 'stopped', 'stopped'],
    ]);
  });

  it('do not hold it where the supply goes', () => {
    expect(outcomeOf(drive, 'supply on; S1 on; S1 off; supply off; supply on').kind).toBe('stopped');
  });

  it('of a field relay hold it, too', () => {
    const relay: FieldDevice = {
      ...{ kind: 'relay', name: 'K1', what: 'run', volts: 24, milliamps: 20 },
      contacts: ['13-14', '23-24'].map((name) => ({ name, opens: false })),
    };
    const cabinet: FieldDevice = { kind: 'supply', name: 'T1', what: '', volts: 24, milliamps: 2500 };
    const held = machine(
      {
        ...NO_WIRING,
        devices: [contact('S0', true), contact('S1'), relay, cabinet],
        wires: [
          ...[wire(at('T1', '+'), at('S0', '21')), wire(at('S0', '22'), at('S1', '13'))],
          ...[wire(at('S1', '14'), at('K1', 'A1')), wire(at('K1', 'A2'), at('T1', '-'))],
          ...[wire(at('S1', '13'), at('K1', '13')), wire(at('K1', '14'), at('S1', '14'))],
          ...[wire(terminal('8'), at('K1', '23')), wire(at('K1', '24'), terminal('7'))],
        ],
      },
      HN20,
    );
    const events = ['supply on', 'S1 on', 'S1 off', 'S0 on', 'S0 off'].map(eventOf);
    expect(trace(held, events).map(({ outcome }) => outcome.kind)).toEqual([
      ...['no-supply', 'stopped', 'runs', 'runs', 'stopped', 'stopped'],
    ]);
  });
});

describe('a selector', () => {
  const selector = (between: 'open' | 'bridged'): FieldDevice => ({
    ...{ kind: 'selector', name: 'S2', what: '', between },
    contacts: ['13-14', '23-24'].map((name) => ({ name, opens: false })),
    places: [
      { name: '1', closes: ['13-14'] },
      { name: '2', closes: ['13-14', '23-24'] },
    ],
  });
  const wiring = (between: 'open' | 'bridged'): Wiring => ({
    ...benchWiring(HN64),
    devices: [selector(between)],
    wires: [
      ...[wire(terminal('23'), at('S2', '14')), wire(at('S2', '13'), terminal('20'))],
      ...[wire(terminal('25'), at('S2', '24')), wire(at('S2', '23'), terminal('20'))],
    ],
  });
  const wanted = { 'input.3.function': 'preset.2', 'command.startLock': 'wait', 'command.resetLock': 'wait' };

  it('that breaks before it makes opens the run contact on its way', () => {
    // After power-up the standing contact counts only once it was open: the gap is enough.
    const run = (between: 'open' | 'bridged') =>
      outcomeOf(machine(wiring(between), HN64, wanted), 'supply on; S2 1').kind;
    expect([run('open'), run('bridged')]).toEqual(['runs', 'stopped']);
  });
});

describe('the table of combinations', () => {
  it('has a row for each, ends where nobody reads on, and changes nothing of what it began from', () => {
    const drive = machine(benchWiring(HN64));
    const { state } = step(drive, begin(drive).state, eventOf('supply on'));
    const before = JSON.stringify(state);
    const rows = combinations(drive, state);
    expect(rows).toHaveLength(MOST_COMBINATIONS);
    expect(JSON.stringify(state)).toBe(before);
    expect(new Set(rows.map(({ devices }) => JSON.stringify(devices))).size).toBe(rows.length);
  });
});

describe('a step', () => {
  it('is the same for the same state, whatever was asked before', () => {
    const events = fc.array(
      fc.constantFrom(
        'S1 on',
        'S1 off',
        'S3 on',
        'S3 off',
        'settle',
        'supply off',
        'supply on',
        'fault earth',
        'key reset',
      ),
      { maxLength: 25 },
    );
    const wanted = { 'input.3.function': 'jog' };
    const warm = machine(benchWiring(HN64), HN64, wanted);
    fc.assert(
      fc.property(events, (texts) => {
        const fresh = machine(benchWiring(HN64), HN64, wanted);
        const all = ['supply on', ...texts].map(eventOf);
        expect(trace(warm, all)).toEqual(trace(fresh, all));
      }),
      { seed: 640_712, numRuns: 60 },
    );
  });
});
