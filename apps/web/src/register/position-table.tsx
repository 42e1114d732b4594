// The register as a table: sorted by a press on a heading, thousands of rows of which only those in sight are drawn.

import type { PositionView, RegisterSort } from '@drive-keep/api';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { showAge, showTime } from '../words/dates.ts';
import { STATE_SHAPES } from '../words/state-shapes.ts';
import { FindingMark } from './finding-mark.tsx';
import type { RegisterAddress } from './register-address.ts';
import { useSelection } from './selection.ts';

const ROW_HEIGHT = 34;
/** Rows before the end at which more are asked for. */
const AHEAD = 40;
const GRID =
  'grid grid-cols-[2rem_8rem_minmax(12rem,1.4fr)_minmax(12rem,1fr)_11rem_5.5rem_12rem_6.5rem] items-center gap-x-3 min-w-[70rem]';

const HEADINGS: readonly { readonly name: string; readonly sort?: RegisterSort }[] = [
  { name: 'Tag', sort: 'tag' },
  { name: 'Duty' },
  { name: 'Place', sort: 'plant' },
  { name: 'Unit', sort: 'model' },
  { name: 'Criticality' },
  { name: 'State', sort: 'state' },
  { name: 'Backup', sort: 'backup' },
];

export function PositionTable({
  positions,
  total,
  more,
  mayChoose,
  address,
}: {
  positions: readonly PositionView[];
  total: number;
  more: () => void;
  mayChoose: boolean;
  address: RegisterAddress;
}) {
  const [top, setTop] = useState(0);
  const frame = useCallback((node: HTMLDivElement | null) => setTop(node?.offsetTop ?? 0), []);
  const virtual = useWindowVirtualizer({
    count: positions.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: top,
  });
  const rows = virtual.getVirtualItems();
  const last = rows.at(-1)?.index ?? 0;
  useEffect(() => {
    if (positions.length < total && last + AHEAD >= positions.length) more();
  }, [last, positions.length, total, more]);
  return (
    <div role="table" aria-label="Positions" aria-rowcount={total} className="mt-4 overflow-x-auto">
      <div role="row" className={`${GRID} border-b border-rule pb-1 text-sm text-soft`}>
        <span role="columnheader" aria-label="Choose" />
        {HEADINGS.map(({ name, sort }) => (
          <Heading key={name} name={name} sort={sort} address={address} />
        ))}
      </div>
      <div ref={frame} className="relative" style={{ height: virtual.getTotalSize() }}>
        {rows.map(({ index, start }) => {
          const position = positions[index];
          if (!position) return null;
          return (
            <div
              key={position.tag}
              role="row"
              aria-rowindex={index + 1}
              data-position={position.tag}
              className={`${GRID} absolute w-full border-b border-rule`}
              style={{ height: ROW_HEIGHT, top: start - top }}
            >
              <Cells position={position} mayChoose={mayChoose} />
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Heading({
  name,
  sort,
  address,
}: {
  name: string;
  sort: RegisterSort | undefined;
  address: RegisterAddress;
}) {
  if (!sort) return <span role="columnheader">{name}</span>;
  const on = (address.value('sort') || 'plant') === sort;
  const backwards = on && address.value('backwards') === 'yes';
  const press = () =>
    address.change({ sort: sort === 'plant' ? '' : sort, backwards: on && !backwards ? 'yes' : '' });
  return (
    <span role="columnheader" aria-sort={on ? (backwards ? 'descending' : 'ascending') : 'none'}>
      <button
        type="button"
        onClick={press}
        className={`py-1 hover:underline ${on ? 'font-semibold text-ink' : ''}`}
      >
        {name} {on && (backwards ? '↑' : '↓')}
      </button>
    </span>
  );
}

function Cells({ position, mayChoose }: { position: PositionView; mayChoose: boolean }) {
  const chosen = useSelection(({ tags }) => tags.has(position.tag));
  const toggle = useSelection((selection) => selection.toggle);
  const { state, unit } = position;
  const ground =
    state.attention === 'stop' ? 'bg-stop-wash' : state.attention === 'look' ? 'bg-look-wash' : '';
  return (
    <>
      <span role="cell" className="grid place-items-center">
        {mayChoose && (
          <input
            type="checkbox"
            className="size-4.5 accent-plum"
            checked={chosen}
            onChange={() => toggle(position.tag)}
            aria-label={`Choose ${position.tag}`}
          />
        )}
      </span>
      <span role="cell">
        <Link to={`/positions/${position.tag}`} className="font-mono font-semibold hover:underline">
          {position.tag}
        </Link>
      </span>
      <span role="cell" className="truncate" title={position.duty}>
        {position.duty}
      </span>
      <span role="cell" className="truncate text-soft" title={`${position.area}, ${position.machine}`}>
        {position.area}, {position.machine}
      </span>
      <span role="cell" className="truncate" title={`${unit.maker} ${unit.model} ${unit.rating}`}>
        {unit.model} <span className="text-soft">{unit.rating}</span>
      </span>
      <span role="cell" className={position.criticality === 'high' ? 'font-semibold' : 'text-soft'}>
        {position.criticality}
      </span>
      <span role="cell" className={`truncate rounded px-1.5 ${ground}`} title={state.text}>
        <span aria-hidden="true">{STATE_SHAPES[state.kind]}</span> {state.text}
        <FindingMark position={position} />
      </span>
      <span
        role="cell"
        className="text-soft"
        title={position.newestBackup ? showTime(position.newestBackup) : 'never backed up'}
      >
        {position.newestBackup ? showAge(position.newestBackup) : 'never'}
      </span>
    </>
  );
}
