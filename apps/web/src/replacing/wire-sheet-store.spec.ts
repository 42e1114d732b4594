import { expect, it } from '@jest/globals';
import type { ReplacementView } from '@drive-keep/api';
import { unsentTicks, useWireSheets } from './wire-sheet-store.ts';

const AT = { mine: '2026-03-01T08:00:00.000Z', theirs: '2026-03-01T08:05:00.000Z' };
const LINE = 'off 3 7';

/** What the server says when somebody else's word of the line is the last. */
const heard = {
  ...{ id: 'r1', tag: 'BP-AG-03', duty: '', state: 'open', old: { model: 'HN20', serial: '1' } },
  sayings: [
    {
      ...{ part: 'task', line: LINE, id: '9', value: { kind: 'done', note: '' }, by: 'somebody' },
      ...{ at: AT.theirs, toldAt: AT.theirs, other: null },
    },
  ],
} as unknown as ReplacementView;

it('keeps what it has not brought, and takes what the server says of it once it has', () => {
  const store = useWireSheets.getState;
  const own = () => {
    const sheet = store().byId.r1;
    if (!sheet) throw new Error('The sheet is not there.');
    return sheet;
  };
  store().hear({ ...heard, sayings: [] }, []);
  store().tick('r1', LINE, 'cut', AT.mine);
  store().hear(heard, []);
  expect([own().ticks[LINE]?.note, unsentTicks(own()).length]).toEqual(['cut', 1]);
  store().hear(heard, unsentTicks(own()));
  expect([own().ticks[LINE], unsentTicks(own())]).toMatchObject([
    { note: '', by: 'somebody', sent: true },
    [],
  ]);
});
