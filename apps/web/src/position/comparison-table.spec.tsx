import { describe, expect, it, jest } from '@jest/globals';
import type { ComparisonRowView, ComparisonView } from '@drive-keep/api';
import { describeChange, differenceOf } from '@drive-keep/core/compare';
import { defaultOf, factsOf, findMeaning, limitsOf } from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';
import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { queryClient } from '../api/queries.ts';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { ComparisonTable } from './comparison-table.tsx';

const dictionary = shippedDictionary();
const facts = factsOf(dictionary, { rating: 'HN64-15', region: '50-hz' }) ?? {};
const side = { reference: 'baseline', title: 'Baseline', at: null, hash: '' };

function row(meaning: string, a: Reading | undefined, b: Reading | undefined): ComparisonRowView {
  const parameter = findMeaning(dictionary, meaning);
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
  row('preset.3', 1200, 900),
  row('stop.mode', 0, 1),
  row('protect.warningsAsFaults', 1, { unreadable: 'refused' }),
  row('restart.faults', 6, 10),
];

function show(find = '', marks: ReadonlySet<string> | null = new Set()) {
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
  const toggleMark = jest.fn<(code: string) => void>();
  queryClient.setQueryData([`positions/KL1-RD-07/parameters/${ROWS[0]?.code ?? ''}/history`], []);
  render(
    <QueryClientProvider client={queryClient}>
      <ComparisonTable
        tag="KL1-RD-07"
        comparison={comparison}
        dictionary={dictionary}
        find={find}
        marks={marks}
        toggleMark={toggleMark}
      />
    </QueryClientProvider>,
  );
  const lines = screen.queryAllByRole('row').filter((each) => each.dataset['code'] !== undefined);
  return { toggleMark, lines };
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

  it('moves with the arrow keys, opens with Enter and marks with p', () => {
    const { lines, toggleMark } = show();
    const [first, second] = lines;
    first?.focus();
    fireEvent.keyDown(first as HTMLElement, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(second);
    fireEvent.keyDown(second as HTMLElement, { key: 'ArrowUp' });
    fireEvent.keyDown(first as HTMLElement, { key: 'p' });
    expect(toggleMark.mock.calls).toEqual([[ROWS[0]?.code]]);
    fireEvent.keyDown(first as HTMLElement, { key: 'Enter' });
    expect(first?.getAttribute('aria-expanded')).toBe('true');
    expect(screen.getByText('Time from standstill to base frequency.')).toBeTruthy();
  });

  it('is filtered by code, name, other names and words of the change', () => {
    expect(codesOf(show('acceleration').lines)).toEqual([ROWS[0]?.code]);
    expect(codesOf(show('coast').lines)).toEqual([ROWS[2]?.code]);
    expect(codesOf(show('ramp up').lines)).toEqual([ROWS[0]?.code]);
    show('warp drive');
    expect(screen.getByText(/No row has “warp drive”/)).toBeTruthy();
  });

  it('offers no marks where nothing can be put back', () => {
    expect(show('', null).lines.flatMap((line) => within(line).queryAllByRole('checkbox'))).toEqual([]);
    const marked = show().lines.map((line) => within(line).queryAllByRole('checkbox').length);
    expect(marked).toEqual([1, 1, 1, 1, 1]);
  });
});
