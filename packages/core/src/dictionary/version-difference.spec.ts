import { describe, expect, it } from '@jest/globals';
import { allModels } from '../testing/shipped-model.ts';
import { compareVersions, type Dictionary } from './index.ts';

const byId = (id: string): Dictionary => {
  const found = allModels.find(({ model }) => model.id === id);
  if (!found) throw new Error(id);
  return found.model;
};
const [before, after] = [byId('halvern-hn64@1'), byId('halvern-hn64@2')];
const codes = (list: readonly { readonly code: string }[]) => list.map(({ code }) => code);

describe('two versions of a dictionary', () => {
  it('differ in nothing from themselves', () => {
    for (const { model } of allModels) {
      const { added, gone, changed, same } = compareVersions(model, model);
      expect([added, gone, changed, same]).toEqual([[], [], [], model.parameters.length]);
    }
  });

  it('tell what the newer firmware of the shipped model brought', () => {
    const { added, gone, changed } = compareVersions(before, after);
    expect(codes(added)).toEqual(['29R', '28C', '29P']);
    expect(codes(gone)).toEqual(['08U']);
    expect(changed.find(({ code }) => code === '01R')?.facts).toEqual(['range']);
    expect(changed.find(({ code }) => code === '15T')?.facts).toEqual(['default']);
    expect(changed.find(({ code }) => code === '16P')?.facts).toEqual(['access']);
    expect(changed.find(({ code }) => code === '23R')?.facts).toEqual(['options']);
  });

  it('are told the other way round when they change sides', () => {
    const [there, back] = [compareVersions(before, after), compareVersions(after, before)];
    expect(codes(back.added)).toEqual(codes(there.gone));
    expect(codes(back.gone)).toEqual(codes(there.added));
    expect(codes(back.changed).sort()).toEqual(codes(there.changed).sort());
    expect(back.same).toBe(there.same);
  });
});
