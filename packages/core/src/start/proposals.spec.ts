import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/index.ts';
import { proposalsOf, type Proposal, type ProposalInput } from './index.ts';

const PLATE = { power: 1500, voltage: 400, current: 3.6, frequency: 50, speed: 1420, powerFactor: 0.79 };
const INPUT: ProposalInput = {
  ...{
    plate: PLATE,
    inertia: 0.05,
    loadShare: 0.6,
    load: 'belt',
    bears: 6.15,
    unitCurrent: 4.1,
    heavy: true,
  },
  ...{
    resistor: false,
    derating: null,
    ambient: null,
    carrier: 4000,
    usual: { up: 0.1, down: 0.1 },
    loop: null,
  },
};
const of = (meaning: string, input: Partial<ProposalInput> = {}): Proposal => {
  const found = proposalsOf({ ...INPUT, ...input }).find((each) => each.meaning === meaning);
  if (!found) throw new Error(`nothing proposed for ${meaning}`);
  return found;
};

describe('a proposed value', () => {
  it('of the current limit is the smaller of what motor and unit bear', () => {
    expect(of('limit.current').value).toBeCloseTo(5.4, 9);
    expect(of('limit.current', { bears: 5 }).value).toBe(5);
    expect(of('limit.current', { heavy: false }).value).toBeCloseTo(4.32, 9);
  });

  it('of a ramp up is twice the closed form of J·2πn/(60·(T·I_max/I − T_load))', () => {
    const torque = (1500 * 60) / (2 * Math.PI * 1420);
    const shortest = (0.05 * 2 * Math.PI * 1420) / (60 * (torque * 1.5 - 0.6 * torque));
    expect(of('ramp.up').value).toBeCloseTo(2 * shortest, 9);
    expect(of('ramp.up', { usual: { up: 60, down: 60 } }).value).toBe(60);
  });

  it('of a ramp down lets the losses of the motor take the energy, by its closed form', () => {
    const losses = Math.sqrt(3) * 400 * 3.6 * 0.79 - 1500;
    const energy = 0.5 * 0.05 * ((2 * Math.PI * 1420) / 60) ** 2;
    expect(of('ramp.down').value).toBeCloseTo((1.2 * energy) / losses, 9);
    expect(of('ramp.down', { resistor: true }).value).toBe(0.1);
  });

  it('says which numbers are missing and stays at the usual one, or at none', () => {
    expect(of('ramp.up', { inertia: undefined, usual: { up: 4, down: 4 } })).toMatchObject({
      value: 4,
      missing: ['inertia of rotor and load'],
    });
    expect(of('ramp.up', { inertia: undefined, usual: { up: undefined, down: undefined } }).value).toBeNull();
    expect(of('limit.current', { plate: {} })).toMatchObject({
      value: null,
      missing: ['current of the plate'],
    });
  });

  it('of a load that takes all of the torque is none', () => {
    expect(of('ramp.up', { loadShare: 1.6 })).toMatchObject({
      value: null,
      remark: expect.stringMatching(/does not start/),
    });
  });

  it('of a loop follows internal model control', () => {
    const loop = { gain: 1.7, lag: 0.8, dead: 0.15 };
    const aim = 0.8 / 3;
    expect(of('loop.gain', { loop }).value).toBeCloseTo(0.8 / (1.7 * (aim + 0.15)), 9);
    expect(of('loop.integralTime', { loop }).value).toBeCloseTo(0.8, 9);
    expect(of('loop.gain', { loop: { ...loop, gain: undefined } })).toMatchObject({ value: null });
  });

  it('of the carrier frequency comes down only where the unit would not bear the motor', () => {
    const derating = {
      ambient: [{ at: 40, share: 100 }],
      carrier: [
        { at: 2, share: 100 },
        { at: 8, share: 80 },
      ],
    };
    expect(of('carrier.frequency', { derating, carrier: 8000, unitCurrent: 5 }).value).toBe(8000);
    expect(of('carrier.frequency', { derating, carrier: 8000, unitCurrent: 4.1 }).value).toBe(2000);
  });

  it('is never NaN, infinite or below zero, whatever the numbers', () => {
    const number = fc.oneof(fc.constant(undefined), fc.double({ min: 0, max: 1e6, noNaN: true }));
    fc.assert(
      fc.property(fc.array(number, { minLength: 12, maxLength: 12 }), fc.boolean(), (n, flag) => {
        const plate = Object.fromEntries(
          ['power', 'voltage', 'current', 'frequency', 'speed', 'powerFactor'].flatMap((name, at) =>
            n[at] === undefined ? [] : [[name, n[at]]],
          ),
        );
        const all = proposalsOf({
          ...{ ...INPUT, plate, inertia: n[6], bears: n[7], unitCurrent: n[8], heavy: flag },
          loop: { gain: n[9], lag: n[10], dead: n[11] },
          usual: { up: undefined, down: undefined },
        });
        for (const { value, worked } of all) {
          expect(value === null || (Number.isFinite(value) && value >= 0)).toBe(true);
          expect(worked ?? '').not.toMatch(/NaN|Infinity/);
        }
      }),
      { ...SEEDED, numRuns: 400 },
    );
  });
});
