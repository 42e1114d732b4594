import { meaningOf } from '../values/index.ts';
import { describe, expect, it } from '@jest/globals';
import { findMeaning, type Code } from '../dictionary/index.ts';
import { defaultSet, type ParameterSet } from '../sets/index.ts';
import { allModels } from '../testing/shipped-model.ts';
import { otherAxisOf } from './index.ts';

const model = allModels.find((each) => each.model.id === 'quenby-s4@1')?.model;
if (!model) throw new Error('no servo');
const servo = model;
const codeOf = (meaning: string): Code => {
  const found = findMeaning(servo, meaningOf(meaning));
  if (!found) throw new Error(meaning);
  return found.code;
};
const AXIS = codeOf('axis.number');
const MOTOR = codeOf('motor.number');

const axis = (number: number, motor: number): ParameterSet => {
  const base = defaultSet(servo, { rating: 'S4-12', region: '400-v' });
  if (!base) throw new Error('no defaults');
  return { ...base, readings: new Map(base.readings).set(AXIS, number).set(MOTOR, motor) };
};
const lift = { tag: 'LIFT', set: axis(1, 1202) };
const slew = { tag: 'SLEW', set: axis(2, 1202) };
const grip = { tag: 'GRIP', set: axis(3, 301) };

describe('a set for an axis', () => {
  it('of its own is told of no other', () => {
    expect(otherAxisOf(servo, lift.set, lift, [slew, grip])).toBeUndefined();
  });

  it('of another one is told by the marks that differ, not by those they share', () => {
    expect(otherAxisOf(servo, slew.set, lift, [slew, grip])).toEqual({ tag: 'SLEW', codes: [AXIS] });
    expect(otherAxisOf(servo, grip.set, lift, [slew, grip])).toEqual({ tag: 'GRIP', codes: [AXIS, MOTOR] });
  });

  it('that bears a mark nobody has is not taken for another axis', () => {
    expect(otherAxisOf(servo, axis(9, 1202), lift, [slew, grip])).toBeUndefined();
  });

  it('tells nothing by what is missing or could not be read', () => {
    const gaps = new Map(slew.set.readings);
    gaps.set(AXIS, { unreadable: 'refused' });
    expect(otherAxisOf(servo, { ...slew.set, readings: gaps }, lift, [slew])).toBeUndefined();
    gaps.delete(AXIS);
    expect(otherAxisOf(servo, { ...slew.set, readings: gaps }, lift, [slew])).toBeUndefined();
  });
});
