import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { benchWiring, bridge, modelNamed, outfitOf, plainMachine, plainReadings } from '../testing/index.ts';
import { inShort } from '../testing/bench-drive.ts';
import type { Wire, Wiring } from '../wiring/index.ts';
import { Comparison, tellingOf } from './aspects.ts';
import { bareOf } from './compiled.ts';
import { deedsOf } from './walk-events.ts';
import {
  begin,
  machineOf,
  sameBehaviour,
  sayDifference,
  step,
  type Machine,
  type Sameness,
  type WalkOptions,
} from './index.ts';

const OPTIONS: WalkOptions = { mostPairs: 1500, mostDifferences: 8, keys: false };
const HN64 = 'halvern-hn64@1';

/** Only the contacts of these inputs: the others would only make the walk longer. */
function few(
  id: string,
  wanted: Readonly<Record<string, string | number>>,
  inputs: readonly number[],
  signal?: '4-20-ma',
): Machine {
  const model = modelNamed(id);
  const whole = benchWiring(model, signal ? { signals: { 1: signal } } : {});
  const kept = [...inputs.map((input) => `S${input}`), ...(signal ? ['B1'] : [])];
  const wiring: Wiring = {
    ...whole,
    devices: whole.devices.filter(({ name }) => kept.includes(name)),
    wires: whole.wires.filter(({ from, to }) =>
      [from, to].every((end) => end.kind === 'terminal' || kept.includes(end.device)),
    ),
  };
  return machineOf(bridge.read(model, outfitOf(model), plainReadings(model, wanted)), wiring);
}

const replay = ({ differences }: Sameness, a: Machine, b: Machine) =>
  differences.map(({ events }) =>
    [a, b].map((machine) => {
      let stepped = begin(machine);
      for (const event of events) stepped = step(machine, stepped.state, event);
      return inShort(stepped.outcome);
    }),
  );

describe('the same behaviour', () => {
  it.each([
    ['halvern-hn20@1', { 'input.3.function': 'preset.bit.0' }],
    [HN64, { 'input.3.function': 'preset.2' }],
    ['toreka-c1@1', { 'input.3.function': 'jog' }],
    ['toreka-c7@1', { 'input.3.function': 'quick-stop' }],
    ['toreka-f3@1', { 'input.3.function': 'permit', 'permit.mode': 'input' }],
  ] as const)('of %s with itself is found, and how much was looked at', (id, wanted) => {
    const machine = few(id, wanted, [1, 3]);
    const walked = sameBehaviour(machine, few(id, wanted, [1, 3]), { ...OPTIONS, keys: true });
    expect([walked.same, walked.unfinished, walked.differences]).toEqual([true, false, []]);
    expect(walked.pairs).toBeGreaterThan(3);
  });

  it('of a drive and its successor: presets that are chosen otherwise, told by the shortest way', () => {
    const old = few(
      'halvern-hn20@1',
      { 'input.3.function': 'preset.bit.0', 'input.4.function': 'preset.bit.1' },
      [1, 3, 4],
    );
    const successor = few(
      HN64,
      {
        'input.3.function': 'preset.1',
        'input.4.function': 'preset.2',
        'preset.contact.1': 20,
        'preset.contact.2': 15,
      },
      [1, 3, 4],
    );
    const walked = sameBehaviour(old, successor, OPTIONS);
    const texts = walked.differences.map((each) =>
      sayDifference(each, { machine: successor, term: (name) => name }),
    );
    expect(texts).toContainEqual(
      expect.stringContaining('With S1 worked: runs forward at 0.0 Hz instead of 10.0 Hz'),
    );
    for (const [a, b] of replay(walked, old, successor)) expect(a).not.toBe(b);
    const shortest = walked.differences.find(({ aspect }) => aspect === 'speed');
    expect(shortest?.events).toHaveLength(2);
  });

  it('notices a start by itself, whichever side it is on', () => {
    const waits = few(HN64, { 'command.startLock': 'wait', 'command.resetLock': 'wait' }, [1]);
    const starts = few(HN64, {}, [1]);
    const aspects = (a: Machine, b: Machine) =>
      sameBehaviour(a, b, OPTIONS).differences.map(({ aspect }) => aspect);
    expect(aspects(waits, starts)).toContain('starts');
    expect(aspects(starts, waits)).toContain('does-not-start');
  });

  it('is not said of what was not looked at', () => {
    const machine = plainMachine(modelNamed(HN64), {});
    const walked = sameBehaviour(machine, machine, { ...OPTIONS, mostPairs: 5 });
    expect([walked.same, walked.unfinished, walked.pairs]).toEqual([false, true, 5]);
  });

  it('works a contact that opens the common of all inputs', () => {
    const { set, wiring } = few(HN64, {}, [1]);
    const end = (connection: string) => ({ kind: 'device' as const, device: 'E1', connection });
    const wire = (terminal: string, connection: string): Wire => ({
      ...{ number: '', colour: '', from: { kind: 'terminal', terminal }, to: end(connection) },
    });
    const opened: Wiring = {
      ...wiring,
      devices: [
        ...wiring.devices,
        {
          kind: 'contact',
          name: 'E1',
          what: '',
          momentary: false,
          contacts: [{ name: '21-22', opens: true }],
        },
      ],
      wires: [...wiring.wires, wire('21', '21'), wire('22', '22')],
      links: wiring.links.filter(({ between }) => between.join() !== '21,22'),
    };
    const machine = machineOf(set, opened);
    const worked = deedsOf(machine, machine, false).flatMap(({ events }) =>
      events.flatMap((event) => (event.kind === 'device' ? [event.name] : [])),
    );
    expect(new Set(worked)).toEqual(new Set(['S1', 'E1']));
  });

  it('has a way to every difference that shows it when it is gone again', () => {
    const speeds = fc.constantFrom(5, 10, 20);
    const side = fc.record({
      'input.3.function': fc.constantFrom('jog', 'coast', 'quick-stop', 'preset.1', 'none'),
      'jog.speed': speeds,
      'preset.contact.1': speeds,
      'stop.mode': fc.constantFrom('ramp', 'coast'),
      'command.startLock': fc.constant('start'),
    });
    fc.assert(
      fc.property(side, side, (one, other) => {
        const [a, b] = [few(HN64, one, [1, 3]), few(HN64, other, [1, 3])];
        const [walked, back] = [sameBehaviour(a, b, OPTIONS), sameBehaviour(b, a, OPTIONS)];
        expect(walked.same).toBe(back.same);
        for (const { events, a: left, b: right } of walked.differences) {
          let [x, y] = [begin(a), begin(b)];
          for (const event of events) [x, y] = [step(a, x.state, event), step(b, y.state, event)];
          expect([x.outcome, y.outcome]).toEqual([left.outcome, right.outcome]);
        }
      }),
      { seed: 640_712, numRuns: 40 },
    );
  });

  it('is found as by going every way with the whole step, contacts in series and a broken wire among them', () => {
    const side = fc.record({
      'input.1.function': fc.constantFrom('run.forward', 'run.reverse'),
      'input.3.function': fc.constantFrom('jog', 'coast', 'external-fault', 'preset.1', 'none'),
      'speed.source': fc.constantFrom('source.analog.1', 'source.presets', 'source.keypad'),
      'analog.1.signal': fc.constantFrom('4-20-ma', '0-10-v'),
      'analog.1.loss': fc.constantFrom('hold', 'fault', 'ignore'),
      'command.resetLock': fc.constantFrom('start', 'wait'),
      'stop.mode': fc.constantFrom('ramp', 'coast'),
    });
    let differ = 0;
    fc.assert(
      fc.property(side, side, (one, other) => {
        const [a, b] = [one, other].map((wanted) => inSeries(few(HN64, wanted, [1, 3], '4-20-ma'))) as [
          Machine,
          Machine,
        ];
        const options = { mostPairs: 100_000, mostDifferences: 100, keys: false };
        const walked = sameBehaviour(a, b, options);
        const naive = goEveryWay(a, b);
        expect(walked.same).toBe(naive.same);
        const kinds = walked.differences.map(({ aspect, a: left, b: right }) =>
          JSON.stringify([aspect, tellingOf(aspect, left.outcome), tellingOf(aspect, right.outcome)]),
        );
        // In the corners of a signal it looks closer than every way does.
        expect(kinds).toEqual(expect.arrayContaining([...naive.costs.keys()]));
        if (!walked.same) differ += 1;
      }),
      { seed: 640_713, numRuns: 4 },
    );
    expect(differ).toBeGreaterThan(1);
  });
});

/** A second contact in series with each: the two are twins. */
function inSeries(machine: Machine): Machine {
  const contacts = machine.wiring.devices.filter(({ kind }) => kind === 'contact');
  const isFeed = ({ from }: Wire) =>
    from.kind === 'device' && from.connection === '13' && contacts.some(({ name }) => name === from.device);
  const wires = machine.wiring.wires.flatMap((wire): readonly Wire[] => {
    if (!isFeed(wire) || wire.from.kind !== 'device') return [wire];
    const next = `${wire.from.device}x`;
    const end = (connection: string) => ({ kind: 'device' as const, device: next, connection });
    return [
      { ...wire, to: end('14') },
      { ...wire, from: end('13') },
    ];
  });
  const twins = contacts.map((device) => ({ ...device, name: `${device.name}x` }));
  const wiring = { ...machine.wiring, wires, devices: [...machine.wiring.devices, ...twins] };
  return machineOf(machine.set, wiring);
}

/** Every pair of states by the step itself, with nothing merged, left out or remembered. */
function goEveryWay(a: Machine, b: Machine) {
  const comparison = new Comparison(a, b);
  const deeds = deedsOf(a, b, false);
  const costs = new Map<string, number>();
  const seen = new Set<string>();
  let untold = 0;
  const queues = [[[begin(a).state, begin(b).state] as const]];
  for (let cost = 0; cost < queues.length; cost += 1)
    for (const [left, right] of queues[cost] ?? []) {
      const key = JSON.stringify([left, right]);
      if (seen.has(key)) continue;
      seen.add(key);
      deed: for (const { events, cost: price } of deeds) {
        let [one, other] = [
          { state: left, outcome: begin(a).outcome },
          { state: right, outcome: begin(b).outcome },
        ];
        for (const event of events) {
          [one, other] = [step(a, one.state, event), step(b, other.state, event)];
          const turns = one.state.motion !== 'rest';
          const aspect = comparison.aspectOf(bareOf(one.outcome), bareOf(other.outcome), turns);
          if (aspect === undefined) continue;
          const telling = [one, other].map(({ outcome }) => tellingOf(aspect, outcome));
          const kind = JSON.stringify([aspect, ...telling]);
          costs.set(kind, Math.min(costs.get(kind) ?? Infinity, cost + price));
          continue deed;
        }
        if (one.outcome.kind === 'untold') untold += 1;
        else (queues[cost + price] ??= []).push([one.state, other.state]);
      }
    }
  return { same: costs.size === 0 && untold === 0, costs };
}
