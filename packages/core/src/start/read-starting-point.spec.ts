import { describe, expect, it } from '@jest/globals';
import { describe as say } from '../findings/index.ts';
import { allPoints, pointTexts } from '../testing/index.ts';
import { vocabulary } from '../testing/shipped-bridge.ts';
import { readStartingPoint } from './index.ts';

const BELT = pointTexts['belt-presets'] ?? '';
const lineOf = (text: string, piece: string): number => text.slice(0, text.indexOf(piece)).split('\n').length;

/** What is wrong with the belt when one piece of its file is another; the first line of each fault. */
function faultsWith(piece: string, other: string): readonly { line: number | undefined; text: string }[] {
  expect(BELT).toContain(piece);
  const read = readStartingPoint(BELT.replace(piece, other), vocabulary);
  return read.ok ? [] : read.fault.map((each) => ({ line: each.line, text: say(each) }));
}

describe('the file of a starting point', () => {
  it('is read whole, each of them that is shipped', () => {
    expect(allPoints.map(({ id }) => id)).toEqual(Object.keys(pointTexts));
    for (const { assumes, sets, table, about } of allPoints) {
      expect(assumes.length).toBeGreaterThan(0);
      expect([...sets, ...table].every(({ why }) => why.length > 3)).toBe(true);
      expect(about).toMatch(/\.$/);
    }
  });

  it.each([
    ['load: belt', 'load: rocket', /one of belt, fan/],
    ['meaning: speed.source', 'meaning: speed.sauce', /"speed\.sauce" is not known/],
    [
      'is: source.presets',
      'is: source.magic',
      /"source\.magic" is not known here. It can be: .*source\.presets/,
    ],
    ['does: fault-reset', 'does: fault-forget', /"fault-forget" is not known/],
    ['must: stopped', 'must: dance', /one of stopped, forward/],
    ["act: ['S2 to 1', 'S1 on']", "act: ['S2 to 9', 'S1 on']", /"9" is not known here. It can be: 1, 2, 3/],
    ["act: ['S2 to 1', 'S1 on']", "act: ['S7 on']", /"S7" is not known here. It can be: S1, S2, S9/],
    ["act: ['S2 to 1', 'S1 on']", "act: ['S1 hard']", /"S1 hard" is not known/],
    ['{ reset: ', '{ restart: ', /"restart" is not known here. It can be: reset, sto/],
    ['contact: 13-14, does: fault-reset', 'contact: 33-34, does: fault-reset', /"33-34" is not known here/],
    ['contacts 13-14 closes; momentary', 'contacts 13-14 shuts; momentary', /"facts" must be|facts/],
    ['version: 1', 'version: one', /"version" must be a whole number/],
    ['version: 1', 'version: 1\ncolour: red', /"colour" is not known here/],
    ['to: $maximum', 'to: $most', /"\$most" is not known here. It can be: \$speed\.1/],
  ])('with %s as %s is refused at its line', (piece, other, said) => {
    const own = BELT.includes(piece) ? piece : piece.replaceAll("'", '');
    const faults = faultsWith(own, BELT.includes(piece) ? other : other.replaceAll("'", ''));
    const fault = faults.find(({ text }) => said.test(text));
    expect([faults.map(({ text }) => text).join(' '), fault !== undefined]).toEqual([
      expect.anything(),
      true,
    ]);
    const at = lineOf(BELT, own);
    expect(fault?.line).toBeGreaterThanOrEqual(at);
    expect(fault?.line).toBeLessThanOrEqual(at + 12);
  });

  it('tells all faults at once, and none of an empty or foreign text as a value', () => {
    const both = BELT.replace('load: belt', 'load: rocket').replace('must: stopped', 'must: dance');
    const read = readStartingPoint(both, vocabulary);
    expect(read.ok ? 0 : read.fault.length).toBeGreaterThanOrEqual(2);
    for (const text of ['', '[]', 'a: [b', 'just words', '&a [*a]'])
      expect([text, readStartingPoint(text, vocabulary).ok]).toEqual([text, false]);
  });
});
