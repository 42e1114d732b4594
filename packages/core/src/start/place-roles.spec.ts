import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findParameter, terminalsOf } from '../dictionary/index.ts';
import { bridge, outfitOf, readingsOf, SEEDED } from '../testing/index.ts';
import { allModels } from '../testing/shipped-model.ts';
import { placeRoles, takes, type WantedRole } from './place-roles.ts';

const FUNCTIONS = [
  'run.forward',
  'run.reverse',
  'direction',
  'stop',
  'jog',
  'fault-reset',
  'external-fault',
  'preset.bit.0',
  'preset.1',
];
const role = (does: string, opens: boolean, at: number): WantedRole => ({
  ...{ id: `S${at}`, does, on: 'input', opens, signal: '' },
});

describe.each(allModels.map(({ model }) => model))('roles on the terminals of $id', (model) => {
  const set = bridge.read(model, outfitOf(model), readingsOf(model, {}));
  const inputs = (model.terminals ? terminalsOf(model.terminals) : []).filter(
    ({ kind }) => kind === 'digital-input',
  );
  const fits = (wanted: WantedRole, terminal: (typeof inputs)[number]): boolean => {
    const meaning = findParameter(model, terminal.setBy ?? '')?.meaning ?? '';
    const number = /\d+/.exec(meaning)?.[0] ?? '';
    return (
      takes(set, `input.${number}.function`, wanted.does) &&
      takes(set, `input.${number}.sense`, wanted.opens ? 'open' : 'closed')
    );
  };

  /** The obvious way: every order of every choice. */
  const most = (roles: readonly WantedRole[], free: readonly (typeof inputs)[number][]): number => {
    const [first, ...rest] = roles;
    if (!first) return 0;
    const with_ = free
      .filter((each) => fits(first, each))
      .map(
        (each) =>
          1 +
          most(
            rest,
            free.filter((other) => other !== each),
          ),
      );
    return Math.max(most(rest, free), ...with_, 0);
  };

  it('place as many as can be placed, each where it can be, no two at one', () => {
    const wanted = fc.array(fc.tuple(fc.constantFrom(...FUNCTIONS), fc.boolean()), {
      minLength: 1,
      maxLength: 5,
    });
    fc.assert(
      fc.property(wanted, (list) => {
        const roles = list.map(([does, opens], at) => role(does, opens, at));
        const placed = placeRoles(set, roles, new Map());
        const there = placed.filter(({ terminal }) => terminal !== null);
        expect(there.length).toBe(most(roles, inputs.slice(0, 7)));
        expect(new Set(there.map(({ number }) => number)).size).toBe(there.length);
        for (const { role: own, terminal } of there) expect(terminal && fits(own, terminal)).toBe(true);
        for (const { terminal, fault } of placed) expect(terminal === null).toBe(fault !== null);
      }),
      { ...SEEDED, numRuns: 30 },
    );
  });
});
