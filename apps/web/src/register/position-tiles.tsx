import type { PositionView } from '@drive-keep/api';
import { useEffect, useRef } from 'react';
import { PositionTile } from './position-tile.tsx';

interface Group {
  readonly area: string;
  readonly positions: readonly PositionView[];
}

/** The plant as rows of machines. Areas out of sight are not drawn; more are asked for when the end comes near. */
export function PositionTiles({
  positions,
  total,
  more,
  mayChoose,
}: {
  positions: readonly PositionView[];
  total: number;
  more: () => void;
  mayChoose: boolean;
}) {
  return (
    <>
      {byArea(positions).map((group, at) => (
        <AreaRow key={`${group.area} ${at}`} group={group} mayChoose={mayChoose} />
      ))}
      {positions.length < total && <NearTheEnd key={positions.length} reached={more} />}
    </>
  );
}

function byArea(positions: readonly PositionView[]): readonly Group[] {
  const groups: { area: string; positions: PositionView[] }[] = [];
  for (const position of positions) {
    const open = groups.at(-1);
    if (open?.area === position.area) open.positions.push(position);
    else groups.push({ area: position.area, positions: [position] });
  }
  return groups;
}

/** One area in one flow of tiles; the name of a machine stands above its first. */
function AreaRow({ group: { area, positions }, mayChoose }: { group: Group; mayChoose: boolean }) {
  return (
    <section className="mt-2 grid gap-x-3 border-t border-rule pt-1 [contain-intrinsic-size:auto_20rem] [content-visibility:auto] md:grid-cols-[6.5rem_1fr]">
      <h2 className="pt-4 font-semibold">{area}</h2>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-x-2 gap-y-1">
        {positions.map((position, at) => (
          <div key={position.tag}>
            <div className="h-4 truncate text-xs text-soft">
              {positions[at - 1]?.machine === position.machine ? '' : position.machine}
            </div>
            <PositionTile position={position} mayChoose={mayChoose} />
          </div>
        ))}
      </div>
    </section>
  );
}

function NearTheEnd({ reached }: { reached: () => void }) {
  const mark = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = mark.current;
    if (!element) return undefined;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && reached(), {
      rootMargin: '800px',
    });
    observer.observe(element);
    return () => observer.disconnect();
  });
  return (
    <div ref={mark} className="py-4 text-center text-sm text-soft">
      More …
    </div>
  );
}
