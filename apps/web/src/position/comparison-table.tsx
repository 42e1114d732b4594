// The comparison: rows grouped by what they are for, opened in place, chosen and decided. Up and down move, Enter opens,
// the space bar chooses, one key each decides about the row or the chosen ones, u takes a decision back, / filters.

import type { ComparisonRowView, ComparisonView, DifferenceOrigin } from '@drive-keep/api';
import {
  findParameter,
  PURPOSES,
  type Dictionary,
  type Parameter,
  type Purpose,
} from '@drive-keep/core/dictionary';
import { useRef, useState, type RefObject } from 'react';
import { PURPOSE_NAMES } from '@drive-keep/api';
import { Nothing } from '../ui/answer.tsx';
import { NONE_CHOSEN, useChosenRows } from './chosen-rows.ts';
import { ComparisonRow } from './comparison-row.tsx';
import { kindOfKey, wantsReason } from './decision-words.ts';
import type { Deciding } from './use-deciding.ts';
import { useWaiting } from './waiting.ts';

const NO_ORIGINS: ReadonlyMap<string, DifferenceOrigin> = new Map();

interface Line {
  readonly row: ComparisonRowView;
  readonly parameter: Parameter;
}

export function ComparisonTable({
  tag,
  comparison,
  dictionary,
  find,
  deciding,
  origins = NO_ORIGINS,
  does = {},
}: {
  tag: string;
  comparison: ComparisonView;
  dictionary: Dictionary;
  find: string;
  /** Nothing where this comparison leads to no decision. */
  deciding: Deciding | null;
  /** Since when the differences are there, where that is known. */
  origins?: ReadonlyMap<string, DifferenceOrigin>;
  /** What each difference does with the contacts, by code, where that is known. */
  does?: Readonly<Record<string, string>> | undefined;
}) {
  const chosen = useChosenRows(({ byTag }) => byTag[tag] ?? NONE_CHOSEN);
  const toggle = useChosenRows((state) => state.toggle);
  const [openCode, setOpenCode] = useState<string>();
  const table = useRef<HTMLDivElement>(null);
  const toggleOpen = (code: string) => setOpenCode(code === openCode ? undefined : code);
  const onKeyDown = useKeys(tag, table, deciding, toggleOpen);
  const groups = grouped(comparison.rows, dictionary, find);
  const waiting = useWaiting(tag);
  const shown = groups.reduce((sum, [, lines]) => sum + lines.length, 0);
  if (shown === 0) {
    return (
      <Nothing>
        {find === '' ? 'No differences: B holds what A holds.' : `No row has “${find}” in it.`}
      </Nothing>
    );
  }
  return (
    // The rows take the focus, one after the other.
    // eslint-disable-next-line jsx-a11y/interactive-supports-focus
    <div
      ref={table}
      onKeyDown={onKeyDown}
      role="treegrid"
      aria-label="Comparison"
      className="overflow-x-auto"
    >
      <TableHead />
      {groups.map(([purpose, lines]) => (
        <div key={purpose} role="rowgroup" className="mt-2">
          <div role="row" className="py-1 font-semibold">
            <span role="rowheader">
              {PURPOSE_NAMES[purpose]} <span className="font-normal text-soft">{lines.length}</span>
            </span>
          </div>
          {lines.map(({ row, parameter }) => (
            <ComparisonRow
              key={row.code}
              tag={tag}
              dictionary={dictionary}
              parameter={parameter}
              row={row}
              open={row.code === openCode}
              toggleOpen={() => toggleOpen(row.code)}
              decision={deciding?.byCode.get(row.code)}
              origin={origins.get(row.code)}
              does={does[row.code]}
              waits={deciding ? waiting?.find(({ codes }) => codes.includes(row.code)) : undefined}
              chosen={deciding ? chosen.has(row.code) : null}
              toggleChosen={() => toggle(tag, row.code)}
            />
          ))}
        </div>
      ))}
    </div>
  );
}

/** Up and down move, Enter opens, the space bar chooses, one key each decides about the row or the chosen ones. */
function useKeys(
  tag: string,
  table: RefObject<HTMLDivElement | null>,
  deciding: Deciding | null,
  toggleOpen: (code: string) => void,
) {
  const chosen = useChosenRows(({ byTag }) => byTag[tag] ?? NONE_CHOSEN);
  const { toggle, set: choose } = useChosenRows();
  return (event: React.KeyboardEvent) => {
    const rows = [...(table.current?.querySelectorAll<HTMLElement>('[data-code]') ?? [])];
    const at = rows.findIndex((row) => row === document.activeElement);
    const code = rows[at]?.dataset['code'];
    const kind = kindOfKey(event.key);
    if (event.key === 'ArrowDown') rows[Math.min(at + 1, rows.length - 1)]?.focus();
    else if (event.key === 'ArrowUp') rows[Math.max(at - 1, 0)]?.focus();
    else if (code && event.key === 'Enter') toggleOpen(code);
    else if (code && deciding && event.key === ' ') toggle(tag, code);
    else if (code && deciding && event.key === 'u') deciding.withdraw([code]);
    else if (code && deciding && kind) {
      const codes = chosen.size > 0 ? [...chosen] : [code];
      if (wantsReason(kind)) deciding.ask({ codes, kind });
      else deciding.decide({ codes, kind });
      choose(tag, []);
    } else return;
    event.preventDefault();
  };
}

function TableHead() {
  return (
    <div role="row" className="comparison-grid border-b border-rule pb-1 text-sm text-soft max-md:sr-only">
      <span role="columnheader" aria-label="Choose" />
      <span role="columnheader">Code</span>
      <span role="columnheader">Parameter</span>
      <span role="columnheader">
        <b className="text-ink">A</b> ▼
      </span>
      <span role="columnheader">
        <b className="text-plum">B</b> <span className="text-plum">▲</span>
      </span>
      <span
        role="columnheader"
        title="Minimum to maximum value; a hollow tick is the default; wide ranges by square root"
      >
        Range, <span className="inline-block h-3 w-1.5 border border-ink" /> default
      </span>
      <span role="columnheader">From A to B</span>
    </div>
  );
}

function grouped(
  rows: readonly ComparisonRowView[],
  dictionary: Dictionary,
  find: string,
): readonly (readonly [Purpose, readonly Line[]])[] {
  const words = find
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const lines = rows.flatMap((row) => {
    const parameter = findParameter(dictionary, row.code);
    return parameter && matches(parameter, row, words) ? [{ row, parameter }] : [];
  });
  return PURPOSES.map(
    (purpose) => [purpose, lines.filter(({ parameter }) => parameter.purpose === purpose)] as const,
  ).filter(([, each]) => each.length > 0);
}

function matches(parameter: Parameter, row: ComparisonRowView, words: readonly string[]): boolean {
  const text = [parameter.code, parameter.name, ...parameter.otherNames, ...parameter.menu, row.change]
    .join(' ')
    .toLowerCase();
  return words.every((word) => text.includes(word));
}
