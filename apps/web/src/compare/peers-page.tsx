// Drives of the same duty side by side: agreement folded away, the odd one out marked by how rare its value is.

import type { PeerRowView, PeersView } from '@drive-keep/api';
import {
  findParameter,
  PURPOSES,
  type Dictionary,
  type Parameter,
  type Purpose,
} from '@drive-keep/core/dictionary';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useDictionary, usePeerGroups, usePeers } from '../api/queries.ts';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { CompareHead } from './compare-head.tsx';
import { showReading } from '../words/readings.ts';
import { PURPOSE_NAMES } from '@drive-keep/api';

export function PeersPage() {
  const [params, setParams] = useSearchParams();
  const { data: groups = [] } = usePeerGroups();
  const tags = params.get('positions') ?? groups[0]?.tags.join(',') ?? '';
  const { data: peers, error } = usePeers(tags);
  const { data: dictionary } = useDictionary(peers?.dictionary);
  const chosen = groups.find((group) => group.tags.join(',') === tags);
  return (
    <Page title="Compare">
      <CompareHead>
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
        {peers && (
          <span className="text-sm text-soft">
            {peers.rows.length} parameters on which they do not all agree, {peers.agreed} on which they do,{' '}
            {peers.leftOut} left out
          </span>
        )}
      </CompareHead>
      {error && (
        <div className="mt-3">
          <ProblemNotice error={error} />
        </div>
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
const NAME_WIDTH = 300;
const USUAL_WIDTH = 150;
const COLUMN_WIDTH = 118;

/** Only the rows in sight are drawn: forty drives of five hundred parameters scroll without a stop. */
function PeerTable({ peers, dictionary }: { peers: PeersView; dictionary: Dictionary }) {
  const frame = useRef<HTMLDivElement>(null);
  const items = useMemo(() => itemsOf(peers, dictionary), [peers, dictionary]);
  const counts = useMemo(
    () => peers.columns.map((_, at) => peers.rows.filter(({ odd }) => odd.includes(at)).length),
    [peers],
  );
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  if (items.length === 0) return <p className="mt-6 text-soft">They agree on everything.</p>;
  const grid = {
    gridTemplateColumns: `${NAME_WIDTH}px ${USUAL_WIDTH}px repeat(${peers.columns.length}, ${COLUMN_WIDTH}px)`,
  };
  const width = NAME_WIDTH + USUAL_WIDTH + COLUMN_WIDTH * peers.columns.length;
  return (
    <div
      ref={frame}
      role="table"
      aria-label="Peers side by side"
      aria-rowcount={items.length}
      tabIndex={0}
      className="mt-4 h-[calc(100vh-10.5rem)] min-h-80 overflow-auto text-sm"
    >
      <div role="row" className="sticky top-0 z-20 grid bg-ground" style={{ ...grid, width }}>
        <span role="columnheader" className="sticky left-0 z-10 bg-ground self-end pb-1 text-soft">
          Parameter
        </span>
        <span role="columnheader" className="self-end px-3 pb-1 text-soft">
          Most hold
        </span>
        {peers.columns.map(({ tag, duty }, at) => (
          <span role="columnheader" key={tag} className="px-2 pb-1" title={duty}>
            <Link to={`/positions/${tag}`} className="font-mono whitespace-nowrap hover:underline">
              {tag}
            </Link>
            <span className={`block text-xs ${counts[at] ? 'font-semibold' : 'text-soft'}`}>
              {counts[at] ? `◆ ${counts[at]} odd` : '✓'}
            </span>
          </span>
        ))}
      </div>
      <div className="relative" style={{ height: virtual.getTotalSize(), width }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const item = items[index];
          if (!item) return null;
          const place = { top: start, height: ROW_HEIGHT, width };
          return item.kind === 'group' ? (
            <div key={item.purpose} role="row" className="absolute" style={place}>
              <span role="rowheader" className="sticky left-0 block w-fit pt-2 font-semibold">
                {PURPOSE_NAMES[item.purpose]}
              </span>
            </div>
          ) : (
            <div
              key={item.row.code}
              role="row"
              data-code={item.row.code}
              className="absolute grid items-stretch border-t border-rule"
              style={{ ...grid, ...place }}
            >
              <PeerLine row={item.row} parameter={item.parameter} peers={peers} />
            </div>
          );
        })}
      </div>
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
}: {
  row: PeerRowView;
  parameter: Parameter;
  peers: PeersView;
}) {
  const odd = new Set(row.odd);
  return (
    <>
      <span
        role="rowheader"
        className="sticky left-0 z-10 truncate bg-ground py-1 pr-3"
        title={parameter.name}
      >
        <span className="font-mono">{row.code}</span>{' '}
        <Link
          to={`/positions/${peers.columns[row.odd[0] ?? 0]?.tag ?? ''}/parameters/${encodeURIComponent(row.code)}?peers=yes`}
          className="hover:underline"
        >
          {parameter.name}
        </Link>
      </span>
      <span role="cell" className="truncate px-3 py-1 font-mono">
        {row.usual === null ? (
          <span className="font-sans text-soft">{row.odd.length === 0 ? 'each its own' : 'no majority'}</span>
        ) : (
          showReading(parameter, row.usual)
        )}
      </span>
      {row.readings.map((reading, at) => {
        const text = showReading(parameter, reading);
        const count = Math.round((row.shares[at] ?? 1) * row.readings.length);
        return (
          <span
            role="cell"
            key={peers.columns[at]?.tag}
            className={`truncate px-2 py-1 font-mono ${odd.has(at) ? 'bg-look-wash font-semibold' : 'text-soft'}`}
            title={`${text}: ${count} of ${row.readings.length} hold this`}
          >
            {odd.has(at) && <span aria-label="odd one out">◆ </span>}
            {text}
          </span>
        );
      })}
    </>
  );
});
