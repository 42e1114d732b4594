import { meaningOf } from '../values/index.ts';
import { describe, expect, it } from '@jest/globals';
import { shippedFiles, shippedModel } from '../testing/shipped-model.ts';
import { describe as sentence, type Finding } from '../findings/index.ts';
import { defaultOf, factsOf, findMeaning, findParameter, limitsOf, readModel, refusalOf } from './index.ts';

const HEAD = shippedFiles.parameters.split('\n')[0] ?? '';
const ROW =
  'A1,Menu,Ramp up,,ramps,number,s,0.1,0.0,60.0,5.0,,write,no,setting,ramp.up,,,100 u16,Time from standstill to base frequency.';

/** The facts without what names codes of the full table. */
const BARE_MODEL = shippedFiles.model.split('procedures:')[0] ?? '';

/** The findings for a table whose one good row has a cell changed. */
function findingsFor(
  changes: Readonly<Record<string, string>>,
  more: readonly string[] = [],
): readonly Finding[] {
  const columns = HEAD.split(',');
  const cells = ROW.split(',').map((cell, at) => changes[columns[at] ?? ''] ?? cell);
  const read = readModel({
    model: BARE_MODEL,
    parameters: [HEAD, cells.join(','), ...more].join('\n'),
  });
  return read.ok ? [] : read.fault;
}

describe('the shipped model', () => {
  it('is read without a finding and has a description and a register for every parameter', () => {
    expect(shippedModel.id).toBe('halvern-hn64@1');
    expect(shippedModel.parameters.length).toBeGreaterThanOrEqual(215);
    for (const parameter of shippedModel.parameters) {
      expect(parameter.description.length).toBeGreaterThan(9);
      expect(parameter.register).not.toBeNull();
    }
  });

  it('holds its defaults for every rating in every region', () => {
    for (const { id: rating } of shippedModel.ratings) {
      for (const { id: region } of shippedModel.regions) {
        const facts = factsOf(shippedModel, { rating, region }) ?? {};
        for (const parameter of shippedModel.parameters) {
          const raw = defaultOf(parameter, facts);
          if (raw !== undefined)
            expect([parameter.code, refusalOf(parameter, raw, facts)]).toEqual([parameter.code, undefined]);
        }
      }
    }
  });

  it('has defaults that differ by rating and by region', () => {
    const of = (meaning: string, rating: string, region: string) => {
      const parameter = findMeaning(shippedModel, meaningOf(meaning));
      return parameter && defaultOf(parameter, factsOf(shippedModel, { rating, region }) ?? {});
    };
    expect(of('motor.baseFrequency', 'HN64-15', '50-hz')).toBe(5000);
    expect(of('motor.baseFrequency', 'HN64-15', '60-hz')).toBe(6000);
    expect(of('motor.ratedCurrent', 'HN64-15', '50-hz')).toBe(360);
    expect(of('motor.ratedCurrent', 'HN64-75', '50-hz')).toBe(1530);
  });

  it('puts back the settings of the menu Commands, and nothing else, when the control method changes', () => {
    const effect = shippedModel.effects.find(({ when }) => when === '03U');
    const codes = effect?.kind === 'puts-back' ? effect.codes : [];
    const menus = codes.map((code) => findParameter(shippedModel, code)?.menu[0]);
    expect(new Set(menus)).toEqual(new Set(['Commands']));
    expect(codes).toHaveLength(shippedModel.parameters.filter(({ menu }) => menu[0] === 'Commands').length);
  });

  it('knows nothing of a rating that it does not have', () => {
    expect(factsOf(shippedModel, { rating: 'HN64-99', region: '50-hz' })).toBeUndefined();
  });
});

describe('values against a parameter', () => {
  const facts = factsOf(shippedModel, { rating: 'HN64-15', region: '50-hz' }) ?? {};
  const refusal = (meaning: string, raw: number) => {
    const parameter = findMeaning(shippedModel, meaningOf(meaning));
    if (!parameter) throw new Error(meaning);
    return refusalOf(parameter, raw, facts)?.code;
  };

  it('are refused outside the range, at exactly its ends', () => {
    const current = findMeaning(shippedModel, meaningOf('motor.ratedCurrent'));
    expect(current && limitsOf(current, facts)).toEqual({ minimum: 20, maximum: 1080 });
    expect(refusal('motor.ratedCurrent', 1080)).toBeUndefined();
    expect(refusal('motor.ratedCurrent', 1081)).toBe('above-maximum');
    expect(refusal('motor.ratedCurrent', 19)).toBe('below-minimum');
  });

  it('are refused where an option or a bit does not exist', () => {
    expect(refusal('protect.earth', 1)).toBe('no-such-option');
    expect(refusal('protect.earth', 2)).toBeUndefined();
    expect(refusal('restart.faults', 0b1_0000_0000)).toBe('no-such-bit');
  });
});

describe('the table of parameters', () => {
  it.each<[string, Readonly<Record<string, string>>, Finding['code']]>([
    ['an empty code', { code: '' }, 'cell-empty'],
    ['a purpose that nobody knows', { purpose: 'magic' }, 'cell-unknown'],
    ['an access that nobody knows', { access: 'sometimes' }, 'cell-unknown'],
    ['a resolution of zero', { resolution: '0' }, 'cell-unreadable'],
    ['a limit with a comma', { maximum: '"60,0"' }, 'cell-unreadable'],
    ['a default between two steps', { default: '5.05' }, 'cell-unreadable'],
    ['a default outside the range', { default: '61.0' }, 'default-outside'],
    ['a fact that no rating has', { maximum: '@warp' }, 'fact-unknown'],
    ['options without numbers', { kind: 'option', options: 'off; on' }, 'cell-unreadable'],
    ['a register without type', { register: '100' }, 'cell-unreadable'],
    ['a register that is too narrow', { maximum: '9000.0' }, 'register-too-narrow'],
    ['a code that it depends on and does not have', { depends_on: 'Z9' }, 'code-unknown'],
  ])('is refused for %s', (_, change, code) => {
    const findings = findingsFor(change);
    expect(findings.map((finding) => finding.code)).toContain(code);
    for (const finding of findings) {
      expect(finding).toMatchObject({ file: 'parameters.csv', line: 2 });
      expect(sentence(finding)).toMatch(/\.$/);
    }
  });

  it('is refused for codes, meanings and registers that are there twice, naming the first line', () => {
    const findings = findingsFor({}, [ROW]);
    expect(findings).toContainEqual(
      expect.objectContaining({ code: 'code-twice', line: 3, facts: { text: expect.any(String), first: 2 } }),
    );
    expect(findings).toContainEqual(
      expect.objectContaining({
        code: 'meaning-twice',
        line: 3,
        facts: { text: expect.any(String), first: 2 },
      }),
    );
  });

  it('is refused where a setting would be written to the command word: that would run the unit', () => {
    const found = (register: number) => {
      const model = shippedFiles.model.replace('register: 4128', `register: ${register}`);
      const read = readModel({ model, parameters: shippedFiles.parameters });
      return read.ok ? [] : read.fault.map(({ code }) => code);
    };
    // The rated power, which is written, and a place of the fault history, which is not.
    expect(found(1024)).toEqual(['command-register-written']);
    expect(found(4115)).toEqual([]);
  });

  it('collects all findings instead of stopping at the first', () => {
    const bad = ROW.replace('A1', 'A2').replace('ramps', 'magic');
    const findings = findingsFor({ access: 'sometimes' }, [bad]);
    expect(findings.map(({ line }) => line)).toEqual([2, 3]);
  });

  it('is refused without its columns', () => {
    const read = readModel({ model: shippedFiles.model, parameters: 'code,name\nA,B' });
    expect(read.ok ? [] : read.fault.map((finding) => finding.code)).toContain('column-missing');
  });
});

describe('the facts of a model', () => {
  it('are refused when they are not YAML', () => {
    const read = readModel({ model: 'model: [unclosed', parameters: shippedFiles.parameters });
    expect(read.ok ? undefined : read.fault[0]?.code).toBe('yaml-broken');
  });

  it('are refused when something is missing, with the path to it', () => {
    const model = shippedFiles.model
      .replace('word_order: high-first', 'word_order: sideways')
      .replace('maker: Halvern', '');
    const read = readModel({ model, parameters: shippedFiles.parameters });
    const paths = read.ok
      ? []
      : read.fault.map((finding) => (finding.code === 'fact-missing' ? finding.facts.path : ''));
    expect(paths).toEqual(expect.arrayContaining(['maker', 'line.word_order']));
  });
});
