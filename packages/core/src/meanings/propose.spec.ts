import { describe, expect, it } from '@jest/globals';
import { readModel, type Dictionary } from '../dictionary/index.ts';
import { vocabulary } from '../testing/shipped-bridge.ts';
import { allFiles, allModels } from '../testing/shipped-model.ts';
import { DEFAULT_THRESHOLD, MeaningProposer, withMeanings } from './index.ts';

/** The newest of each model. */
const models = allModels.map(({ model }) => model).filter(({ id }) => id !== 'halvern-hn64@1');

const bare = (model: Dictionary): Dictionary => ({
  ...model,
  parameters: model.parameters.map((parameter) => ({
    ...parameter,
    meaning: null,
    form:
      parameter.form.kind === 'option'
        ? { kind: 'option', options: parameter.form.options.map(({ raw, text }) => ({ raw, text })) }
        : parameter.form,
  })),
});

/** What is proposed for a model by all the others. */
function proposed(model: Dictionary, threshold = DEFAULT_THRESHOLD) {
  const others = allModels.map((each) => each.model).filter(({ name }) => name !== model.name);
  return new MeaningProposer(vocabulary, others).propose(bare(model), threshold);
}

function count(threshold: number) {
  const told = models.flatMap((model) => {
    const found = new Map(proposed(model, threshold).map((each) => [each.code, each.meaning]));
    return model.parameters.map(({ code, meaning }) => ({ meaning: meaning ?? '', found: found.get(code) }));
  });
  const share = (wanted: typeof told) => wanted.length / told.length;
  return {
    right: share(told.filter(({ meaning, found }) => found === meaning)),
    wrong: share(told.filter(({ meaning, found }) => found !== undefined && found !== meaning)),
  };
}

describe('meanings that are proposed for a model of which nobody has said any', () => {
  it('are right for four of five parameters of the shipped models and wrong for less than one of fifty', () => {
    const { right, wrong } = count(DEFAULT_THRESHOLD);
    expect(right).toBeGreaterThan(0.8);
    expect(wrong).toBeLessThan(0.02);
  });

  it('are fewer and surer the more is asked of them, and never one twice', () => {
    const [model] = models;
    if (!model) throw new Error('no model');
    const [few, many] = [proposed(model, 0.8), proposed(model, 0.3)];
    expect(few.length).toBeLessThan(many.length);
    expect(few.every(({ confidence }) => confidence >= 0.8)).toBe(true);
    expect(new Set(many.map(({ meaning }) => meaning)).size).toBe(many.length);
  });

  it('leave alone what has a meaning, and do not give its meaning to another', () => {
    const [model] = models;
    if (!model) throw new Error('no model');
    const half = {
      ...model,
      parameters: model.parameters.map((each, at) => (at % 2 === 0 ? each : { ...each, meaning: null })),
    };
    const kept = new Map(
      half.parameters.filter(({ meaning }) => meaning !== null).map((each) => [each.code, each.meaning]),
    );
    for (const { code, meaning } of new MeaningProposer(vocabulary, models).propose(half)) {
      expect([code, kept.has(code)]).toEqual([code, false]);
      expect([...kept.values()]).not.toContain(meaning);
    }
  });

  it('say what options are where other models call them the same, rightly for nineteen of twenty', () => {
    const options = models.flatMap((model) =>
      proposed(model).flatMap(({ code, options: found }) => {
        const form = model.parameters.find((each) => each.code === code)?.form;
        const own = form?.kind === 'option' ? form.options : [];
        return found.map(({ raw, meaning }) => own.find((each) => each.raw === raw)?.meaning === meaning);
      }),
    );
    expect(options.length).toBeGreaterThan(150);
    expect(options.filter((right) => right).length / options.length).toBeGreaterThan(0.95);
  });
});

describe('meanings that somebody has confirmed', () => {
  it('come into the table and nothing else of it changes', () => {
    for (const files of Object.values(allFiles)) {
      const read = readModel(files);
      if (!read.ok) throw new Error('a shipped model');
      const none = files.parameters;
      expect(readModel({ ...files, parameters: withMeanings(none, []) ?? '' })).toEqual(read);
    }
    const files = allFiles['toreka-c1'];
    const parameters =
      files?.parameters.replace(',motor.boost,', ',,').replace('0 = ramp [ramp]', '0 = ramp') ?? '';
    const back = withMeanings(parameters, [
      { code: 'MF' as never, meaning: 'motor.boost', options: [] },
      { code: 'AK' as never, meaning: 'stop.mode', options: [{ raw: 0, text: 'ramp', meaning: 'ramp' }] },
    ]);
    expect(readModel({ model: files?.model ?? '', parameters: back ?? '' })).toEqual(
      readModel({ model: files?.model ?? '', parameters: files?.parameters ?? '' }),
    );
    expect(withMeanings('no table at all', [])).toBeUndefined();
  });
});
