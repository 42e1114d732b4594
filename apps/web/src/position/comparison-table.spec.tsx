import { meaningOf } from '@drive-keep/core/values';
import { describe, expect, it } from '@jest/globals';
import type { ComparisonRowView, ComparisonView, DecisionView } from '@drive-keep/api';
import { describeChange, differenceOf } from '@drive-keep/core/compare';
import { defaultOf, factsOf, findMeaning, limitsOf } from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';
import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { queryClient } from '../api/queries.ts';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { MemoryRouter } from 'react-router';
import { ComparisonTable } from './comparison-table.tsx';
import type { Deciding } from './use-deciding.ts';

const dictionary = shippedDictionary();
const facts = factsOf(dictionary, { rating: 'HN64-15', region: '50-hz' }) ?? {};
const side = { reference: 'baseline', lastingReference: 'baseline:1', title: 'Baseline', at: null, hash: '' };

function row(meaning: string, a: Reading | undefined, b: Reading | undefined): ComparisonRowView {
  const parameter = findMeaning(dictionary, meaningOf(meaning));
  if (!parameter) throw new Error(meaning);
  return {
    code: parameter.code,
    a: a ?? null,
    b: b ?? null,
    ...limitsOf(parameter, facts),
    default: defaultOf(parameter, facts) ?? null,
    difference: differenceOf(parameter, a, b),
    change: describeChange(parameter, a, b),
  };
}

const ROWS = [
  row('ramp.up', 800, 2000),
  row('preset.contact.3', 1200, 900),
  row('stop.mode', 0, 1),
  row('protect.warningsAsFaults', 1, { unreadable: 'refused' }),
  row('restart.faults', 6, 10),
];

const TOLERATED: DecisionView = {
  id: '1',
  code: ROWS[1]?.code ?? '',
  kind: 'tolerate',
  reason: 'until the lens is there',
  until: '2027-03-31',
  person: 'R. Ashgrove',
  madeAt: '2026-11-01T08:00:00Z',
  wanted: 1200,
  found: 900,
};

/** Decisions as the server would keep them; what is asked of it is written down. */
function recorder() {
  const asked: string[] = [];
  const note = (what: string) => (about: unknown) => void asked.push(`${what} ${JSON.stringify(about)}`);
  const deciding: Deciding = {
    byCode: new Map([[TOLERATED.code, TOLERATED]]),
    open: [],
    draft: null,
    asking: null,
    decide: note('decide'),
    ask: note('ask'),
    withdraw: note('withdraw'),
    endToleration: note('end'),
    finish: {} as Deciding['finish'],
    error: null,
  };
  return { asked, deciding };
}

function show(find = '', decides = true) {
  cleanup();
  const comparison: ComparisonView = {
    dictionary: dictionary.id,
    a: side,
    b: side,
    rows: ROWS,
    same: 0,
    tolerated: 0,
    leftOut: 0,
    unknown: [],
  };
  const { asked, deciding } = recorder();
  queryClient.setQueryData([`positions/KL1-RD-07/parameters/${ROWS[0]?.code ?? ''}/history`], []);
  render(
    <QueryClientProvider client={queryClient}>
      <MemoryRouter>
        <ComparisonTable
          tag="KL1-RD-07"
          comparison={comparison}
          dictionary={dictionary}
          find={find}
          deciding={decides ? deciding : null}
        />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const lines = screen.queryAllByRole('row').filter((each) => each.dataset['code'] !== undefined);
  return { asked, lines };
}

const codesOf = (lines: readonly HTMLElement[]) => lines.map((line) => line.dataset['code']);

describe('the comparison', () => {
  it('groups rows by what they are for', () => {
    const { lines } = show();
    expect(screen.getAllByRole('rowheader').map((each) => each.textContent)).toEqual([
      'Ramps and limits 2',
      'Commands 1',
      'Protection 2',
    ]);
    expect(lines).toHaveLength(ROWS.length);
  });

  it('says each difference with its shape, its name and in words', () => {
    const { lines } = show();
    const said = lines.map((line) => within(line).getAllByRole('img').at(-1)?.getAttribute('aria-label'));
    expect(said).toEqual(['greater', 'another option', 'less', 'unreadable', 'other bits']);
    expect(screen.getByText('+12.00 s (×2.5)')).toBeTruthy();
    expect(screen.getByText('on: motor overload; off: undervoltage')).toBeTruthy();
  });

  it('never shows what could not be read as a value', () => {
    const { lines } = show();
    const unread = lines.find((line) => line.dataset['code'] === ROWS[3]?.code);
    expect(unread?.textContent).toContain('? refused');
    expect(unread?.textContent).not.toMatch(/\b0\b/);
  });

  it('moves with the arrow keys and opens with Enter', () => {
    const { lines } = show();
    const [first, second] = lines;
    first?.focus();
    fireEvent.keyDown(first as HTMLElement, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(second);
    fireEvent.keyDown(second as HTMLElement, { key: 'ArrowUp' });
    fireEvent.keyDown(first as HTMLElement, { key: 'Enter' });
    expect(first?.getAttribute('aria-expanded')).toBe('true');
    expect(screen.getByText('Time from standstill to base frequency.')).toBeTruthy();
  });

  it('decides with one key about one row, asks why where it has to, and undoes', () => {
    const { lines, asked } = show();
    const code = ROWS[0]?.code ?? '';
    const [first] = lines;
    first?.focus();
    for (const key of ['p', 'l', 't', 'i', 'u']) fireEvent.keyDown(first as HTMLElement, { key });
    expect(asked).toEqual([
      `decide ${JSON.stringify({ codes: [code], kind: 'put-back' })}`,
      `decide ${JSON.stringify({ codes: [code], kind: 'later' })}`,
      `ask ${JSON.stringify({ codes: [code], kind: 'tolerate' })}`,
      `ask ${JSON.stringify({ codes: [code], kind: 'take-in' })}`,
      `withdraw ${JSON.stringify([code])}`,
    ]);
  });

  it('decides about all chosen rows at once', () => {
    const { lines, asked } = show();
    for (const line of lines.slice(0, 2)) {
      line.focus();
      fireEvent.keyDown(line, { key: ' ' });
    }
    fireEvent.keyDown(lines[0] as HTMLElement, { key: 'p' });
    expect(asked).toEqual([
      `decide ${JSON.stringify({ codes: codesOf(lines.slice(0, 2)), kind: 'put-back' })}`,
    ]);
  });

  it('says what was decided, until when, by whom and why', () => {
    show();
    expect(
      screen.getByText('tolerated until 31 Mar 2027, R. Ashgrove: until the lens is there'),
    ).toBeTruthy();
  });

  it('is filtered by code, name, other names and words of the change', () => {
    expect(codesOf(show('acceleration').lines)).toEqual([ROWS[0]?.code]);
    expect(codesOf(show('coast').lines)).toEqual([ROWS[2]?.code]);
    expect(codesOf(show('ramp up').lines)).toEqual([ROWS[0]?.code]);
    show('warp drive');
    expect(screen.getByText(/No row has “warp drive”/)).toBeTruthy();
  });

  it('offers nothing to choose where nothing is decided', () => {
    expect(show('', false).lines.flatMap((line) => within(line).queryAllByRole('checkbox'))).toEqual([]);
    const marked = show().lines.map((line) => within(line).queryAllByRole('checkbox').length);
    expect(marked).toEqual([1, 1, 1, 1, 1]);
  });
});
