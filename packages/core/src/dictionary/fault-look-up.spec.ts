import { describe, expect, it } from '@jest/globals';
import { allModels } from '../testing/shipped-model.ts';
import { FaultLookUp, faultOf } from './index.ts';

const models = allModels.map(({ model }) => model).filter(({ id }) => id !== 'halvern-hn64@2');
const lookUp = new FaultLookUp(models);
const found = (text: string, most = 40) =>
  lookUp.find(text, most).map(({ dictionary, fault }) => `${dictionary.name} ${fault.shown} ${fault.kind}`);

describe('looking a fault up', () => {
  it('puts the number that a keypad shows first, for every fault of every model, with or without the word', () => {
    for (const model of models)
      for (const fault of model.faults)
        for (const typed of [fault.shown, `fault ${fault.shown.toLowerCase()}`, `Trip ${fault.shown}`]) {
          const hits = lookUp.find(typed, 40);
          const last = hits.findLastIndex((hit) => hit.fault.shown === fault.shown);
          expect(hits.some((hit) => hit.dictionary === model && hit.fault === fault)).toBe(true);
          expect(hits.slice(0, last + 1).every((hit) => hit.fault.shown === fault.shown)).toBe(true);
        }
  });

  it('finds by what it is and by what causes it, on all models that have it', () => {
    expect(found('overvoltage').length).toBeGreaterThanOrEqual(6);
    expect(found('ramp down too short').every((text) => text.includes('overvoltage'))).toBe(true);
    expect(found('ramp down too short').length).toBeGreaterThanOrEqual(6);
  });

  it('finds nothing for what no model has, and not everything for the word alone', () => {
    expect([found('zzgremlin'), found('fault'), found('  ')]).toEqual([[], [], []]);
  });
});

it('a register that holds 0, or a number that the model does not know, is no fault', () => {
  for (const model of models) {
    expect([faultOf(model, 0), faultOf(model, 65_000)]).toEqual([undefined, undefined]);
    for (const fault of model.faults) expect(faultOf(model, fault.number)).toBe(fault);
  }
});
