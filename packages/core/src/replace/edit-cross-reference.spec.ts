import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findParameter, type Code } from '../dictionary/index.ts';
import { modelNamed, SEEDED } from '../testing/index.ts';
import { formatRaw } from '../values/index.ts';
import {
  emptyCrossReference,
  readCrossReference,
  readShownValues,
  showShownValues,
  withRule,
  type WrittenRule,
} from './index.ts';

const FOLDER = join(import.meta.dirname, '../../../catalogue/cross-references');
const words = fc.string({ minLength: 1, maxLength: 40 }).filter((text) => text.trim() !== '');

describe.each(readdirSync(FOLDER))('%s changed by a line', (file) => {
  const [oldName = '', freshName = ''] = file.replace('.yaml', '').split('--');
  const [old, fresh] = [modelNamed(`${oldName}@1`), modelNamed(`${freshName}@1`)];
  const text = readFileSync(join(FOLDER, file), 'utf8');
  const read = (from: string) => {
    const answer = readCrossReference(from, old, fresh);
    if (!answer.ok) throw new Error(JSON.stringify(answer.fault));
    return answer.value;
  };
  const settable = fresh.parameters.filter(({ access, form }) => access !== 'read' && form.kind === 'option');
  const value = fc
    .constantFrom(...settable)
    .chain(({ code, form }) =>
      fc
        .constantFrom(...(form.kind === 'option' ? form.options : []))
        .map(({ raw }): Record<string, string> => ({ [code]: formatRaw(form, raw) })),
    );
  const rule: fc.Arbitrary<WrittenRule> = fc.oneof(
    fc.record({ does: fc.constantFrom('left' as const, 'carried' as const, 'check' as const), why: words }),
    fc.record({ does: fc.constant('fixed' as const), why: words, sets: value }),
    fc.record({
      does: fc.constant('asked' as const),
      ...{ why: words, ask: words },
      choices: fc.array(fc.record({ text: words, sets: value }), { minLength: 2, maxLength: 4 }),
    }),
  );

  it('has that rule for its code, and for all others what it had', () => {
    fc.assert(
      fc.property(fc.constantFrom(...old.parameters), rule, ({ code }, wanted) => {
        const before = read(text);
        const after = read(withRule(text, 'old', code, wanted));
        expect(after.byOld.get(code)).toMatchObject({ does: wanted.does, why: wanted.why });
        const others = (all: typeof before) => [...all.byOld].filter(([each]) => each !== code);
        expect(new Map(others(after))).toEqual(new Map(others(before)));
        expect(after.byFresh).toEqual(before.byFresh);
        // Taken out again, nothing of it is left.
        const gone = read(withRule(withRule(text, 'old', code, wanted), 'old', code, null));
        expect(gone.byOld.has(code)).toBe(false);
      }),
      { ...SEEDED, numRuns: 40 },
    );
  });

  it('keeps what a person has written around it', () => {
    const [first] = old.parameters;
    const comments = (from: string) => from.split('\n').filter((line) => line.trim().startsWith('#'));
    const changed = withRule(text, 'old', first?.code ?? '', { does: 'left', why: 'so' });
    expect(comments(changed)).toEqual(comments(text));
  });
});

it('begins empty for a pair of which nobody has written anything', () => {
  const [old, fresh] = [modelNamed('toreka-c1@1'), modelNamed('halvern-hn64@1')];
  const text = emptyCrossReference(old, fresh);
  const read = readCrossReference(text, old, fresh);
  expect(read.ok && [read.value.byOld.size, read.value.byFresh.size]).toEqual([0, 0]);
  const code = old.parameters[3]?.code ?? ('' as Code);
  const added = readCrossReference(withRule(text, 'old', code, { does: 'left', why: 'no use' }), old, fresh);
  expect(added.ok && [...added.value.byOld.keys()]).toEqual([findParameter(old, code)?.code]);
});

describe('values as somebody types them', () => {
  it('come back as they were written', () => {
    fc.assert(
      fc.property(
        fc.dictionary(fc.stringMatching(/^[0-9A-Z]{2,4}$/), fc.stringMatching(/^[0-9]{1,3}(\.[0-9])?$/), {
          maxKeys: 5,
        }),
        (values) => {
          expect(readShownValues(showShownValues(values))).toEqual({ ...values });
        },
      ),
      SEEDED,
    );
  });

  it.each(['05C', '05C =', '05C = 1; 064', '05C = 1; 05C = 2', '= 4'])(
    'are refused whole where a piece is odd: %s',
    (text) => {
      expect(readShownValues(text)).toBeUndefined();
    },
  );
});
