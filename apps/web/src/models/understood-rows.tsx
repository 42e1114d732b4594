// How each line of a list was understood: all of them, drawn as far as they are seen.

import type { OwnModelPreview } from '@drive-keep/api';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { SheetPart } from '../ui/page.tsx';

const ROW = 30;
const GRID =
  'grid grid-cols-[3rem_5rem_minmax(10rem,1.4fr)_8rem_9rem_5.5rem_minmax(8rem,1fr)_6.5rem] gap-x-2 px-2';

export function UnderstoodRows({ seen: { parameters, rows } }: { seen: OwnModelPreview }) {
  const box = useRef<HTMLDivElement>(null);
  const drawn = useVirtualizer({
    count: parameters.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const stopped = parameters.filter((each) => each.stopped).length;
  const state = `${rows} parameters${stopped > 0 ? `, ${stopped} to be mended` : ''}`;
  if (parameters.length === 0)
    return (
      <SheetPart name="Understood as" state={state}>
        {' '}
      </SheetPart>
    );
  return (
    <SheetPart name="Understood as" state={state}>
      <div
        ref={box}
        className="max-h-80 overflow-auto rounded border border-rule text-sm"
        role="region"
        tabIndex={0}
        aria-label="How it was understood"
      >
        <div className="min-w-[58rem]" role="table" aria-rowcount={parameters.length + 1}>
          <div className={`${GRID} sticky top-0 z-10 bg-sheet py-1 text-soft`} role="row">
            {['Line', 'Code', 'Name', 'Menu', 'Range', 'Default', 'Unit or options', 'Access'].map((name) => (
              <span key={name} role="columnheader">
                {name}
              </span>
            ))}
          </div>
          <div style={{ height: drawn.getTotalSize() }} className="relative" role="rowgroup">
            {drawn.getVirtualItems().map(({ index, start }) => {
              const each = parameters[index];
              if (!each) return null;
              return (
                <div
                  key={`${each.line} ${each.code}`}
                  role="row"
                  aria-rowindex={index + 2}
                  style={{ transform: `translateY(${start}px)`, height: ROW }}
                  className={`${GRID} absolute inset-x-0 top-0 items-center border-t border-rule ${each.stopped ? 'bg-stop-wash' : ''}`}
                >
                  <span role="cell" className="text-soft">
                    {each.line}
                    {each.stopped && <span className="sr-only">, to be mended</span>}
                  </span>
                  <span role="cell" className="truncate font-mono font-semibold">
                    {each.code}
                  </span>
                  <span role="cell" className="truncate" title={each.name}>
                    {each.name}
                  </span>
                  <span role="cell" className="truncate text-soft" title={each.menu}>
                    {each.menu}
                  </span>
                  <span role="cell" className="truncate font-mono">
                    {each.range.replaceAll('?', 'not told')}
                  </span>
                  <span role="cell" className="truncate font-mono">
                    {each.default === '?' ? 'not told' : each.default || '–'}
                  </span>
                  <span role="cell" className="truncate" title={each.options || each.unit}>
                    {each.options || each.unit}
                  </span>
                  <span role="cell" className="truncate">
                    {each.access || 'asked'}
                  </span>
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </SheetPart>
  );
}
