import { meaningOf } from '@drive-keep/core/values';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { LiveEvent, ParameterHistoryView, ThreeWayView } from '@drive-keep/api';
import { findMeaning } from '@drive-keep/core/dictionary';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { LiveComparison } from './live-comparison.tsx';
import { StepLines } from './step-lines.tsx';
import { ThreeWays } from './three-ways.tsx';

const dictionary = shippedDictionary();
const parameter = findMeaning(dictionary, meaningOf('ramp.up'));
if (!parameter) throw new Error('no ramp');
const side = { reference: 'x', lastingReference: 'x', title: 'Set', at: null, hash: '' };

describe('three ways', () => {
  const row = { baseline: 800, before: 800, now: 2000, origin: null };
  const origin = {
    code: '01R',
    since: '2026-07-30T10:00:00Z',
    by: 'T. P.',
    reason: 'Tiles slip',
    atSigning: true,
  };
  const DATA: ThreeWayView = {
    ...{ dictionary: dictionary.id, baseline: side, before: side, now: side },
    rows: [
      { ...row, code: '01R', way: 'new', origin },
      { ...row, code: '02R', way: 'mended', now: 800, before: 900 },
      { ...row, code: '03R', way: 'standing', now: { unreadable: 'refused' } },
    ],
  };

  it('say what happened, since when, and whether it was there at the signing', async () => {
    showScreen('/', '/', <ThreeWays tag="A-1" before="backup:1" now="newest" />, {
      'GET positions/A-1/three-ways': DATA,
      [`GET dictionaries/${dictionary.id}`]: dictionary,
    });
    await screen.findByText('Acceleration time');
    const text = (code: string) => document.querySelector(`[data-code="${code}"]`)?.textContent ?? '';
    expect(text('01R')).toMatch(
      /8\.00 s8\.00 s20\.00 s◆ came sincesince 30 Jul 2026, T\. P\.: Tiles slip; it was there at the signing/,
    );
    expect(text('02R')).toContain('is as signed again');
    expect(text('03R')).toContain('? unreadable');
  });
});

describe('the line of a parameter over time', () => {
  const histories = (
    readings: ParameterHistoryView['steps'][number]['reading'][],
  ): ParameterHistoryView[] => [
    {
      ...{ tag: 'A-1', duty: '', wanted: [{ at: '2025-01-01T00:00:00Z', reading: 800 }] },
      steps: readings.map((reading, at) => ({
        ...{ at: `2026-0${at + 1}-01T00:00:00Z`, reading, by: 'P', reason: 'x' },
      })),
    },
    {
      tag: 'A-2',
      duty: '',
      wanted: [],
      steps: [{ at: '2026-01-01T00:00:00Z', reading: 500, by: 'P', reason: '' }],
    },
  ];
  const draw = (...readings: ParameterHistoryView['steps'][number]['reading'][]) => {
    document.body.innerHTML = '';
    const { container } = render(
      <StepLines histories={histories(readings)} parameter={parameter} shown="A-1" />,
    );
    const paths = [...container.querySelectorAll('path')].map((path) => path.getAttribute('d') ?? '');
    return { own: paths.at(-1) ?? '', paths, marks: container.querySelectorAll('circle').length, container };
  };

  it('steps from value to value, and is one line', () => {
    const { own, marks, paths } = draw(800, 2000);
    expect([own.match(/M/g)?.length, own.match(/H/g)?.length, own.match(/L/g)?.length]).toEqual([1, 2, 1]);
    expect([marks, paths.length]).toEqual([2, 3]);
  });

  it('has a gap where nothing could be read, and never a zero', () => {
    const { own, marks, container } = draw(800, { unreadable: 'refused' }, null, 2000);
    expect(own.match(/M/g)).toHaveLength(2);
    expect(marks).toBe(2);
    expect(container.textContent).toContain('?');
    const heights = [...own.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map(([, y]) => Number(y));
    expect(heights[0]).toBeGreaterThan(heights[1] ?? 0);
  });
});

describe('the unit itself', () => {
  class Stream {
    static last: Stream;
    private readonly listeners = new Map<string, (event: { data: string }) => void>();
    closed = false;
    constructor(readonly url: string) {
      Stream.last = this;
    }
    addEventListener(name: string, listener: (event: { data: string }) => void): void {
      this.listeners.set(name, listener);
    }
    close(): void {
      this.closed = true;
    }
    tell(event: LiveEvent): void {
      act(() => this.listeners.get('live')?.({ data: JSON.stringify(event) }));
    }
    break(): void {
      act(() => this.listeners.get('error')?.({ data: '' }));
    }
  }
  beforeEach(() => {
    Object.assign(globalThis, { EventSource: Stream });
  });
  const show = () =>
    showScreen(
      '/',
      '/',
      <LiveComparison
        tag="A-1"
        a="baseline"
        find=""
        history={{
          backups: [],
          baselines: [],
          newest: null,
          lastThatDiffered: null,
          wirings: [],
          parts: [],
          swaps: [],
        }}
        choose={() => undefined}
      />,
      {
        'GET positions/A-1/comparison': {
          ...{ dictionary: dictionary.id, a: { ...side, title: 'Baseline' }, b: side, rows: [], same: 0 },
          ...{ tolerated: 0, leftOut: 0, unknown: [] },
        },
        'GET positions/A-1/parameters/01R/history': [],
        [`GET dictionaries/${dictionary.id}`]: dictionary,
      },
    );
  const ROW = {
    ...{ code: '01R', a: 800, b: 1500, minimum: 0, maximum: 60_000, default: 1000, change: '+7.00 s' },
    difference: { kind: 'greater', by: { digits: 700, places: 2 } },
  } as const;

  it('comes in row by row, and is read again when one wants it', async () => {
    show();
    expect(await screen.findByText(/waits for the line/)).toBeTruthy();
    Stream.last.tell({ kind: 'rows', done: 1, total: 4, rows: [ROW] });
    expect(screen.getByText(/1 of 4 requests, 1 difference so far/)).toBeTruthy();
    expect(screen.getByText('+7.00 s')).toBeTruthy();
    const first = Stream.last;
    first.tell({ kind: 'end', ok: true, text: '', at: '2026-11-25T08:00:00Z' });
    expect(first.closed).toBe(true);
    fireEvent.click(screen.getByRole('button', { name: 'Read it again' }));
    expect(Stream.last).not.toBe(first);
    expect(screen.queryByText('+7.00 s')).toBeNull();
  });

  it('says why it was not read, and that a stream broke off', async () => {
    show();
    await screen.findByText(/waits for the line/);
    Stream.last.tell({
      kind: 'end',
      ok: false,
      text: 'A-1 did not answer within 1 s.',
      at: '2026-11-25T08:00:00Z',
    });
    expect((await screen.findByRole('alert')).textContent).toContain('did not answer within 1 s');
    fireEvent.click(screen.getByRole('button', { name: 'Read it again' }));
    Stream.last.break();
    expect((await screen.findByRole('alert')).textContent).toContain('The reading broke off');
  });
});
