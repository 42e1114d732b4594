import { describe, expect, it } from '@jest/globals';
import { begin, machineOf, sameBehaviour, step, type Outcome, type State } from '@drive-keep/core/behaviour';
import { factsOf, type Code } from '@drive-keep/core/dictionary';
import {
  anyEvent,
  anySettings,
  anyWish,
  benchWiring,
  bridge,
  COMMANDS,
  eventOf,
  modelNamed,
  outfitOf,
  plainMachine,
  plainReadings,
  rawOf,
  readingsOf,
  RULE_SCENARIOS,
  SEEDED,
  wishedWiring,
} from '@drive-keep/core/testing';
import fc from 'fast-check';
import type { Report } from './firmware.ts';
import { BenchUnit } from './testing/bench-unit.ts';

const IDS = [
  'halvern-hn20@1',
  'halvern-hn64@1',
  'halvern-hn64@2',
  'toreka-c1@1',
  'toreka-c7@1',
  'toreka-f3@1',
  'quenby-s4@1',
];

const rounded = (hertz: number | null | undefined) =>
  typeof hertz === 'number' ? Math.round(hertz * 1e6) / 1e6 : 'open';

/** What the engine says, in the words of a unit. */
function said({ kind, direction, setPoint }: Outcome, { fault }: State): Partial<Report> {
  const runs = kind === 'runs';
  return {
    powered: kind !== 'no-supply',
    runs,
    reverse: runs && direction === 'reverse',
    locked: kind === 'locked',
    permitted: kind !== 'not-permitted',
    ...(kind === 'fault' ? { fault } : {}),
    ...(runs ? { setpoint: rounded(setPoint?.hertz) as never } : {}),
  };
}

function shown(report: Report, { kind }: Outcome): Partial<Report> {
  const { powered, runs, reverse, locked, permitted, fault, setpoint } = report;
  return {
    ...{ powered, runs, reverse, locked, permitted: kind === 'not-permitted' ? permitted : true },
    ...(kind === 'fault' ? { fault } : {}),
    ...(runs ? { setpoint: rounded(setpoint) as never } : {}),
  };
}

describe.each(IDS)('a simulated %s', (id) => {
  it('does on the bench what the engine says, in every scenario', () => {
    const model = modelNamed(id);
    for (const { what, wanted, events, signals = {}, short } of RULE_SCENARIOS) {
      if (short[id] === undefined) continue;
      const machine = plainMachine(model, wanted, { signals });
      const unit = new BenchUnit(id, plainReadings(model, wanted), machine);
      const given = events.includes('supply on') ? events : `supply on; ${events}`;
      let { state, outcome } = begin(machine);
      for (const text of given.split(';')) {
        ({ state, outcome } = step(machine, state, eventOf(text)));
        unit.happen(eventOf(text));
        if (outcome.kind !== 'untold')
          expect([what, text, shown(unit.report, outcome)]).toEqual([what, text, said(outcome, state)]);
      }
    }
  });
});

const SETS = Number(process.env['BEHAVIOUR_SETS'] ?? 120);
const EVENTS = 50;

let compared = 0;

describe.each(IDS)('random sets, wirings and events on a %s', (id) => {
  const model = modelNamed(id);

  it('make the unit do what the engine says', () => {
    fc.assert(
      fc.property(
        anySettings(model),
        fc.option(anyWish),
        fc.constantFrom('0-10-v', '4-20-ma', '0-20-ma', '2-10-v'),
        fc.array(anyEvent(model), { minLength: EVENTS, maxLength: EVENTS }),
        (settings, wish, signal, events) => {
          const readings = new Map([...readingsOf(model, {}), ...settings]);
          const signals = { '1': signal, '2': signal } as const;
          const wiring = wish ? wishedWiring(model, wish, { signals }) : benchWiring(model, { signals });
          const machine = machineOf(bridge.read(model, outfitOf(model), readings), wiring);
          const unit = new BenchUnit(id, readings, machine);
          let { state, outcome } = begin(machine);
          const done: string[] = [];
          for (const event of [{ kind: 'supply', on: true } as const, ...events]) {
            ({ state, outcome } = step(machine, state, event));
            unit.happen(event);
            done.push(JSON.stringify(event));
            // What cannot be told of one step is not told of those after it, either.
            if (outcome.kind === 'untold' || outcome.kind === 'oscillates') return;
            compared += 1;
            expect([done, shown(unit.report, outcome)]).toEqual([done, said(outcome, state)]);
          }
        },
      ),
      { ...SEEDED, numRuns: SETS, endOnFailure: false },
    );
  });
});

it('were compared often enough', () => {
  expect(compared).toBeGreaterThan(20_000);
});

/** Two inputs of the bench are enough to reach what most settings do. */
const NARROW = { contacts: ['S1', 'S3'] };

describe.each(IDS)('one setting of a %s that is changed', (id) => {
  const model = modelNamed(id);
  const outfit = outfitOf(model);
  const facts = factsOf(model, outfit) ?? {};
  const whole = benchWiring(model);
  const wiring = {
    ...whole,
    devices: whole.devices.filter(({ name }) => NARROW.contacts.includes(name)),
    wires: whole.wires.filter(({ from, to }) =>
      [from, to].every((end) => end.kind === 'terminal' || NARROW.contacts.includes(end.device)),
    ),
  };
  const usual = plainReadings(model, {});
  const machineWith = (readings: ReadonlyMap<Code, unknown>) =>
    machineOf(bridge.read(model, outfit, readings as never), wiring);
  const base = machineWith(usual);

  it('makes a difference on the units where the walk says so, and none where it says none', () => {
    const touched = model.parameters.filter(
      ({ meaning, access }) => meaning !== null && access !== 'read' && COMMANDS.test(meaning),
    );
    const mutation = fc
      .constantFrom(...touched)
      .chain((parameter) => fc.tuple(fc.constant(parameter.code), rawOf(parameter, facts)));
    fc.assert(
      fc.property(
        mutation,
        fc.array(anyEvent(model), { minLength: 60, maxLength: 60 }),
        ([code, raw], events) => {
          const readings = new Map(usual).set(code, raw);
          const changed = machineWith(readings);
          const walked = sameBehaviour(base, changed, { mostPairs: 20_000, mostDifferences: 3, keys: true });
          const units = () => [new BenchUnit(id, usual, base), new BenchUnit(id, readings, changed)] as const;
          for (const { events: way, aspect } of walked.differences) {
            // How it would stop, and which ramps hold, a unit does not report.
            if (!['starts', 'does-not-start', 'direction', 'speed', 'state'].includes(aspect)) continue;
            const [a, b] = units();
            for (const event of way) for (const each of [a, b]) each.happen(event);
            expect([code, raw, way, a.report]).not.toEqual([code, raw, way, b.report]);
          }
          if (!walked.same) return;
          const [a, b] = units();
          const names = new Set(wiring.devices.map(({ name }) => name));
          for (const event of events) {
            if (event.kind === 'device' && !names.has(event.name)) continue;
            if (event.kind === 'break' || event.kind === 'mend') continue;
            for (const each of [a, b]) each.happen(event);
            expect([code, raw, event, a.report]).toEqual([code, raw, event, b.report]);
          }
        },
      ),
      { ...SEEDED, numRuns: 30 },
    );
  });
});
