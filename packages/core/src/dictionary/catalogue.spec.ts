import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { rawOf, SEEDED, settingsOf } from '../testing/arbitraries.ts';
import { allModels } from '../testing/shipped-model.ts';
import { formatRaw, parseRaw } from '../values/index.ts';
import {
  CONVENTIONS,
  defaultOf,
  factsOf,
  findParameter,
  limitsOf,
  refusalOf,
  terminalsOf,
  type TerminalChart,
} from './index.ts';

const NO_CHART: TerminalChart = { strips: [], links: [], switches: [], arrangements: [] };

describe.each(allModels.map(({ model, facts }) => [model.id, model, facts] as const))(
  'the shipped model %s',
  (_, model, facts) => {
    it('reads and writes values from all over the range of every parameter without losing a digit', () => {
      for (const parameter of model.parameters) {
        fc.assert(
          fc.property(rawOf(parameter, facts), (raw) => {
            const text = formatRaw(parameter.form, raw);
            expect([parameter.code, parseRaw(parameter.form, text)]).toEqual([
              parameter.code,
              { ok: true, value: raw },
            ]);
            expect(refusalOf(parameter, raw, facts)).toBeUndefined();
          }),
          { ...SEEDED, numRuns: 12 },
        );
      }
    });

    it('spares the manual: every parameter says what it does, every setting has a default', () => {
      const silent = model.parameters.filter(({ description }) => description.length < 10);
      expect(silent.map(({ code }) => code)).toEqual([]);
      for (const { id: rating } of model.ratings)
        for (const { id: region } of model.regions) {
          const outfit = factsOf(model, { rating, region }) ?? {};
          const without = settingsOf(model).filter((each) => defaultOf(each, outfit) === undefined);
          expect([rating, region, without.map(({ code }) => code)]).toEqual([rating, region, []]);
        }
    });

    it('tells of every rating what a cabinet has to give it, and of outputs and analog terminals what they bear', () => {
      const chopped = terminalsOf(model.terminals ?? NO_CHART).some(
        ({ name }) => name === 'Braking resistor',
      );
      for (const { id, fit, facts: rated } of model.ratings) {
        const { leastResistorOhm, ...others } = fit ?? {};
        expect([id, fit, Object.values(others).filter((each) => each === null)]).toEqual([id, fit, []]);
        expect([id, typeof leastResistorOhm === 'number']).toEqual([id, chopped]);
        // A fuse that blows at the rated current is none.
        const current = Number(rated['normal'] ?? rated['heavy'] ?? rated['rated_current']);
        expect([id, (fit?.fuseA ?? 0) > current]).toEqual([id, true]);
      }
      for (const { id, kind, signal, logic, burdenOhm, leastOhm } of terminalsOf(
        model.terminals ?? NO_CHART,
      )) {
        if (kind === 'digital-output') expect([id, logic]).toEqual([id, expect.stringMatching('ing$')]);
        if (kind === 'analog-input' && signal.includes('mA')) expect([id, burdenOhm]).toEqual([id, 250]);
        if (kind === 'analog-output') expect([id, (leastOhm ?? 0) > 0]).toEqual([id, true]);
      }
    });

    it('knows faults that its register can hold, and one for every protection that can be one', () => {
      const { faults, line } = model;
      const register = model.parameters.find(({ meaning }) => meaning === 'monitor.fault');
      if (!register || !line?.fault) throw new Error('tells no active fault');
      const most = limitsOf(register, facts).maximum;
      expect(faults.filter(({ number }) => number > most)).toEqual([]);
      expect(new Set(faults.map(({ shown }) => shown)).size).toBe(faults.length);
      const named = new Set<string>(faults.flatMap(({ parameters }) => parameters));
      const trips = model.parameters.filter(
        ({ meaning, form }) =>
          /^(protect\.\w+|network\.loss|analog\.\d\.loss)$/.test(meaning ?? '') &&
          form.kind === 'option' &&
          form.options.some((option) => option.meaning === 'fault'),
      );
      expect(trips.map(({ code }) => code).filter((code) => !named.has(code))).toEqual([]);
    });

    it('says of a fault that it may restart where its choice of such faults, or its rule, says so', () => {
      const rule = model.behaviour['restart.on'];
      const listed = rule?.kind === 'words' ? rule.words : [];
      const bits = model.parameters
        .flatMap(({ form }) => (form.kind === 'bits' ? form.bits : []))
        .flatMap(({ says = [] }) => says.map(({ meaning }) => String(meaning)));
      for (const { name, kind, restarts } of model.faults) {
        const may = bits.includes(`restart.fault.${kind}`) || listed.includes(kind);
        expect([name, restarts]).toEqual([name, may]);
      }
    });

    it('has a chart whose terminals say what they do or which parameter says it, one arrangement from the works, and all procedures', () => {
      const terminals = terminalsOf(model.terminals ?? NO_CHART);
      expect(terminals.length).toBeGreaterThan(10);
      // A terminal says what it does, or a parameter with options says it.
      const mute = terminals.filter(({ does, setBy }) => {
        const form = setBy ? findParameter(model, setBy)?.form : undefined;
        return does === '' && form?.kind !== 'option';
      });
      expect(mute.map(({ id }) => id).filter((id) => !['X5', 'X6', 'X7'].includes(id))).toEqual([]);
      expect(model.procedures.map(({ purpose }) => purpose)).toEqual(
        expect.arrayContaining(['identify', 'reset', 'save', 'restart', 'unlock']),
      );
      expect(model.terminals?.arrangements.filter(({ factory }) => factory)).toHaveLength(1);
    });
  },
);

describe('the models together', () => {
  it('count the same things in different ways, as makers do', () => {
    for (const name of Object.keys(CONVENTIONS) as (keyof typeof CONVENTIONS)[]) {
      const ways = new Set(allModels.map(({ model }) => model.conventions[name]));
      expect([name, ways.size > 1]).toEqual([name, true]);
    }
  });

  it('have ramps of the same meaning on all but the servo axis', () => {
    const having = allModels.filter(({ model }) =>
      model.parameters.some(({ meaning }) => meaning === 'ramp.up'),
    );
    expect(having.map(({ model }) => model.name).sort()).toEqual(['C1', 'C7', 'F3', 'HN20', 'HN64', 'HN64']);
  });
});
