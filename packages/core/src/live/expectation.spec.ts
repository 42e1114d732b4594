import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  begin,
  machineOf,
  SIGNAL_ENDS,
  step,
  type Machine,
  type Outcome,
  type State,
} from '../behaviour/index.ts';
import {
  anyEvent,
  anySettings,
  anyWish,
  benchWiring,
  bridge,
  modelNamed,
  outfitOf,
  plainMachine,
  readingsOf,
  SEEDED,
  wishedWiring,
} from '../testing/index.ts';
import { expectationOf, type Seen } from './index.ts';

const IDS = ['halvern-hn20@1', 'halvern-hn64@2', 'toreka-c1@1', 'toreka-c7@1', 'toreka-f3@1', 'quenby-s4@1'];

/** What a line would read of a machine in this state. */
function seenOf(machine: Machine, state: State, outcome: Outcome): Seen {
  const circuit = machine.conductors.look(state);
  const kind = state.fault === 'motor-warm' ? 'motorHot' : state.fault;
  const { faults } = modelNamed(machine.set.dictionary.id);
  return {
    inputs: new Map(
      machine.inputs.map(({ number, terminal }) => [number, circuit?.closed.has(terminal) ?? false]),
    ),
    analogs: new Map(
      machine.analogs.flatMap(({ number, terminal, signal = '' }): [string, number][] => {
        const value = circuit?.signals.get(terminal)?.value;
        const [low, high] = SIGNAL_ENDS[signal] ?? [0, 1];
        return value === undefined ? [] : [[number, (value - low) / (high - low)]];
      }),
    ),
    runs: outcome.kind === 'runs',
    fault: kind === null ? 0 : (faults.find((each) => each.kind === kind)?.number ?? null),
  };
}

describe('what is expected of a drive that is watched', () => {
  it.each(IDS)(
    'is never odd with a %s that does what its engine says, whatever has happened before',
    (id) => {
      const model = modelNamed(id);
      let judged = 0;
      const kind = id.startsWith('quenby') ? 'bipolar-10-v' : '0-10-v';
      const signals = { '1': kind, '2': kind } as const;
      fc.assert(
        fc.property(
          anySettings(model),
          fc.option(anyWish),
          fc.array(anyEvent(model), { minLength: 25, maxLength: 25 }),
          (settings, wish, events) => {
            const readings = new Map([...readingsOf(model, {}), ...settings]);
            const wiring = wish ? wishedWiring(model, wish, { signals }) : benchWiring(model, { signals });
            const machine = machineOf(bridge.read(model, outfitOf(model), readings), wiring);
            let { state, outcome } = begin(machine);
            for (const event of [{ kind: 'supply', on: true } as const, ...events]) {
              if (event.kind === 'break' || event.kind === 'mend') continue;
              ({ state, outcome } = step(machine, state, event));
              if (outcome.kind === 'untold' || outcome.kind === 'oscillates') return;
              const same = machine.analogs.every(({ terminal, signal }) => {
                const sent = machine.conductors.look(state)?.signals.get(terminal);
                return sent === undefined || sent.kind === signal;
              });
              const safe = machine.safeInputs.every((each) => machine.conductors.look(state)?.safe.has(each));
              if (!state.supply || !same || !safe) continue;
              const { inputs, agrees } = expectationOf(machine, model, seenOf(machine, state, outcome));
              expect([id, outcome.kind, state, agrees]).not.toEqual([id, outcome.kind, state, false]);
              expect(inputs.filter(({ odd }) => odd === 'never')).toEqual([]);
              judged += 1;
            }
          },
        ),
        { ...SEEDED, numRuns: 150, endOnFailure: true },
      );
      expect(judged).toBeGreaterThan(100);
    },
  );

  const model = modelNamed('toreka-c7@1');
  const machine = plainMachine(model, {});
  const at = (inputs: Readonly<Record<string, boolean>>, runs: boolean): Seen => ({
    inputs: new Map(machine.inputs.map(({ number }) => [number, inputs[number] ?? false])),
    analogs: new Map(),
    runs,
    fault: 0,
  });

  it('is odd where a run contact is seen and the drive stands, or the other way round', () => {
    const run = machine.inputs.find(({ does }) => does === 'run.forward')?.number ?? '';
    const { agrees, outcomes } = expectationOf(machine, model, at({ [run]: true }, true));
    expect([agrees, outcomes[0]?.kind, outcomes[0]?.direction]).toEqual([true, 'runs', 'forward']);
    expect(expectationOf(machine, model, at({}, true)).agrees).toBe(false);
    expect(expectationOf(machine, model, at({}, false)).agrees).toBe(true);
  });

  it('says nothing of what is not seen', () => {
    const nothing: Seen = { inputs: new Map(), analogs: new Map(), runs: null, fault: null };
    const { agrees, outcomes, inputs } = expectationOf(machine, model, nothing);
    expect([agrees, outcomes, inputs.every(({ seen, odd }) => seen === null && odd === null)]).toEqual([
      null,
      [],
      true,
    ]);
  });

  it('is odd at an input that no wire leads to and that is on all the same', () => {
    const bare = machineOf(bridge.read(model, outfitOf(model), readingsOf(model, {})), {
      ...benchWiring(model),
      devices: [],
      wires: [],
    });
    const { inputs } = expectationOf(bare, model, at({ '3': true }, false));
    expect(inputs.find(({ number }) => number === '3')).toMatchObject({ can: 'off', odd: 'never' });
    expect(inputs.find(({ number }) => number === '4')?.odd).toBeNull();
  });
});
