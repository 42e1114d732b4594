import { describe, expect, it } from '@jest/globals';
import { allFiles, allModels, shippedFiles, shippedModel } from '../testing/shipped-model.ts';
import { annotatesOnly, readModel, type Dictionary, type ModelFiles } from './index.ts';

function changed(file: keyof ModelFiles, from: string | RegExp, to: string): Dictionary {
  const text = shippedFiles[file] ?? '';
  const after = text.replace(from, to);
  if (after === text) throw new Error(`${String(from)} is not in ${file}`);
  const read = readModel({ ...shippedFiles, [file]: after });
  if (!read.ok) throw new Error(JSON.stringify(read.fault.slice(0, 3)));
  return read.value;
}

describe('a later wording of a dictionary', () => {
  it.each([
    [
      'another description',
      'parameters',
      'Time from standstill to base frequency.',
      'Seconds to base frequency.',
    ],
    ['another name', 'parameters', 'Acceleration time', 'Time to run up'],
    ['another meaning', 'parameters', 'ramp.quick', 'ramp.quickest'],
    ['a reference more', 'parameters', 'maker', ''],
    ['what an option means', 'parameters', '0 = ramp [ramp]', '0 = ramp'],
    ['a fact more', 'model', "power_w: '750',", "power_w: '750', width: '80',"],
    ['what a cabinet has to give it', 'model', 'width_mm: 72', 'width_mm: 74'],
    ['a command word more', 'model', /  command:\n    register: 4128[\s\S]*?speed: [^\n]*\n/, ''],
    ['what always holds', 'model', 'raise.keepOverStop', 'raise.keepOverSomething'],
  ] as const)('may have %s', (_, file, from, to) => {
    expect(annotatesOnly(shippedModel, changed(file, from, to))).toBe(true);
  });

  it.each([
    ['another range', 'parameters', 's,0.01,0.00,600.00,@ramp', 's,0.01,0.00,500.00,@ramp'],
    ['another default', 'parameters', '0.01,0.00,600.00,1.50', '0.01,0.00,600.00,2.50'],
    ['another step', 'parameters', 'ms,1,0,200,8', 'ms,2,0,200,8'],
    ['an option more', 'parameters', '0 = ramp [ramp]', '0 = ramp [ramp]; 9 = other'],
    ['another register', 'parameters', '1088 u16', '2088 u16'],
    ['another access', 'parameters', '@ramp,,write,no', '@ramp,,write-stopped,no'],
    ['another fact', 'model', "power_w: '750'", "power_w: '760'"],
    ['another effect', 'model', 'codes: [19R, 20R]', 'codes: [19R]'],
  ] as const)('may not have %s', (_, file, from, to) => {
    expect(annotatesOnly(shippedModel, changed(file, from, to))).toBe(false);
  });

  it('is none of another version or model, and any of itself', () => {
    for (const { model } of allModels)
      for (const { model: other } of allModels) expect(annotatesOnly(model, other)).toBe(model === other);
    expect(Object.keys(allFiles).length).toBe(allModels.length);
  });
});
