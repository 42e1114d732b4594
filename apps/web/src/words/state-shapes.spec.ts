import { describe, expect, it } from '@jest/globals';
import { STATE_KINDS } from '@drive-keep/api';
import { STATE_SHAPES } from './state-shapes.ts';

const STOPS = ['damaged', 'other-unit', 'silent'] as const;

describe('the shapes of states', () => {
  it('say without colour what stops, what wants a look and what is as it should be', () => {
    const stops = new Set(STOPS.map((kind) => STATE_SHAPES[kind]));
    const others = STATE_KINDS.filter((kind) => !STOPS.some((each) => each === kind));
    for (const kind of others) expect([kind, stops.has(STATE_SHAPES[kind])]).toEqual([kind, false]);
    expect(new Set([STATE_SHAPES['as-signed'], STATE_SHAPES.drift, STATE_SHAPES.overdue]).size).toBe(3);
  });
});
