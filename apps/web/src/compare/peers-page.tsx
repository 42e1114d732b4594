// Drives of the same duty side by side: agreement folded away, the odd one out marked by how rare its value is.

import type { PeerRowView, PeersView } from '@drive-keep/api';
import {
  findParameter,
  PURPOSES,
  type Dictionary,
  type Parameter,
  type Purpose,
} from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef, type RefObject } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useDictionary, usePeerGroups, usePeers } from '../api/queries.ts';
import { Choice } from '../ui/choice.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Page } from '../ui/page.tsx';
import { CompareHead } from './compare-head.tsx';
import { showReading } from '../words/readings.ts';
import { PURPOSE_NAMES } from '@drive-keep/api';

export function PeersPage() {
  const [params, setParams] = useSearchParams();
  const { data: groups, error: noGroups } = usePeerGroups();
  const tags = params.get('positions') ?? groups?.[0]?.tags.join(',') ?? '';
  const { data: peers, error } = usePeers(tags);
  const { data: dictionary } = useDictionary(peers?.dictionary);
  const chosen = groups?.find((group) => group.tags.join(',') === tags);
  return (
    <Page title="Compare">
      <CompareHead>
        {groups && (
          <Choice
            label="Drives of the same duty"
            value={chosen?.name ?? ''}
            onChange={({ target }) => {
              const group = groups.find(({ name }) => name === target.value);
              if (group) setParams({ positions: group.tags.join(',') });
            }}
            options={[
              ...(chosen ? [] : [{ id: '', name: 'your own choice' }]),
              ...groups.map(({ name }) => ({ id: name, name })),
            ]}
          />
        )}
        {peers && (
          <span className="text-sm text-soft">
            {peers.rows.length === 1 ? '1 parameter' : `${peers.rows.length} parameters`} on which they do not
            all agree, {peers.agreed} on which they do, {peers.leftOut} left out
          </span>
        )}
      </CompareHead>
      {groups?.length === 0 && tags === '' ? (
        <Nothing>
          No machine has two drives of one model yet. Name any drives in the address of this page.
        </Nothing>
      ) : (
        (!peers || !dictionary) && <Unanswered error={error ?? noGroups} what="the drives of the same duty" />
      )}
      {peers && peers.versions.length > 1 && (
        <p className="mt-2 text-sm">
          Of several versions of one model: {peers.versions.join(', ')}. What they do not count alike is left
          out.
        </p>
      )}
      {peers && peers.withoutBackup.length > 0 && (
        <p className="mt-2 text-sm">Without a backup: {peers.withoutBackup.join(', ')}.</p>
      )}
      {peers && dictionary && <PeerTable peers={peers} dictionary={dictionary} />}
    </Page>
  );
}

type Item =
  | { readonly kind: 'group'; readonly purpose: Purpose }
  | { readonly kind: 'row'; readonly row: PeerRowView; readonly parameter: Parameter };

const ROW_HEIGHT = 30;
/** Name of the parameter, and what most hold. */
const COLUMNS_BEFORE = 2;
const NAME_WIDTH = 260;
const USUAL_WIDTH = 130;
const COLUMN_WIDTH = 104;
/** The names stay in sight while the columns move. */
const NAME = 'sticky left-0 z-10 block bg-ground';

interface Column {
  /** Place in the list of peers. */
  readonly at: number;
  readonly left: number;
  /** Place in the table, counted from 1, for screen readers. */
  readonly place: number;
}

/** Only the rows in sight are drawn: forty drives of five hundred parameters scroll without a stop. */
function PeerTable({ peers, dictionary }: { peers: PeersView; dictionary: Dictionary }) {
  const frame = useRef<HTMLDivElement>(null);
  const items = useMemo(() => itemsOf(peers, dictionary), [peers, dictionary]);
  const counts = useMemo(
    () => peers.columns.map((_, at) => peers.rows.filter(({ odd }) => odd.includes(at)).length),
    [peers],
  );
  // Who stands out comes first: with forty columns nobody would find it at the right end.
  const order = useMemo(
    () => peers.columns.map((_, at) => at).sort((a, b) => (counts[b] ?? 0) - (counts[a] ?? 0)),
    [peers, counts],
  );
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 4,
  });
  const shown = useColumnsInSight(frame, order);
  if (items.length === 0) return <p className="mt-6 text-soft">They agree on everything.</p>;
  const width = NAME_WIDTH + USUAL_WIDTH + COLUMN_WIDTH * peers.columns.length;
  return (
    <div
      ref={frame}
      role="table"
      aria-label="Peers side by side"
      aria-rowcount={items.length + 1}
      aria-colcount={peers.columns.length + COLUMNS_BEFORE}
      tabIndex={0}
      className="mt-4 h-[calc(100vh-10.5rem)] min-h-80 overflow-auto bg-ground text-sm"
    >
      <PeerHead peers={peers} shown={shown} counts={counts} width={width} />
      <div className="relative" style={{ height: virtual.getTotalSize(), width }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const item = items[index];
          if (!item) return null;
          const place = { top: start, height: ROW_HEIGHT, width };
          return item.kind === 'group' ? (
            <div key={item.purpose} role="row" aria-rowindex={index + 2} className="absolute" style={place}>
              <span role="rowheader" className="sticky left-0 block w-fit pt-2 font-semibold">
                {PURPOSE_NAMES[item.purpose]}
              </span>
            </div>
          ) : (
            <div
              key={item.row.code}
              role="row"
              aria-rowindex={index + 2}
              data-code={item.row.code}
              className="absolute border-t border-rule"
              style={place}
            >
              <PeerLine row={item.row} parameter={item.parameter} peers={peers} shown={shown} />
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Columns in sight, as places in the list of peers. The array changes only when other columns come into sight. */
function useColumnsInSight(
  frame: RefObject<HTMLDivElement | null>,
  order: readonly number[],
): readonly Column[] {
  const across = useVirtualizer({
    horizontal: true,
    count: order.length,
    getScrollElement: () => frame.current,
    estimateSize: () => COLUMN_WIDTH,
    paddingStart: NAME_WIDTH + USUAL_WIDTH,
    overscan: 1,
  });
  const items = across.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? -1];
  return useMemo(
    () =>
      order.slice(first, last + 1).map((at, index) => ({
        at,
        left: NAME_WIDTH + USUAL_WIDTH + (first + index) * COLUMN_WIDTH,
        place: COLUMNS_BEFORE + first + index + 1,
      })),
    [order, first, last],
  );
}

function PeerHead({
  peers,
  shown,
  counts,
  width,
}: {
  peers: PeersView;
  shown: readonly Column[];
  counts: readonly number[];
  width: number;
}) {
  return (
    <div role="row" aria-rowindex={1} className="sticky top-0 z-20 h-11 bg-ground" style={{ width }}>
      <span
        role="columnheader"
        aria-colindex={1}
        className={`${NAME} bottom-0 pt-5 text-soft`}
        style={{ width: NAME_WIDTH }}
      >
        Parameter
      </span>
      <span
        role="columnheader"
        aria-colindex={2}
        className="absolute top-5 px-3 text-soft"
        style={{ left: NAME_WIDTH }}
      >
        Most hold
      </span>
      {shown.map(({ at, left, place }) => {
        const column = peers.columns[at];
        if (!column) return null;
        return (
          <span
            role="columnheader"
            aria-colindex={place}
            key={column.tag}
            className="absolute top-0 px-2"
            style={{ left, width: COLUMN_WIDTH }}
            title={column.duty}
          >
            <Link to={`/positions/${column.tag}`} className="font-mono whitespace-nowrap hover:underline">
              {column.tag}
            </Link>
            <span className={`block text-xs ${counts[at] ? 'font-semibold' : 'text-soft'}`}>
              {counts[at] ? `◆ ${counts[at]} odd` : '✓'}
            </span>
          </span>
        );
      })}
    </div>
  );
}

function itemsOf(peers: PeersView, dictionary: Dictionary): readonly Item[] {
  const lines = peers.rows.flatMap((row) => {
    const parameter = findParameter(dictionary, row.code);
    return parameter ? [{ kind: 'row' as const, row, parameter }] : [];
  });
  return PURPOSES.flatMap((purpose): readonly Item[] => {
    const own = lines.filter(({ parameter }) => parameter.purpose === purpose);
    return own.length === 0 ? [] : [{ kind: 'group', purpose }, ...own];
  });
}

const PeerLine = memo(function PeerLine({
  row,
  parameter,
  peers,
  shown,
}: {
  row: PeerRowView;
  parameter: Parameter;
  peers: PeersView;
  shown: readonly Column[];
}) {
  return (
    <>
      <PeerName row={row} parameter={parameter} peers={peers} />
      {shown.map(({ at, left, place }) => (
        <PeerCell
          key={at}
          place={place}
          parameter={parameter}
          reading={row.readings[at] ?? null}
          holders={Math.round((row.shares[at] ?? 1) * row.readings.length)}
          of={row.readings.length}
          isOdd={row.odd.includes(at)}
          left={left}
        />
      ))}
    </>
  );
});

/** What stays while the columns move: which parameter it is, and what most of them hold. */
const PeerName = memo(function PeerName({
  row,
  parameter,
  peers,
}: {
  row: PeerRowView;
  parameter: Parameter;
  peers: PeersView;
}) {
  const tag = peers.columns[row.odd[0] ?? 0]?.tag ?? '';
  return (
    <>
      <span
        role="rowheader"
        aria-colindex={1}
        className={`${NAME} h-full truncate py-1 pr-3`}
        style={{ width: NAME_WIDTH }}
        title={parameter.name}
      >
        <span className="font-mono">{row.code}</span>{' '}
        <Link
          to={`/positions/${tag}/parameters/${encodeURIComponent(row.code)}?peers=yes`}
          className="hover:underline"
        >
          {parameter.name}
        </Link>
      </span>
      <span
        role="cell"
        aria-colindex={2}
        className="absolute top-0 truncate px-3 py-1 font-mono"
        style={{ left: NAME_WIDTH, width: USUAL_WIDTH }}
      >
        {row.usual === null ? (
          <span className="font-sans text-soft">{row.odd.length === 0 ? 'each its own' : 'no majority'}</span>
        ) : (
          showReading(parameter, row.usual)
        )}
      </span>
    </>
  );
});

/** Drawn once: while the columns move, only those that come into sight are new. */
const PeerCell = memo(function PeerCell({
  parameter,
  reading,
  holders,
  of,
  isOdd,
  left,
  place,
}: {
  parameter: Parameter;
  reading: Reading | null;
  /** How many of the peers hold the same as this one. */
  holders: number;
  of: number;
  isOdd: boolean;
  left: number;
  place: number;
}) {
  const text = showReading(parameter, reading);
  return (
    <span
      role="cell"
      aria-colindex={place}
      className={`absolute inset-y-0 truncate px-2 py-1 font-mono ${isOdd ? 'bg-look-wash font-semibold' : 'text-soft'}`}
      style={{ left, width: COLUMN_WIDTH }}
      title={`${text}: ${holders} of ${of} hold this`}
    >
      {isOdd && <span aria-label="odd one out">◆ </span>}
      {text}
    </span>
  );
});
