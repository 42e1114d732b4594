import { beforeEach, describe, expect, it } from '@jest/globals';
import type { ReadOffEntry } from '@drive-keep/api';
import fc from 'fast-check';
import { NOTHING_READ, unsentOf, useReadOffStore } from './read-off-store.ts';

const TAG = 'A-1';
const store = () => useReadOffStore.getState();
const own = () => store().byTag[TAG] ?? NOTHING_READ;
const theirs = (values: Record<string, number>): ReadOffEntry[] =>
  Object.entries(values).map(([code, raw]) => ({ code, raw, by: 'X', at: '2026-11-25T08:00:00Z' }));
const raws = () => Object.fromEntries(Object.entries(own().entries).map(([code, { raw }]) => [code, raw]));

beforeEach(() => store().forget(TAG));

describe('what was read off on a device', () => {
  it('is in the storage of the browser at once', () => {
    store().enter(TAG, 7, { '1/04': 500 });
    expect(localStorage.getItem('drive-keep-read-off')).toContain('"1/04"');
  });

  it('waits until the server has it, and says what it knew before', () => {
    store().enter(TAG, 7, { a: 1 });
    expect(unsentOf(own())).toMatchObject([['a', { raw: 1, before: null }]]);
    store().hear(TAG, 7, theirs({ a: 1 }), []);
    expect(unsentOf(own())).toEqual([]);
    store().enter(TAG, 7, { a: 2 });
    store().enter(TAG, 7, { a: 3 });
    expect(unsentOf(own())).toMatchObject([['a', { raw: 3, before: 1 }]]);
  });

  it('takes over what others have entered, and never overwrites what was not sent yet', () => {
    store().enter(TAG, 7, { a: 1 });
    store().hear(TAG, 7, theirs({ a: 9, b: 2 }));
    expect(raws()).toEqual({ a: 1, b: 2 });
    expect(unsentOf(own()).map(([code]) => code)).toEqual(['a']);
  });

  it('waits for a choice where two have entered different values', () => {
    store().enter(TAG, 7, { a: 1 });
    const [theirEntry] = theirs({ a: 9 });
    if (!theirEntry) throw new Error();
    const conflict = { code: 'a', mine: 1, theirs: theirEntry };
    store().hear(TAG, 7, theirs({ a: 9 }), [conflict]);
    expect(unsentOf(own())).toEqual([]);
    store().settle(TAG, conflict, true);
    expect(unsentOf(own())).toMatchObject([['a', { raw: 1, before: 9 }]]);
    store().hear(TAG, 7, theirs({ a: 9 }), [conflict]);
    store().settle(TAG, conflict, false);
    expect([raws(), unsentOf(own())]).toEqual([{ a: 9 }, []]);
  });

  it('of another unit is not carried over', () => {
    store().enter(TAG, 7, { a: 1 });
    store().enter(TAG, 8, { b: 2 });
    expect([own().serial, raws()]).toEqual([8, { b: 2 }]);
  });

  it('ends with the values of the last touch, in whatever order hearing and entering happen', () => {
    const act = fc.oneof(
      fc.record({ kind: fc.constant('enter' as const), code: fc.constantFrom('a', 'b'), raw: fc.nat(5) }),
      fc.record({ kind: fc.constant('send' as const) }),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 25 }), (acts) => {
        store().forget(TAG);
        const last: Record<string, number> = {};
        let server: Record<string, number> = {};
        for (const each of acts) {
          if (each.kind === 'enter') {
            store().enter(TAG, 7, { [each.code]: each.raw });
            last[each.code] = each.raw;
          } else {
            const sent = unsentOf(own());
            // The server's rule: taken where it knows the value before, or has none.
            for (const [code, { raw, before }] of sent) {
              expect(code in server ? before : null).toBe(server[code] ?? null);
              server = { ...server, [code]: raw };
            }
            store().hear(TAG, 7, theirs(server), []);
          }
        }
        expect(raws()).toEqual(last);
      }),
      { seed: 640_712 },
    );
  });
});
