import { describe, expect, it } from '@jest/globals';
import { OUTCOMES, type PositionView } from '@drive-keep/api';
import { stateOf } from './position-state.ts';

const NOW = Date.parse('2026-11-24T08:00:00Z');

const ON_LINE = { line: { name: 'gateway-1', address: 1 } } as PositionView['unit'];
const BY_HAND = { line: null } as PositionView['unit'];

const position = (change: Partial<PositionView>): PositionView =>
  ({
    tag: 'KL1-RD-01',
    retiredAt: null,
    newestIsOfUnit: true,
    drift: 0,
    tolerated: 0,
    unit: ON_LINE,
    newestBackup: '2026-11-24T02:00:00Z',
    baselineRevision: 3,
    lastTry: { outcome: 'kept', at: '2026-11-24T02:00:00Z', text: '', foundSerial: null },
    ...change,
  }) as PositionView;

const kind = (change: Partial<PositionView>) => stateOf(position(change), NOW, 36).kind;

describe('the state of a position', () => {
  it.each<[string, Partial<PositionView>, string]>([
    ['as signed', {}, 'as-signed'],
    ['drift', { drift: 4 }, 'drift'],
    ['drift of which a part is tolerated', { drift: 4, tolerated: 3 }, 'drift'],
    ['drift that is tolerated as a whole', { drift: 4, tolerated: 4 }, 'tolerated'],
    ['a unit that was swapped and not backed up since', { newestIsOfUnit: false, drift: 0 }, 'overdue'],
    [
      'a retired position, whatever else there is',
      { retiredAt: '2026-01-01T00:00:00Z', drift: 4 },
      'retired',
    ],
    ['a missed round', { newestBackup: '2026-11-22T02:00:00Z' }, 'overdue'],
    [
      'a missed round of a keypad-only unit',
      { newestBackup: '2026-11-22T02:00:00Z', unit: BY_HAND },
      'as-signed',
    ],
    [
      'a keypad-only unit read off 14 months ago',
      { newestBackup: '2025-09-20T02:00:00Z', unit: BY_HAND },
      'overdue',
    ],
    [
      'a try at a keypad-only unit',
      { lastTry: { outcome: 'no-line', at: '', text: '', foundSerial: null } },
      'as-signed',
    ],
    ['no backup', { newestBackup: null, drift: null }, 'overdue'],
    ['no baseline', { baselineRevision: null, drift: null }, 'unsigned'],
    [
      'a swapped unit',
      { lastTry: { outcome: 'other-serial', at: '', text: '', foundSerial: null }, drift: 4 },
      'other-unit',
    ],
    ['a silent unit', { lastTry: { outcome: 'no-answer', at: '', text: '', foundSerial: null } }, 'silent'],
    [
      'a try that somebody stopped',
      { lastTry: { outcome: 'stopped', at: '', text: '', foundSerial: null } },
      'as-signed',
    ],
  ])('is told for %s', (_, change, expected) => {
    expect(kind(change)).toBe(expected);
  });

  it('tells the worst first: a swapped unit before its drift', () => {
    const both = {
      drift: 4,
      lastTry: { outcome: 'other-serial', at: '', text: '', foundSerial: null },
    } as const;
    expect(stateOf(position(both), NOW, 36)).toMatchObject({ attention: 'stop', kind: 'other-unit' });
  });

  it('has a text for every outcome that a try can have', () => {
    for (const outcome of OUTCOMES) {
      const state = stateOf(position({ lastTry: { outcome, at: '', text: '', foundSerial: null } }), NOW, 36);
      expect(state.text.length).toBeGreaterThan(3);
    }
  });
});
