import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { machineOf, type Machine } from '../behaviour/index.ts';
import type { Code, Dictionary } from '../dictionary/index.ts';
import { writePlain } from '../meanings/index.ts';
import {
  anySettings,
  anyWish,
  bridge,
  modelNamed,
  outfitOf,
  plainMachine,
  readingsOf,
  SEEDED,
  wishedWiring,
} from '../testing/index.ts';
import { meaningOf, type Reading } from '../values/index.ts';
import type { Wire } from '../wiring/index.ts';
import {
  canJudge,
  Judge,
  proofPlanOf,
  rampSettingOf,
  rehearsal,
  type Judgement,
  type Observed,
  type ProofPlan,
  type ProofStep,
  type Told,
} from './index.ts';

const IDS = ['halvern-hn20@1', 'halvern-hn64@2', 'toreka-c1@1', 'toreka-c7@1', 'toreka-f3@1', 'quenby-s4@1'];
const term = bridge.vocabulary.termOf;

/** What a judge of the plan says while somebody goes through the step at this drive. */
function judged(machine: Machine, { inputs }: ProofPlan, step: ProofStep): Judgement | undefined {
  const judge = new Judge(step, inputs);
  let last: Judgement | undefined;
  for (const told of rehearsal(machine, step)) {
    last = 'silent' in told ? judge.silent(told.at, true) : judge.take(told);
    if (last.state !== 'waits') return last;
  }
  return last;
}

/** The same drive with the wires of two terminals at each other's place. */
function crossed(machine: Machine, one: string, other: string): Machine {
  const move = (end: Wire['from']): Wire['from'] => {
    if (end.kind !== 'terminal' || ![one, other].includes(end.terminal)) return end;
    return { kind: 'terminal', terminal: end.terminal === one ? other : one };
  };
  const wires = machine.wiring.wires.map((wire) => ({ ...wire, from: move(wire.from), to: move(wire.to) }));
  return machineOf(machine.set, { ...machine.wiring, wires });
}

/** Ramps for which nobody waits long. */
function short(model: Dictionary): ReadonlyMap<Code, Reading> {
  const set = bridge.read(model, outfitOf(model), readingsOf(model, {}));
  const quick = RAMPS.filter((each) => set.carrierOf(meaningOf(each)) !== undefined);
  const written = writePlain(
    bridge,
    model,
    outfitOf(model),
    new Map(
      quick.map((each) => [
        meaningOf(each),
        { kind: 'number', value: 0.06, unit: 's/Hz', step: 0, codes: [], how: null },
      ]),
    ),
  );
  const codes = quick.flatMap((each) => {
    const plain = bridge.read(model, outfitOf(model), written.readings).get(meaningOf(each));
    return plain.kind === 'number' ? plain.codes : [];
  });
  return new Map(codes.flatMap((code) => [[code, written.readings.get(code) as Reading]]));
}
/** A unit that tells everything but a loop. */
const toldOf = ({ inputs }: ProofPlan): Told => ({
  inputs: new Set(inputs.map(({ number }) => number)),
  analogs: new Set(['1', '2']),
  ...{ status: true, hertz: true, loop: false },
});
const RAMPS = ['ramp.up', 'ramp.down', 'ramp.up2', 'ramp.down2', 'ramp.jog'];

const belt = (id: string, more: Readonly<Record<string, string | number>> = {}): Machine =>
  plainMachine(modelNamed(id), { 'input.2.function': 'run.reverse', ...more });

describe('steps of a proof run', () => {
  it.each(IDS)('pass at a %s that does what its engine says, whatever is set and wired', (id) => {
    const model = modelNamed(id);
    let passed = 0;
    fc.assert(
      fc.property(anySettings(model), anyWish, (settings, wish) => {
        const readings = new Map([...readingsOf(model, {}), ...settings, ...short(model)]);
        const signals = id.startsWith('quenby')
          ? ({ '1': 'bipolar-10-v' } as const)
          : ({ '1': '0-10-v' } as const);
        const wiring = wishedWiring(model, wish, { signals });
        const machine = machineOf(bridge.read(model, outfitOf(model), readings), wiring);
        const plan = proofPlanOf(machine, term, { mostSteps: 12_000, mostOutcomes: 12 });
        for (const step of plan.steps) {
          // A loop, and a speed by ramps that are longer than anybody waits here, are played elsewhere.
          const plays = step.stages.every(({ speed, within }) => speed?.kind !== 'loop' && within <= 120);
          if (!plays || !canJudge(step, toldOf(plan))) continue;
          const said = judged(machine, plan, step);
          if (said?.state !== 'passed')
            throw new Error(
              `${step.title}\n${step.id}\n${JSON.stringify(
                step.stages.map(({ deed, inputs, runs, faulty, settles, see, stops, speed }) => [
                  deed,
                  inputs,
                  runs,
                  faulty,
                  settles,
                  stops,
                  speed,
                  see,
                ]),
                null,
                0,
              )}\n${JSON.stringify(said)}`,
            );
          passed += 1;
        }
      }),
      { ...SEEDED, numRuns: 10, endOnFailure: true },
    );
    expect(passed).toBeGreaterThan(10);
  });

  it.each(['halvern-hn64@2', 'toreka-c7@1', 'toreka-c1@1'])(
    'find two wires of a %s that are swapped, and name both',
    (id) => {
      const machine = belt(id);
      const plan = proofPlanOf(machine, term);
      const [one, two] = machine.inputs.map(({ terminal }) => terminal);
      const wrong = crossed(machine, one ?? '', two ?? '');
      const step = plan.steps.find(({ id: name }) => name === 'S1=1');
      const said = step && judged(wrong, plan, step);
      expect(said?.state).toBe('failed');
      expect(said?.text).toContain(`terminal ${two} instead of terminal ${one}`);
      expect(said?.likely[0]).toContain(`sits at terminal ${two}, and belongs to ${one}`);
      expect(said?.likely[1]).toContain(`sits at ${one}, and belongs to ${two}`);
      // With all wires where they belong it is found right.
      expect(step && judged(machine, plan, step)?.state).toBe('passed');
    },
  );
});

describe('a judge', () => {
  const machine = belt('halvern-hn64@2', { 'input.3.function': 'preset.1', 'preset.contact.1': 40 });
  const plan = proofPlanOf(machine, term);
  const named = (id: string): ProofStep => {
    const found = plan.steps.find((step) => step.id === id);
    if (!found) throw new Error(`no step ${id}: ${plan.steps.map((each) => each.id).join(', ')}`);
    return found;
  };
  const played = (step: ProofStep) =>
    rehearsal(machine, step).flatMap((told) => ('silent' in told ? [] : [told]));

  it('finds another speed than the one that is kept, once it has had its time', () => {
    const step = named('S1=1 S3=1');
    const judge = new Judge(step, plan.inputs);
    const slow = played(step).map((told) => ({ ...told, hertz: Math.min(told.hertz ?? 0, 30) }));
    const last = slow.at(-1);
    const long = Array.from({ length: 1200 }, (_, at) => ({
      ...(last as NonNullable<typeof last>),
      at: (last?.at ?? 0) + at * 100,
    }));
    const said = [...slow, ...long].map((told) => judge.take(told)).find(({ state }) => state !== 'waits');
    expect([said?.state, said?.text]).toEqual(['failed', expect.stringContaining('It runs at 30.0 Hz.')]);
    expect(said?.likely.join()).toContain('holds another value');
  });

  it('begins anew after a gap: nobody knows what happened meanwhile', () => {
    const step = named('S1=1 S3=1');
    const judge = new Judge(step, plan.inputs);
    const all = played(step);
    const half = all.slice(0, Math.floor(all.length / 2));
    const stage = half.map((told) => judge.take(told)).at(-1)?.stage ?? 0;
    expect(stage).toBeGreaterThan(0);
    expect(judge.silent(half.at(-1)?.at ?? 0, true).stage).toBe(0);
    // What is left of the step alone does not pass it.
    const rest = all.slice(half.length).map((told) => judge.take(told));
    expect(rest.filter(({ state }) => state === 'passed')).toEqual([]);
  });

  it('passes nothing on inputs, speeds or a loop that the unit does not tell', () => {
    const step = named('S1=1 S3=1');
    const told = (change: (seen: Observed) => Observed) => {
      const judge = new Judge(step, plan.inputs);
      return played(step)
        .map((seen) => judge.take(change(seen)))
        .filter(({ state }) => state === 'passed');
    };
    expect(told((seen) => seen).length).toBeGreaterThan(0);
    expect(told((seen) => ({ ...seen, inputs: {} }))).toEqual([]);
    expect(told((seen) => ({ ...seen, hertz: null }))).toEqual([]);
    const loop = {
      ...step,
      stages: step.stages.map((stage) => ({ ...stage, speed: { kind: 'loop' as const } })),
    };
    const judge = new Judge(loop, plan.inputs);
    expect(
      played(step)
        .map((seen) => judge.take(seen))
        .filter(({ state }) => state === 'passed'),
    ).toEqual([]);
  });

  it('takes no other fault for the one that a contact has to bring about', () => {
    const external = belt('halvern-hn64@2', { 'input.4.function': 'external-fault' });
    const own = proofPlanOf(external, term);
    const step = own.steps.find(({ id }) => id === 'S4=1') as ProofStep;
    const said = (fault: string | null) => {
      const judge = new Judge(step, own.inputs);
      const last = rehearsal(external, step).flatMap((told) =>
        'silent' in told ? [] : [{ ...told, fault }],
      );
      return last.map((told) => judge.take(told)).some(({ state }) => state === 'passed');
    };
    expect([said('external'), said('overcurrent'), said(null)]).toEqual([true, false, true]);
  });

  it('takes a line that is busy for no supply that was away', () => {
    const step = named('values');
    const rest = played(step)[0] as Observed;
    const judge = new Judge(step, plan.inputs);
    for (let at = 0; at < 1000; at += 100) judge.take({ ...rest, at });
    expect(judge.silent(1500, false).stage).toBe(1);
    // It answers again after a gap: nobody has seen that it was asked and silent.
    expect(judge.take({ ...rest, at: 6000 })).toMatchObject({ state: 'waits', stage: 1 });
    expect(judge.silent(7000, true).stage).toBe(2);
  });

  it('says which wire is likely open where nothing moves', () => {
    const step = named('S3=1');
    const judge = new Judge(step, plan.inputs);
    const [first] = played(step);
    const still = Array.from({ length: 200 }, (_, at) => ({
      ...(first as NonNullable<typeof first>),
      at: at * 100,
    }));
    const said = still.map((told) => judge.take(told)).at(-1);
    expect(said?.state).toBe('waits');
    expect(said?.likely.join(' ')).toMatch(
      /Nothing has moved for 15 s\..*did not move: wire .* is likely open/,
    );
  });

  it('measures a ramp that is stretched, and fails it', () => {
    const step = plan.steps.find(({ part }) => part === 'ramps') as ProofStep;
    const setting = rampSettingOf(machine.set, 'first') as NonNullable<ReturnType<typeof rampSettingOf>>;
    const run = (share: number): Judgement | undefined => {
      const judge = new Judge(step, plan.inputs);
      const longer = { ...setting, up: (setting.up ?? 0) * share };
      return rehearsal(machine, step, longer)
        .flatMap((told) => ('silent' in told ? [] : [judge.take(told)]))
        .find(({ state }) => state !== 'waits');
    };
    expect(run(1)).toMatchObject({ state: 'passed', likely: [] });
    expect(run(1)?.figures.join()).toContain(`set to ${(setting.up ?? 0).toFixed(1)} s`);
    expect(run(1.3)).toMatchObject({ state: 'failed' });
    expect(run(1.3)?.likely.join()).toContain('stretches it');
  });
});
