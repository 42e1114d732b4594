import type { PositionView } from '@drive-keep/api';
import { Link } from 'react-router';
import { showSpan } from '../words/dates.ts';
import { stateOf, type Attention } from './position-state.ts';
import { useSelection } from './selection.ts';

const GROUNDS: Readonly<Record<Attention, string>> = {
  plain: 'border-rule bg-sheet',
  look: 'border-look bg-look-wash',
  stop: 'border-stop bg-stop-wash',
};

/** One position: tag, duty and state. The whole tile opens it; the box chooses it for a backup. */
export function PositionTile({ position, mayChoose }: { position: PositionView; mayChoose: boolean }) {
  const state = stateOf(position);
  const chosen = useSelection(({ tags }) => tags.has(position.tag));
  const toggle = useSelection((selection) => selection.toggle);
  const ring = chosen ? 'outline-2 outline-plum' : '';
  return (
    <div
      className={`relative rounded border ${GROUNDS[state.attention]} ${ring}`}
      data-position={position.tag}
    >
      <Link to={`/positions/${position.tag}`} className="block px-3 py-2 pr-12 hover:underline">
        <div className="font-mono font-semibold">{position.tag}</div>
        <div className="truncate text-sm" title={position.duty}>
          {position.duty}
        </div>
        <div className="mt-1 flex gap-1.5 text-sm">
          <span
            aria-hidden="true"
            className={`w-3.5 shrink-0 text-center font-bold ${state.attention === 'stop' ? 'text-stop' : ''}`}
          >
            {state.shape}
          </span>
          <span className={`truncate ${state.attention === 'plain' ? 'text-soft' : 'font-semibold'}`}>
            {state.text}
          </span>
          <span
            className="-mr-9 ml-auto shrink-0 text-xs leading-5 text-soft"
            title="Age of the newest backup"
          >
            {position.newestBackup ? showSpan(position.newestBackup) : 'never'}
          </span>
        </div>
      </Link>
      {mayChoose && (
        <label className="absolute top-0 right-0 grid size-11 place-items-center">
          <input
            type="checkbox"
            className="size-4.5 accent-plum"
            checked={chosen}
            onChange={() => toggle(position.tag)}
            aria-label={`Choose ${position.tag}`}
          />
        </label>
      )}
    </div>
  );
}
