import type { Attention, PositionView } from '@drive-keep/api';
import { Link } from 'react-router';
import { showSpan } from '../words/dates.ts';
import { STATE_SHAPES } from '../words/state-shapes.ts';
import { FindingMark } from './finding-mark.tsx';
import { useSelection } from './selection.ts';

const GROUNDS: Readonly<Record<Attention, string>> = {
  plain: 'border-rule bg-sheet',
  look: 'border-look bg-look-wash',
  stop: 'border-stop bg-stop-wash',
};

/** One position: tag, duty and state. The whole tile opens it; the box chooses it for a backup. */
export function PositionTile({ position, mayChoose }: { position: PositionView; mayChoose: boolean }) {
  const { state } = position;
  const chosen = useSelection(({ tags }) => tags.has(position.tag));
  const toggle = useSelection((selection) => selection.toggle);
  const ring = chosen ? 'outline-2 outline-plum' : '';
  return (
    <div
      className={`relative rounded border ${GROUNDS[state.attention]} ${ring}`}
      data-position={position.tag}
    >
      <Link to={`/positions/${position.tag}`} className="block px-2 py-1 hover:underline max-lg:py-2.5">
        <div className="text-sm">
          <span className="font-mono font-semibold">{position.tag}</span> <FindingMark position={position} />
        </div>
        <div className="line-clamp-2 pr-5 text-xs leading-tight break-words" title={position.duty}>
          {position.duty}
        </div>
        <div className="mt-0.5 flex gap-1 text-xs">
          <span
            aria-hidden="true"
            className={`w-3 shrink-0 text-center font-bold ${state.attention === 'stop' ? 'text-stop' : ''}`}
          >
            {STATE_SHAPES[state.kind]}
          </span>
          <span
            title={state.text}
            className={`min-w-0 break-words ${state.attention === 'plain' ? 'text-soft' : 'font-semibold'}`}
          >
            {state.short}
          </span>
          <span className="ml-auto shrink-0 text-soft" title="Age of the newest backup">
            {position.newestBackup ? showSpan(position.newestBackup) : 'never'}
          </span>
        </div>
      </Link>
      {mayChoose && (
        <label className="absolute top-0 right-0 grid size-8 place-items-center max-lg:size-12">
          <input
            type="checkbox"
            className="size-4 accent-plum"
            checked={chosen}
            onChange={() => toggle(position.tag)}
            aria-label={`Choose ${position.tag}`}
          />
        </label>
      )}
    </div>
  );
}
