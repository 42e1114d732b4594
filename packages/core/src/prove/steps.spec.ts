import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { machineOf, reachOf, replayed, type Machine } from '../behaviour/index.ts';
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
import { deedsOfStep, idOf, proofPlanOf, whatMatters, type ProofPlan } from './index.ts';

const IDS = ['halvern-hn20@1', 'halvern-hn64@2', 'toreka-c1@1', 'toreka-c7@1', 'toreka-f3@1', 'quenby-s4@1'];
const LIMITS = { mostSteps: 12_000, mostOutcomes: 20 };
const term = bridge.vocabulary.termOf;

const anyMachine = (id: string): fc.Arbitrary<Machine> => {
  const model = modelNamed(id);
  return fc.tuple(anySettings(model), anyWish).map(([settings, wish]) => {
    const readings = new Map([...readingsOf(model, {}), ...settings]);
    const signals = id.startsWith('quenby')
      ? ({ '1': 'bipolar-10-v' } as const)
      : ({ '1': '0-10-v' } as const);
    return machineOf(bridge.read(model, outfitOf(model), readings), wishedWiring(model, wish, { signals }));
  });
};

/** What somebody sees of a machine at rest or running, without reasons. */
const shown = (machine: Machine, plan: ProofPlan): ReadonlySet<string> =>
  new Set(
    plan.steps.flatMap((step) =>
      step.stages.length === 0
        ? []
        : replayed(machine, deedsOfStep(step)).map(({ outcome: { kind, direction, setPoint }, state }) =>
            JSON.stringify([kind, direction, setPoint?.from, setPoint?.hertz, state.fault]),
          ),
    ),
  );

describe('a proof run', () => {
  it.each(IDS)('has a step for every outcome of a %s that its hands can bring about', (id) => {
    fc.assert(
      fc.property(anyMachine(id), (machine) => {
        const plan = proofPlanOf(machine, term, LIMITS);
        const seen = shown(machine, plan);
        for (const { steps } of reachOf(machine, LIMITS).reached) {
          const { outcome, state } = steps.at(-1) as (typeof steps)[number];
          const { kind, direction, setPoint } = outcome;
          const key = JSON.stringify([kind, direction, setPoint?.from, setPoint?.hertz, state.fault]);
          expect([...seen].includes(key) ? key : [...seen]).toBe(key);
        }
        // Each of another name, which says what is done, and the values last.
        const ids = plan.steps.map((step) => step.id);
        expect(new Set(ids).size).toBe(ids.length);
        expect(plan.steps.at(-1)?.part).toBe('values');
        for (const step of plan.steps)
          if (step.part !== 'values') expect(idOf(deedsOfStep(step))).toBe(step.id);
      }),
      { ...SEEDED, numRuns: 5, endOnFailure: true },
    );
  });

  it('is the same for the same set and wiring, and plain data', () => {
    const machine = plainMachine(modelNamed('toreka-c7@1'), { 'input.2.function': 'external-fault' });
    const plan = proofPlanOf(machine, term);
    expect(proofPlanOf(machine, term)).toEqual(plan);
    expect(JSON.parse(JSON.stringify(plan))).toEqual(plan);
  });

  const belt = (more: Readonly<Record<string, string | number>> = {}): Machine =>
    plainMachine(modelNamed('halvern-hn64@2'), {
      'input.2.function': 'run.reverse',
      'input.3.function': 'preset.1',
      'input.4.function': 'external-fault',
      'preset.contact.1': 12,
      ...more,
    });
  const titles = (machine: Machine) =>
    proofPlanOf(machine, term).steps.map(({ part, title }) => `${part}: ${title}`);

  it('goes through paths, directions, speeds, ramps, faults and reset, hand, and the supply', () => {
    const told = titles(belt());
    expect(told).toContain('runs: S1 worked, S3 worked: runs forward at 12.0 Hz');
    expect(told).toContain('runs: S2 worked, S3 worked: runs reverse at 12.0 Hz');
    expect(told).toContain('ramps: Up and down again: S3 worked, S1 worked');
    expect(told.filter((each) => each.startsWith('faults:')).join()).toMatch(
      /S4 worked, S4 as it rests, Key: reset: stopped/,
    );
    expect(told.some((each) => /^supply: .*Supply off, Supply on: /.test(each))).toBe(true);
    expect(told.some((each) => /^hand: Key: hand, .*Key: automatic: /.test(each))).toBe(true);
  });

  it('tells whether it starts by itself when the supply comes back', () => {
    // This model has one setting for the return of the supply and for a reset.
    const back = (lock: string) =>
      titles(belt({ 'command.startLock': lock, 'command.resetLock': lock })).find((each) =>
        /^supply: S1.*Supply on: /.test(each),
      );
    expect(back('start')).toMatch(/runs forward/);
    expect(back('wait')).toMatch(/stopped/);
  });

  it('is only what matters after a small change', () => {
    const [before, after] = [belt(), belt({ 'preset.contact.1': 9 })];
    const code = after.set.get('preset.contact.1' as never);
    const codes = new Set(code.kind === 'number' ? code.codes : []);
    const change = { codes, terminals: new Set<string>(), before: proofPlanOf(before, term) };
    const all = proofPlanOf(after, term);
    const matters = whatMatters(all, change);
    const ids = matters.map(({ id }) => id);
    expect(ids).toContain('S1=1 S3=1');
    expect(ids).toContain('values');
    expect(ids).not.toContain('S4=1');
    expect(matters.length).toBeLessThan(all.steps.length / 2);
    // Nothing was changed: only that it is still there.
    expect(
      whatMatters(all, { codes: new Set(), terminals: new Set(), before: all }).map(({ id }) => id),
    ).toEqual(['values']);
    // A wire that was moved is proved at its terminal.
    const moved = whatMatters(all, { codes: new Set(), terminals: new Set(['26']), before: all });
    expect(moved.length).toBeGreaterThan(1);
    expect(moved.every(({ part, terminals }) => part === 'values' || terminals.includes('26'))).toBe(true);
  });
});
